import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Follow } from '../api/queries';
import { keepAhead, keepFollowed, keepStartTable, untold } from './kept';
import { type KeptRide, type StartSaid, store } from './store';

const TEST = 'a-test';

function answer(revision: number, more: { core?: string; table?: boolean } = {}): Follow {
  const { core = 'one', table = false } = more;
  const evidence = { revision, digest: `${revision}`, core, sheet_changes: 0, entries: [] };
  const made = table ? { follow_table: 2, at_s: 600 } : null;
  return { evidence, at_s: 600, table: made } as unknown as Follow;
}

const kept = async () => {
  const row = await store.rides.get(TEST);
  return [row?.follow?.evidence.revision ?? null, row?.table?.evidence.revision ?? null];
};

const SAID: StartSaid = {
  vehicle_name: 'Whimbrel',
  kind: 'bicycle',
  chemistry: 'nmc',
  series: 13,
  rated_ah: 14,
  rated_wh: null,
  charge: '',
  packs: 1,
  packs_use: null,
  reserve: 0.2,
  lap_length_m: null,
};

beforeEach(async () => {
  await store.rides.clear();
  await store.rides.put(untold('ines', TEST));
});

describe('answers of the server', () => {
  it('that come late never stand in for newer ones', async () => {
    await keepFollowed(TEST, null, answer(5, { table: true }), 1000);
    await keepFollowed(TEST, null, answer(4, { table: true }), 2000);
    expect(await kept()).toEqual([5, 5]);
    await keepFollowed(TEST, null, answer(6), 1500);
    expect(await kept()).toEqual([6, 5]);
  });

  it('of another core take the table of the one before away', async () => {
    await keepFollowed(TEST, null, answer(5, { table: true }), 1000);
    await keepFollowed(TEST, null, answer(6, { core: 'two' }), 2000);
    expect(await kept()).toEqual([6, null]);
  });

  it('for another way than is wanted now are none', async () => {
    await keepFollowed(TEST, null, answer(5, { table: true }), 1000);
    await keepAhead(TEST, { way: 'back' });
    // The table stays: by it there is an answer for the new way at once.
    expect(await kept()).toEqual([null, 5]);
    await keepFollowed(TEST, null, answer(6), 2000);
    expect(await kept()).toEqual([null, 5]);
    await keepFollowed(TEST, { way: 'back' }, answer(6), 3000);
    expect(await kept()).toEqual([6, 5]);
  });

  it('are held against the one before, of other evidence for the same way', async () => {
    const told = (revision: number, middle: number) =>
      ({ ...answer(revision), strip: { cutoff_m: [1, middle, 9] } }) as unknown as Follow;
    const heldAgainst = async () => (await store.rides.get(TEST))?.previous?.cutoff_m ?? null;
    await keepFollowed(TEST, null, told(5, 4), 1000);
    expect(await heldAgainst()).toBeNull();
    await keepFollowed(TEST, null, told(6, 3), 2000);
    expect(await heldAgainst()).toEqual([1, 4, 9]);
    // The same evidence asked again is no other answer.
    await keepFollowed(TEST, null, told(6, 3), 3000);
    expect(await heldAgainst()).toEqual([1, 4, 9]);
    await keepAhead(TEST, { way: 'back' });
    expect(await heldAgainst()).toBeNull();
  });

  it('that contradict themselves take the table with them: it would go on telling numbers', async () => {
    await keepFollowed(TEST, null, answer(5, { table: true }), 1000);
    expect(await kept()).toEqual([5, 5]);
    const matter = { code: 'contradict', values: {} };
    await keepFollowed(TEST, null, { ...answer(6), matter } as unknown as Follow, 2000);
    expect(await kept()).toEqual([6, null]);
    // Start values are none of a ride that was judged.
    await keepStartTable(TEST, undefined, 5);
    expect(await kept()).toEqual([6, null]);
  });

  it('take the place of start values, which never take theirs', async () => {
    await keepStartTable(TEST, SAID, null);
    expect((await store.rides.get(TEST))?.table?.start_values).toEqual(SAID);
    // An answer without its table may be the last one before the signal goes: they stay until it comes.
    await keepFollowed(TEST, null, answer(5), 900);
    expect((await store.rides.get(TEST))?.table?.start_values).toEqual(SAID);
    await keepFollowed(TEST, null, answer(5, { table: true }), 1000);
    await keepStartTable(TEST, SAID, 5);
    expect((await store.rides.get(TEST))?.table?.start_values).toBeUndefined();
  });

  it('teach how the vehicle’s own instrument reads', async () => {
    const detail = { vehicle_name: 'Sandpiper' } as unknown as KeptRide['detail'];
    await store.rides.put({ ...untold('ines', TEST), detail });
    const reads = { instrument: 'trip_m', per_m: 1.06, shown_m: 900, at_m: 850 };
    await keepFollowed(TEST, null, { ...answer(5), reads } as unknown as Follow, 1000);
    await store.rides.put(untold('ines', 'the next'));
    await keepStartTable('the next', { ...SAID, vehicle_name: 'Sandpiper' }, null);
    const { table } = (await store.rides.get('the next')) ?? {};
    expect(table?.reads).toEqual({ instrument: 'trip_m', per_m: 1.06, shown_m: 0, at_m: 0 });
    await store.rides.put(untold('ines', 'another'));
    await keepStartTable('another', SAID, null);
    expect((await store.rides.get('another'))?.table?.reads).toBeNull();
  });

  it('of a gauge that is told on the way are read by start values, too', async () => {
    await keepStartTable(TEST, SAID, null);
    const names = async () =>
      (await store.rides.get(TEST))?.table?.sights.map((sight) => sight.name) ?? [];
    expect(await names()).not.toContain('gauge');
    await keepStartTable(TEST, undefined, 5);
    expect(await names()).toContain('gauge');
  });

  it('from before anything was noted take every entry for later', async () => {
    await keepFollowed(TEST, null, answer(1, { table: true }), 1000);
    expect((await store.rides.get(TEST))?.table?.at_s).toBe(-1);
  });
});
