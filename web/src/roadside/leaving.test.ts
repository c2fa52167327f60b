import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { noteEntry } from './acts';
import { arrive, leave } from './leaving';
import { keyFrom, seal } from './seal';
import { store } from './store';
import { recordPoint } from './track';

/** As a browser's, which a test of Node has not. */
class Kept {
  [name: string]: unknown;
  getItem(name: string) {
    return (this[name] as string | undefined) ?? null;
  }
  setItem(name: string, value: string) {
    this[name] = value;
  }
  removeItem(name: string) {
    delete this[name];
  }
}

const NOORS = btoa('n'.repeat(32));
const INESS = btoa('i'.repeat(32));
const RIDE = 'a-ride';
const body = (time_s: number) => ({
  time_s,
  kind: 'checkpoint' as const,
  note: 'by the secret pier',
});

async function everything(): Promise<string> {
  const tables = await Promise.all(store.tables.map((table) => table.toArray()));
  return JSON.stringify([tables, { ...localStorage }, { ...sessionStorage }]);
}

beforeEach(async () => {
  globalThis.localStorage = new Kept() as unknown as Storage;
  globalThis.sessionStorage = new Kept() as unknown as Storage;
  await Promise.all(store.tables.map((table) => table.clear()));
  await arrive('noor', NOORS);
  await noteEntry(RIDE, 'one', body(10), body(10));
  await noteEntry(RIDE, 'two', body(20), body(20));
  for (const time_s of [30, 40, 50]) {
    const at = { latitude_deg: 57.2 + time_s / 1e4, longitude_deg: -6.1 };
    await recordPoint(RIDE, { ...at, time_s, altitude_m: null, speed_mps: 5 }, 10);
  }
  await store.rides.put({
    testId: RIDE,
    owner: 'noor',
    detail: null,
    plan: null,
    begun: null,
    taken: [],
    toldAt: 0,
  });
  await store.cache.put({ key: '/api/tests', value: 'by the secret pier' });
  localStorage.setItem('limpet-draft-a-ride-new', '{"note":"by the secret pier"}');
  localStorage.setItem('limpet-color-scheme', '"dark"');
  sessionStorage.setItem('limpet-draft-plan', '{"title":"by the secret pier"}');
});

describe('whoever leaves', () => {
  it('leaves nothing that can be read, and what was not sent is theirs when they are back', async () => {
    await leave(true);
    const left = await everything();
    expect(left).not.toContain('pier');
    expect(left).not.toContain('57.2');
    expect(left).not.toContain(RIDE);
    expect(await store.sealed.count()).toBe(1);
    expect({ ...localStorage }).toEqual({ 'limpet-color-scheme': '"dark"' });
    expect({ ...sessionStorage }).toEqual({});

    // Another one gets nothing of it, though they may throw their own away.
    await arrive('ines', INESS);
    expect(await store.acts.count()).toBe(0);
    await leave(false);
    expect(await store.sealed.count()).toBe(1);

    await arrive('noor', NOORS);
    const acts = await store.acts.orderBy('seq').toArray();
    // In its order, and the fixes that were in no piece yet are one.
    expect(acts.map((act) => act.kind)).toEqual(['entry', 'entry', 'piece', 'piece']);
    expect(acts.map((act) => act.owner)).toEqual(['noor', 'noor', 'noor', 'noor']);
    expect(acts[0]?.sending.body).toEqual(body(10));
    expect(JSON.stringify(acts[3]?.sending.body)).toContain('57.203');
    expect(await store.sealed.count()).toBe(0);
  });

  it('may throw away what was not sent', async () => {
    await leave(false);
    expect(await everything()).not.toContain('pier');
    await arrive('noor', NOORS);
    expect(await store.acts.count()).toBe(0);
  });

  it('without leaving has left when another arrives', async () => {
    expect(await arrive('noor', NOORS)).toBe(false);
    expect(await store.acts.count()).toBe(2);
    expect(await arrive('ines', INESS)).toBe(true);
    expect(await everything()).not.toContain('pier');
    expect(await arrive('noor', NOORS)).toBe(true);
    const acts = await store.acts.toArray();
    expect(acts.filter((act) => act.kind === 'entry')).toHaveLength(2);
  });

  it('is sealed with a key that no script can read, and that no other key opens', async () => {
    const kept = (await store.settings.get('seal'))?.value as CryptoKey;
    expect(kept.extractable).toBe(false);
    await leave(true);
    await arrive('noor', INESS);
    expect(await store.acts.count()).toBe(0);
    expect(await store.sealed.count()).toBe(1);
  });

  it('is never sealed twice alike: two of one text would tell each other', async () => {
    const key = (await keyFrom(btoa('k'.repeat(32)))) as CryptoKey;
    const [one, other] = [await seal(key, 'ines', []), await seal(key, 'ines', [])];
    expect(one.iv).not.toEqual(other.iv);
    expect(new Uint8Array(one.data)).not.toEqual(new Uint8Array(other.data));
  });
});
