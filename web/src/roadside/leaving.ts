import { OF_THE_DEVICE } from '../device/remembered';
import { rememberWho, whoIsHere } from './acts';
import { keyFrom, seal, unseal } from './seal';
import { type Act, store } from './store';
import { closeTrack } from './track';

/*
 * All that is kept on a device, and what becomes of it when its rider leaves:
 *
 * - `acts`: what was noted and not sent. Sealed for its rider, or thrown away by their word.
 * - `sealed`: that, of those who left before. Theirs until they are back.
 * - `points`, `tracks`: where the device has been. Fixes that were not sent become acts; the rest goes.
 * - `rides`, `cache`, `settings`: what the server told, who is here, the key of the seal. They go.
 * - `localStorage` and `sessionStorage`, names that begin with `limpet-`: drafts, choices, who was here.
 *   They go, less `OF_THE_DEVICE`.
 * - The browser's store of this version's own files. It holds nothing of anybody's.
 */

/**
 * Somebody is here: what was sealed for them is theirs again, and what another left lying goes; says whether
 * there was another.
 */
export async function arrive(username: string, told: string | null | undefined): Promise<boolean> {
  const before = await store.settings.get('who');
  const another = typeof before?.value === 'string' && before.value !== username;
  if (another) await leave(true);
  await rememberWho(username);
  const key = await keyFrom(told).catch(() => null);
  if (key === null) return another;
  await store.settings.put({ key: 'seal', value: key });
  for (const kept of await store.sealed.where('owner').equals(username).toArray()) {
    const acts = await unseal(key, kept);
    if (acts === null) continue;
    await store.transaction('rw', store.acts, store.sealed, async () => {
      // Another window may have been quicker.
      if ((await store.sealed.get(kept.id)) === undefined) return;
      await store.acts.bulkAdd(acts.map(({ seq: _, ...act }) => act as Act));
      await store.sealed.delete(kept.id);
    });
  }
  return another;
}

/**
 * Whoever is here leaves: nothing of theirs can be read on this device any more.
 *
 * What they noted and did not send is sealed when `keep`, else thrown away.
 */
export async function leave(keep: boolean): Promise<void> {
  const who = await whoIsHere();
  for (const { testId } of await store.tracks.toArray()) await closeTrack(testId);
  const acts = keep ? await store.acts.where('owner').equals(who).sortBy('seq') : [];
  const key = (await store.settings.get('seal'))?.value;
  // Without a key of theirs it stays as it is, under their name: lost would be worse than read.
  const sealed = acts.length > 0 && key instanceof CryptoKey ? await seal(key, who, acts) : null;
  await store.transaction('rw', store.tables, async () => {
    if (sealed !== null) await store.sealed.add(sealed);
    if (sealed !== null || !keep) await store.acts.where('owner').equals(who).delete();
    const others = [store.rides, store.cache, store.settings, store.points, store.tracks];
    await Promise.all(others.map((table) => table.clear()));
  });
  for (const kept of [localStorage, sessionStorage]) forgetIn(kept);
}

function forgetIn(kept: Storage): void {
  for (const name of Object.keys(kept)) {
    if (name.startsWith('limpet-') && !OF_THE_DEVICE.has(name)) kept.removeItem(name);
  }
}
