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
  /** Made anew with every body: what was sent may no longer be what is kept under the id. */
  version: string;
  /** Why the server did not take it, once it has said so. */
  refused?: string;
}

const store = new Dexie('limpet-roadside') as Dexie & {
  kept: EntityTable<KeptEntry, 'id'>;
};
store.version(1).stores({ kept: 'id, testId' });
store
  .version(2)
  .stores({ kept: 'id, testId' })
  .upgrade((change) =>
    change.table('kept').toCollection().modify({ version: 'kept before versions' }),
  );

export function keptFor(testId: string): Promise<KeptEntry[]> {
  return store.kept.where('testId').equals(testId).sortBy('keptAt');
}

/** Keeps an entry on this device, in place of what was kept under its id. */
export async function keep(
  entry: Pick<KeptEntry, 'id' | 'testId' | 'body'> & Partial<KeptEntry>,
): Promise<KeptEntry> {
  const kept = { keptAt: Date.now(), ...entry, version: crypto.randomUUID() };
  await store.kept.put(kept);
  return kept;
}

/** Forgets an entry whatever it says: its rider has removed it. */
export function discard(entryId: string): Promise<void> {
  return store.kept.delete(entryId);
}

/** Forgets exactly what was sent; a newer body that came under its id meanwhile stays. */
async function settle(sent: KeptEntry): Promise<void> {
  await store.transaction('rw', store.kept, async () => {
    const now = await store.kept.get(sent.id);
    if (now?.version === sent.version) await store.kept.delete(sent.id);
  });
}

/** Marks exactly what was sent as refused. */
async function markRefused(sent: KeptEntry, refused: string): Promise<void> {
  await store.transaction('rw', store.kept, async () => {
    const now = await store.kept.get(sent.id);
    if (now?.version === sent.version) await store.kept.put({ ...now, refused });
  });
}

export type Noted = { kept: true } | { kept: false; questions: string[] };

/**
 * Notes an entry: on the device first, then on the server. With no answer it stays here; a refusal
 * takes it off again and is thrown, so that the form can show it beside its field.
 */
export async function note(testId: string, entryId: string, body: EntryBody): Promise<Noted> {
  const kept = await keep({ id: entryId, testId, body });
  try {
    const stored = await sendEntry(testId, { entryId, body });
    await settle(kept);
    return { kept: false, questions: stored.questions };
  } catch (error) {
    if (error instanceof ApiError && isRefusal(error)) {
      await settle(kept);
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
      await settle(kept);
      sent += 1;
    } catch (error) {
      if (!(error instanceof ApiError) || !isRefusal(error)) return sent;
      await markRefused(kept, error.message);
    }
  }
  return sent;
}

/** A refusal is final; silence, a failing server or a lapsed sign-in is not. */
function isRefusal(error: ApiError): boolean {
  return [400, 404, 409, 413, 422].includes(error.status);
}
