import { describe, expect, it } from 'vitest';
import type { Strip } from '../api/queries';
import { gapOf, leftAt } from './gap';

const tide = (distance_m: number[], energy_left: number[]) =>
  ({ distance_m, energy_left }) as unknown as Strip;

describe('the gap between two tides', () => {
  it('reads a tide on the straight line between its places', () => {
    const one = tide([0, 1000, 3000], [1, 0.8, 0.2]);
    expect(leftAt(one, 0)).toBe(1);
    expect(leftAt(one, 500)).toBeCloseTo(0.9);
    expect(leftAt(one, 2000)).toBeCloseTo(0.5);
    expect(leftAt(one, 9000)).toBe(0.2);
    expect(leftAt(tide([0, 0, 10], [1, 0.9, 0.5]), 0)).toBe(1);
  });

  it('goes as far as all went, and averages what a side rode', () => {
    const found = gapOf(
      [tide([0, 4000], [1, 0.2]), tide([0, 2000], [1, 0.8])],
      [tide([0, 3000], [1, 0.4])],
    );
    expect(found?.distance_m.at(-1)).toBe(2000);
    expect(found?.first.at(-1)).toBeCloseTo(0.7);
    expect(found?.second.at(-1)).toBeCloseTo(0.6);
    expect(found?.first[0]).toBe(1);
  });

  it('is none where a side has no tide, or none went anywhere', () => {
    expect(gapOf([], [tide([0, 1], [1, 0])])).toBeNull();
    expect(gapOf([tide([0], [1])], [tide([0, 1], [1, 0])])).toBeNull();
  });
});
