import { describe, expect, it } from 'vitest';
import type { Shown } from './shown';
import { alertOf, isPassed } from './useAlerts';

const now = (
  code: Shown['code'],
  values: Record<string, number> = {},
  state: Shown['state'] = 'now',
) => ({ code, values, state });

describe('what is felt and heard on the way', () => {
  it.each([
    'stop_now',
    'turn_now',
    'slow_to',
    'tilt_back',
    'probably',
    'might_not',
    'laps_short',
  ] as const)('tells %s', (code) => expect(alertOf(now(code))).toBe(code));

  it('tells the turn when it is near', () => {
    expect(alertOf(now('turn_by', { to_go_m: 900 }))).toBeNull();
    expect(alertOf(now('turn_by', { to_go_m: 250 }))).toBe('turn_near');
  });

  it('tells the reserve where nobody goes anywhere', () => {
    expect(alertOf(now('range_left', { range_m: 9000, least_m: 4000 }))).toBeNull();
    expect(alertOf(now('range_left', { range_m: 900, least_m: 0 }))).toBe('reserve');
  });

  it('is silent about what calls for nothing', () => {
    expect(alertOf(now('home', { arrives: 0.97 }))).toBeNull();
    expect(alertOf(now(null))).toBeNull();
  });

  it('neither begins nor undoes anything by an answer that is older than the ride', () => {
    expect(alertOf(now('turn_now', {}, 'older'))).toBeUndefined();
    expect(alertOf(now('home', {}, 'older'))).toBeUndefined();
  });

  it('tells that an entry is due when its place is passed, not when it is noted', () => {
    expect(isPassed({ at: 4000, entries: 2 }, { at: 8000, entries: 2 })).toBe(true);
    expect(isPassed({ at: 4000, entries: 2 }, { at: 8000, entries: 3 })).toBe(false);
    expect(isPassed({ at: 4000, entries: 2 }, { at: 4000, entries: 2 })).toBe(false);
    expect(isPassed({ at: null, entries: 0 }, { at: 4000, entries: 0 })).toBe(false);
    expect(isPassed({ at: 8000, entries: 2 }, { at: null, entries: 2 })).toBe(true);
  });
});
