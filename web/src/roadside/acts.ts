import type { EntryBody } from '../entries/fields';
import type { Readings } from './entry';
import {
  type Act,
  ANYBODY,
  type BegunHere,
  entryPath,
  type Sending,
  type Shown,
  store,
} from './store';

type New = Pick<Act, 'id' | 'testId' | 'kind' | 'sending' | 'shown'>;

/** Whoever is signed in on this device; kept, for the sign-in itself may lapse. */
export async function rememberWho(username: string): Promise<void> {
  await store.settings.put({ key: 'who', value: username });
}

export async function whoIsHere(): Promise<string> {
  const kept = await store.settings.get('who');
  return typeof kept?.value === 'string' ? kept.value : ANYBODY;
}

/**
 * Keeps an act on this device. One that waits for the same thing is replaced where it stands, so that
 * the order in which things were done stays.
 */
async function keep(act: New): Promise<void> {
  await store.transaction('rw', store.acts, store.settings, async () => {
    const owner = await whoIsHere();
    const version = crypto.randomUUID();
    const made = { ...act, owner, version, at: Date.now(), refused: '' };
    const waiting = await store.acts.where('id').equals(act.id).last();
    if (waiting && waiting.kind === act.kind && act.kind === 'entry') {
      await store.acts.put({ ...made, seq: waiting.seq, at: waiting.at });
    } else {
      await store.acts.add(made as Act);
    }
  });
}

/** Notes an entry, or changes one. */
export function noteEntry(
  testId: string,
  entryId: string,
  body: EntryBody,
  entry: Readings,
): Promise<void> {
  const sending: Sending = { method: 'PUT', path: entryPath(testId, entryId), body };
  return keep({ id: entryId, testId, kind: 'entry', sending, shown: { kind: 'entry', entry } });
}

/** A picture of the display, kept as it will be sent; the entry that shows it comes after it. */
export async function notePhoto(
  testId: string,
  photoId: string,
  jpeg: string,
  entryId: string,
  body: EntryBody,
): Promise<void> {
  const path = `/api/tests/${testId}/photos/${photoId}`;
  const sending: Sending = { method: 'PUT', path, body: { jpeg } };
  const photo = `photos/${photoId}.jpg`;
  await keep({ id: photoId, testId, kind: 'photo', sending, shown: { kind: 'nothing' } });
  await noteEntry(testId, entryId, { ...body, photo }, { ...(body as Readings), photo });
}

/**
 * Takes an entry out; gives what brings it back. One that was refused was never there: it is forgotten.
 * Both acts have names of their own, so that neither is done twice.
 */
export async function removeEntry(
  testId: string,
  entryId: string,
  entry: Readings,
): Promise<() => Promise<void>> {
  const waiting = await store.acts.where('id').equals(entryId).last();
  if (waiting?.refused) {
    await store.acts.delete(waiting.seq);
    return () => restore(waiting);
  }
  const path = entryPath(testId, entryId);
  const out: Sending = { method: 'DELETE', path: `${path}?act=${crypto.randomUUID()}` };
  await keep({ id: entryId, testId, kind: 'removal', sending: out, shown: { kind: 'removal' } });
  const back: Sending = { method: 'PUT', path: `${path}/restored/${crypto.randomUUID()}` };
  const shown: Shown = { kind: 'entry', entry };
  return () => keep({ id: entryId, testId, kind: 'back', sending: back, shown });
}

/** Begins a ride; its name and its pack are known here before the server has heard of it. */
export function startRide(testId: string, begun: BegunHere, sending: Sending): Promise<void> {
  return keep({ id: testId, testId, kind: 'start', sending, shown: { kind: 'start', begun } });
}

/** Ends a ride. */
export function endRide(testId: string, reason: string, note: string): Promise<void> {
  const path = `/api/tests/${testId}/ending`;
  const sending: Sending = { method: 'PUT', path, body: { reason, note } };
  return keep({ id: testId, testId, kind: 'ending', sending, shown: { kind: 'ending', reason } });
}

/** Takes an ended ride up again. */
export function rideAgain(testId: string): Promise<void> {
  const sending: Sending = { method: 'DELETE', path: `/api/tests/${testId}/ending` };
  return keep({ id: testId, testId, kind: 'again', sending, shown: { kind: 'again' } });
}

/** Anything else that is sent in its turn, such as new kit or a change of the sheet. */
export function sendLater(
  testId: string,
  id: string,
  kind: 'kit' | 'sheet',
  sending: Sending,
): Promise<void> {
  const shown: Shown = { kind: 'nothing' };
  return keep({ id, testId, kind, sending, shown });
}

/** Forgets an act whatever it says: its rider has thrown it away. */
export async function discard(seq: number): Promise<void> {
  await store.acts.delete(seq);
}

/** Puts a discarded act back where it was. */
export async function restore(act: Act): Promise<void> {
  await store.acts.put(act);
}

/** Has a refused act sent once more. */
export async function tryAgain(seq: number): Promise<void> {
  await store.acts.update(seq, { refused: '', conflict: false });
}

/** Of two versions of an entry this one is kept, over the one that has been looked at beside it. */
export async function keepMine(act: Act, theirs: number): Promise<void> {
  const body = { ...(act.sending.body as Record<string, unknown>), from_changes: theirs };
  await store.acts.put({
    ...act,
    sending: { ...act.sending, body },
    version: crypto.randomUUID(),
    refused: '',
    conflict: false,
  });
}

/** What was fetched goes from the device; what was noted stays until it is sent. */
export async function forgetFetched(): Promise<void> {
  await store.transaction('rw', store.rides, store.cache, store.settings, async () => {
    await store.rides.clear();
    await store.cache.clear();
    await store.settings.delete('who');
  });
}

/** Forgets all that whoever is here did and has not sent. */
export async function forgetDone(): Promise<void> {
  const who = await whoIsHere();
  await store.acts.where('owner').equals(who).delete();
}

/** How much waits here to be sent, of whoever is signed in. */
export async function countUnsent(): Promise<number> {
  const who = await whoIsHere();
  return store.acts
    .where('owner')
    .anyOf(who, ANYBODY)
    .filter((act) => act.refused === '')
    .count();
}

/** Acts of a ride in the order in which they were done. */
export function actsOf(testId: string): Promise<Act[]> {
  return store.acts.where('testId').equals(testId).sortBy('seq');
}
