import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { store } from '../roadside/store';
import { keeping, testsSavedHere } from './keeping';
import { rememberSession } from './session';

const SIGNED_IN = { units: {}, csrf_token: '' } as unknown as Parameters<typeof rememberSession>[0];
const stored = new Map<string, string>();

beforeEach(async () => {
  stored.clear();
  vi.stubGlobal('__API_DIGEST__', 'one');
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, value: string) => stored.set(key, value),
    removeItem: (key: string) => stored.delete(key),
  });
  await store.cache.clear();
});

const seen = async (key: string, value: unknown, username: string, at: number) => {
  rememberSession({ ...SIGNED_IN, username } as Parameters<typeof rememberSession>[0]);
  await store.cache.put({ key, owner: `${username} one`, at, value } as never);
};

describe('tests saved on this device', () => {
  it('are those that whoever is signed in looked at, the newest first', async () => {
    await seen('test a', { title: 'Harbour' }, 'ines', 1);
    await seen('test b', { title: '' }, 'ines', 3);
    await seen('test b traces', {}, 'ines', 4);
    await seen('vehicles', [], 'ines', 5);
    await seen('test c', { title: 'Somebody else’s' }, 'tobias', 6);
    rememberSession({ ...SIGNED_IN, username: 'ines' } as Parameters<typeof rememberSession>[0]);
    expect(await testsSavedHere()).toEqual([
      { id: 'b', title: 'a test without a title', seenAt: 3 },
      { id: 'a', title: 'Harbour', seenAt: 1 },
    ]);
  });

  it('are kept as they are asked for', async () => {
    rememberSession({ ...SIGNED_IN, username: 'ines' } as Parameters<typeof rememberSession>[0]);
    await keeping('test d', async () => ({ title: 'Quay loop' }));
    await vi.waitFor(async () => {
      expect((await testsSavedHere()).map((test) => test.id)).toEqual(['d']);
    });
  });
});
