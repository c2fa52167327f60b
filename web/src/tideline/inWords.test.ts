import { expect, test } from 'vitest';
import type { Strip, Units } from '../api/queries';
import { inWords, reserveAt, sentence } from './inWords';

const MILES: Units = { distance: 'mi', mass: 'kg', temperature: '°C', pressure: 'kPa' };
const MILE_M = 1609.344;
const strip = (changes: Partial<Strip> = {}): Strip => ({
  distance_m: [0, 5 * MILE_M, 10 * MILE_M],
  energy_left: [1, 0.8, 0.6],
  cutoff_m: [22 * MILE_M, 25 * MILE_M, 28 * MILE_M],
  measured: false,
  reserve: 0.2,
  ridden_m: 10 * MILE_M,
  tides: [],
  marks: [
    { time_s: 0, kind: 'start', distance_m: 0, energy_left: 1, voltage_v: 54.1, questioned: false },
    {
      time_s: 9,
      kind: 'lap',
      distance_m: 5 * MILE_M,
      energy_left: 0.8,
      voltage_v: null,
      questioned: false,
    },
    {
      time_s: 99,
      kind: 'settle',
      distance_m: 10 * MILE_M,
      energy_left: 0.6,
      voltage_v: 50,
      questioned: false,
    },
  ],
  ...changes,
});

test('a ride under way is said with its reserve, its cut-off and its readings', () => {
  expect(inWords(strip(), MILES)).toBe(
    'Tideline: 10.0 mi ridden, 60% of the energy left; cut-off is expected at 25.0 mi (22.0 to 28.0). ' +
      'The reserve, 20%, is expected at 20.0 mi. Readings: 0.0 mi: 54.1 V, 100% left; 5.0 mi: lap, 80% left.',
  );
});

test('the reserve is where the line comes down to it, on the road that was ridden first', () => {
  const ridden = strip({ energy_left: [1, 0.3, 0.1], measured: true });
  expect(reserveAt(ridden)).toBeCloseTo(7.5 * MILE_M, 6);
  expect(inWords(ridden, MILES)).toContain('It came down to the reserve, 20%, at 7.5 mi.');
  expect(sentence(ridden, MILES)).toContain('cut-off came at 25.0 mi');
  expect(reserveAt(strip({ cutoff_m: null }))).toBeNull();
});

test('of many readings the last are said', () => {
  const marks = Array.from({ length: 30 }, (_, k) => ({
    time_s: k,
    kind: 'checkpoint' as const,
    distance_m: k * MILE_M,
    energy_left: null,
    voltage_v: 50,
    questioned: false,
  }));
  const said = inWords(strip({ marks }), MILES);
  expect(said).toContain('The last readings: 18.0 mi: 50.0 V; 19.0 mi');
  expect(said).not.toContain('17.0 mi: 50');
});
