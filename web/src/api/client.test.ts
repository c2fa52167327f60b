import { expect, it } from 'vitest';
import { patienceFor } from './client';

it.each([
  ['/api/tests/1/follow', 20],
  ['/api/session', 20],
  ['/api/plans/series/1', 60],
  ['/api/compare', 60],
  ['/api/tests/import', 900],
])(
  'waits for %s %d s: who rides is answered soon or not, who plans waits for a turn',
  (path, seconds) => {
    expect(patienceFor(`https://192.168.1.20:8643${path}?x=/import`)).toBe(1000 * seconds);
  },
);
