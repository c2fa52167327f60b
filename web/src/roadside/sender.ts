import { ApiError, sendPlain } from '../api/client';
import type { Entry } from '../api/queries';
import { ALL_FIELDS } from '../entries/fields';
import { whoIsHere } from './acts';
import { saidBy } from './entry';
import { addTaken } from './kept';
import { type Act, ANYBODY, store, type Taken } from './store';

/** Why what is kept here has not gone: nothing to say, no answer, a failing server, a lapsed sign-in. */
export type Link = 'well' | 'silent' | 'failing' | 'signed_out';

export interface Sent {
  /** Tests of which something was taken. */
  tests: Set<string>;
  link: Link;
}

let sending: Promise<Sent> | null = null;
let again = false;

/** Sends what is kept, in the order in which it was done. One run at a time, and one more after it. */
export function sendKept(): Promise<Sent> {
  if (sending) {
    again = true;
    return sending;
  }
  sending = alone(sendAll).finally(() => {
    sending = null;
    if (again) {
      again = false;
      sendKept();
    }
  });
  return sending;
}

/** Not while another window, or the background, sends: two at once would lose the order. */
async function alone(run: () => Promise<Sent>): Promise<Sent> {
  const locks = globalThis.navigator?.locks;
  if (!locks) return run();
  return locks.request('limpet-sender', { ifAvailable: true }, (lock) =>
    lock ? run() : { tests: new Set<string>(), link: link() },
  );
}

async function sendAll(): Promise<Sent> {
  const tests = new Set<string>();
  const held = new Set<string>();
  let after = 0;
  for (;;) {
    const who = await whoIsHere();
    const act = await store.acts
      .where('seq')
      .above(after)
      .filter((one) => one.owner === who || one.owner === ANYBODY)
      .first();
    if (!act) break;
    after = act.seq;
    // What belongs to a ride that was refused waits for it.
    if (act.kind === 'start' && act.refused) held.add(act.testId);
    if (act.refused || held.has(act.testId)) continue;
    const outcome = await sendOne(act);
    if (outcome === 'changed') {
      // What was sent is not what is kept by now: the newer one goes in its place.
      after = act.seq - 1;
    } else if (outcome === 'taken') {
      tests.add(act.testId);
      tell('well');
    } else if (outcome === 'refused') {
      if (act.kind === 'start') held.add(act.testId);
    } else {
      tell(outcome);
      return { tests, link: outcome };
    }
  }
  if (link() !== 'signed_out') tell('well');
  return { tests, link: 'well' };
}

async function sendOne(act: Act): Promise<'taken' | 'changed' | 'refused' | Exclude<Link, 'well'>> {
  try {
    const answer = await sendPlain(act.sending.method, act.sending.path, act.sending.body);
    return (await settle(act, answer)) ? 'taken' : 'changed';
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    if (error.status === 0) return 'silent';
    if (error.status === 401) return 'signed_out';
    if (act.kind === 'removal' && error.status === 404) {
      // What is not there need not be taken out.
      await settle(act, undefined);
      return 'taken';
    }
    if (!isRefusal(error.status)) return 'failing';
    await markRefused(act, reasonOf(error), error.status === 409 && act.kind === 'entry');
    return 'refused';
  }
}

/** A refusal is final; silence, a failing server or too many requests are not. */
function isRefusal(status: number): boolean {
  return [400, 403, 404, 409, 413, 422].includes(status);
}

/** What is wrong, where: a field's own fault says more than the sentence over all. */
function reasonOf(error: ApiError): string {
  const faults = Object.entries(error.fields).map(([name, fault]) => {
    const label = ALL_FIELDS.find((field) => field.name === name)?.label;
    return `${label ?? name} ${fault}.`;
  });
  return faults.length > 0 ? faults.join(' ') : error.message;
}

/** Forgets exactly what was sent, and keeps what came of it; a newer body under its id stays, and is said. */
async function settle(act: Act, answer: unknown): Promise<boolean> {
  return store.transaction('rw', store.acts, store.rides, async () => {
    const now = await store.acts.get(act.seq);
    if (now?.version !== act.version) return false;
    await store.acts.delete(act.seq);
    const begun = act.shown.kind === 'start' ? act.shown.begun : null;
    await addTaken(act.owner, act.testId, takenOf(act, answer), begun);
    return true;
  });
}

function takenOf(act: Act, answer: unknown): Taken | null {
  const at = Date.now();
  const told = answer as { entry?: Entry; removed?: boolean; revision?: number } | undefined;
  const of = { id: act.id, entry: null, at, revision: told?.revision };
  if (act.kind === 'removal' || told?.removed) return of;
  if (act.kind === 'ending') return { ...of, state: 'ended' };
  if (act.kind === 'again') return { ...of, state: 'riding' };
  if (act.shown.kind !== 'entry') return null;
  const stored = told?.entry;
  if (!stored?.kind) return { ...of, entry: act.shown.entry };
  return { ...of, entry: saidBy(stored), changes: stored.changes };
}

async function markRefused(act: Act, refused: string, conflict: boolean): Promise<void> {
  await store.transaction('rw', store.acts, async () => {
    const now = await store.acts.get(act.seq);
    if (now?.version === act.version) await store.acts.put({ ...now, refused, conflict });
  });
}

const listeners = new Set<() => void>();
let current: Link = 'well';

/** How it stands with the server, for whoever shows it. */
export function link(): Link {
  return current;
}

export function onLink(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

export function tell(now: Link): void {
  if (now === current) return;
  current = now;
  for (const listener of listeners) listener();
}
