import Dexie, { type EntityTable } from 'dexie';
import { ApiError } from '../api/client';
import type { EntryBody } from '../entries/fields';
import { sendEntry } from '../entries/usePutEntry';

/** An entry that is on this device and not yet known to be on the server's disk. */
export interface KeptEntry {
  id: string;
  testId: string;
  body: EntryBody;
  keptAt: number;
  /** Why the server did not take it, once it has said so. */
  refused?: string;
}

const store = new Dexie('limpet-roadside') as Dexie & {
  kept: EntityTable<KeptEntry, 'id'>;
};
store.version(1).stores({ kept: 'id, testId' });

export function keptFor(testId: string): Promise<KeptEntry[]> {
  return store.kept.where('testId').equals(testId).sortBy('keptAt');
}

export function discard(entryId: string): Promise<void> {
  return store.kept.delete(entryId);
}

export type Noted = { kept: true } | { kept: false; questions: string[] };

/**
 * Notes an entry: on the device first, then on the server. With no answer it stays here; a refusal
 * takes it off again and is thrown, so that the form can show it beside its field.
 */
export async function note(testId: string, entryId: string, body: EntryBody): Promise<Noted> {
  await store.kept.put({ id: entryId, testId, body, keptAt: Date.now() });
  try {
    const stored = await sendEntry(testId, { entryId, body });
    await discard(entryId);
    return { kept: false, questions: stored.questions };
  } catch (error) {
    if (error instanceof ApiError && isRefusal(error)) {
      await discard(entryId);
      throw error;
    }
    return { kept: true };
  }
}

let sending: Promise<number> | null = null;

/** Sends what is kept, oldest first; says how many went. One run at a time. */
export function sendKept(testId: string): Promise<number> {
  sending ??= sendAll(testId).finally(() => {
    sending = null;
  });
  return sending;
}

async function sendAll(testId: string): Promise<number> {
  let sent = 0;
  for (const kept of await keptFor(testId)) {
    if (kept.refused) continue;
    try {
      await sendEntry(testId, { entryId: kept.id, body: kept.body });
      await discard(kept.id);
      sent += 1;
    } catch (error) {
      if (!(error instanceof ApiError) || !isRefusal(error)) return sent;
      await store.kept.update(kept.id, { refused: error.message });
    }
  }
  return sent;
}

/** A refusal is final; silence, a failing server or a lapsed sign-in is not. */
function isRefusal(error: ApiError): boolean {
  return [400, 404, 409, 422].includes(error.status);
}
