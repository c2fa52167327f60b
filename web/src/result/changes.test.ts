import { describe, expect, it } from 'vitest';
import type { Figures, Quantity, Units } from '../api/queries';
import { changesOf } from './changes';

const MILES: Units = { distance: 'mi', mass: 'kg', temperature: '°C', pressure: 'kPa' };
const MILE = 1609.344;

function quantity(value: number, half: number, unit: string): Quantity {
  return {
    value,
    unit,
    standard_uncertainty: half / 2,
    coverage_factor: 2,
    coverage: 0.95,
    low: value - half,
    high: value + half,
  } as Quantity;
}

const FIGURES = {
  wh_per_km: quantity(10, 1, 'Wh/km'),
  wh_per_mi: quantity(16, 2, 'Wh/mi'),
  range_to_cutoff: quantity(20 * MILE, 2 * MILE, 'm'),
} as Figures;

describe('what changed in a result', () => {
  it('says what each figure was and what it is', () => {
    const was = {
      ...FIGURES,
      range_to_cutoff: quantity(24 * MILE, 6 * MILE, 'm'),
      plan_on_m: 14 * MILE,
      why: [],
    };
    expect(changesOf(was, FIGURES, 15 * MILE, MILES)).toEqual([
      'Range to cut-off: was 24.0 mi (18.0 to 30.0), now 20.0 mi (18.0 to 22.0).',
      'Plan on: was 14.0 mi, now 15.0 mi.',
    ]);
  });

  it('says of one that was not known, or is not any more, that it is not', () => {
    const was = {
      wh_per_km: null,
      wh_per_mi: null,
      range_to_cutoff: FIGURES.range_to_cutoff ?? null,
      plan_on_m: 14 * MILE,
      why: [],
    };
    expect(changesOf(was, FIGURES, null, MILES)).toEqual([
      'Consumption: was not known, now 16.0 Wh/mi (14.0 to 18.0).',
      'Plan on: was 14.0 mi, now not known.',
    ]);
  });
});
