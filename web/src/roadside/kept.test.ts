import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Follow } from '../api/queries';
import { keepAhead, keepFollowed, untold } from './kept';
import { store } from './store';

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

  it('from before anything was noted take every entry for later', async () => {
    await keepFollowed(TEST, null, answer(1, { table: true }), 1000);
    expect((await store.rides.get(TEST))?.table?.at_s).toBe(-1);
  });
});
