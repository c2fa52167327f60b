import { expect, test } from 'vitest';
import type { Figures, Result, Units } from '../api/queries';
import { threeFigures } from './threeFigures';

const KM: Units = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'kPa' };
const quantity = (value: number, low: number, high: number) => ({
  value,
  low,
  high,
  unit: '',
  standard_uncertainty: (high - low) / 4,
});

function shown(range: [number, number, number], more: Partial<Result> = {}) {
  const figures = {
    wh_per_km: quantity(10, 9.5, 10.5),
    wh_per_mi: quantity(16.1, 15.3, 16.9),
    range_to_cutoff: quantity(...range),
    range_to_reserve: quantity(0.8 * range[0], 0.8 * range[1], 0.8 * range[2]),
    range_measured: false,
    reserve: 0.2,
    reserve_assumed: true,
  } as unknown as Figures;
  const result = {
    energy_used_fraction: { value: 0.67 },
    plan_on: { distance_m: 30_000, months: 6 },
    ...more,
  } as unknown as Result;
  return threeFigures(figures, result, KM, new Date().toISOString());
}

test('three figures say how sure they are and how they came about', () => {
  const [per, range, plan] = shown([50_000, 46_000, 54_000]);
  expect(per).toMatchObject({ value: '10.0', unit: 'Wh/km', under: '9.5 to 10.5 · 16.1 Wh/mi' });
  expect(range).toMatchObject({ value: '50.0', under: '46.0 to 54.0 · extrapolated from 67%' });
  expect(plan).toMatchObject({
    label: 'Plan on (20% in reserve, assumed)',
    value: '30.0',
    under: '19 of 20 such rides · reserve at 40.0 today',
  });
});

test('a range that is wider than its figure is told as its two ends', () => {
  const [, range, plan] = shown([50_000, 5000, 150_000]);
  expect(range).toMatchObject({
    value: '5.0 to 150.0',
    under: 'extrapolated from 67%',
    span: true,
  });
  expect(plan?.under).toBe('19 of 20 such rides');
});

test('what is not known is a dash', () => {
  const [, , plan] = shown([50_000, 46_000, 54_000], { plan_on: null });
  expect(plan).toMatchObject({ value: '–', unit: 'not known', under: '' });
});
