// @vitest-environment jsdom
import { expect, test } from 'vitest';
import type { Strip, TestDetail, Units } from '../api/queries';
import { pinsOf } from './RideMap';

const KM: Units = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'kPa' };

test('the map’s pins say what was noted, and where', () => {
  const mark = { energy_left: 0.5, gauge: null, questioned: false };
  const strip = {
    marks: [
      { ...mark, kind: 'start', time_s: 0, distance_m: 0, voltage_v: 54.4 },
      { ...mark, kind: 'checkpoint', time_s: 60, distance_m: 2000, voltage_v: null },
      { ...mark, kind: 'turn', time_s: 120, distance_m: 4000, voltage_v: 49.8 },
      { ...mark, kind: 'event', time_s: 180, distance_m: 5000, voltage_v: null, what: 'beeps' },
      { ...mark, kind: 'settle', time_s: 300, distance_m: 8000, voltage_v: 47 },
    ],
  } as unknown as Strip;
  const entries = [{ time_s: 60, photo: 'abc' }] as unknown as TestDetail['entries'];
  const pins = pinsOf(strip, { entries }, KM);
  expect(pins.map(({ kind, text }) => [kind, text.split(' at ')[1]])).toEqual([
    ['start', '0.0 km, 54.4 V'],
    ['photo', '2.0 km'],
    ['turn', '4.0 km, 49.8 V'],
    ['event', '5.0 km'],
  ]);
});
