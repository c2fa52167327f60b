import { describe, expect, it } from 'vitest';
import { isOutlived } from './outlived';

const RIDDEN = '2026-05-14T09:00:00+01:00';

describe('a promise', () => {
  it('runs out after its months', () => {
    expect(isOutlived(6, RIDDEN, Date.parse('2026-11-12T09:00:00Z'))).toBe(false);
    expect(isOutlived(6, RIDDEN, Date.parse('2026-11-14T09:00:00Z'))).toBe(true);
  });

  it('does not run out where the day of the ride is not known', () => {
    expect(isOutlived(6, null, Date.parse('2036-01-01T00:00:00Z'))).toBe(false);
    expect(isOutlived(6, 'long ago', Date.parse('2036-01-01T00:00:00Z'))).toBe(false);
  });
});
