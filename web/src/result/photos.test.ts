import { expect, test } from 'vitest';
import type { Strip, TestDetail, Units } from '../api/queries';
import { hillsOf } from './LegProfile';
import { photosOf } from './photos';

const KM: Units = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'kPa' };

test('a picture lies where its entry was made; one without a place lies nowhere', () => {
  const strip = { marks: [{ time_s: 60, distance_m: 2000 }] } as unknown as Strip;
  const ride = {
    id: 'abc',
    entries: [
      { time_s: 60, photo: 'a b.jpg' },
      { time_s: 90, photo: 'lost.jpg' },
      { time_s: 60, photo: null },
    ],
  } as unknown as TestDetail;
  expect(photosOf(ride, strip, KM)).toEqual([
    {
      distance_m: 2000,
      address: '/api/tests/abc/photo?name=a+b.jpg',
      text: expect.stringMatching(/^Picture taken at 2\.0.km$/),
    },
  ]);
});

test('hills are shares of their span, gaps left out', () => {
  const volts = { name: 'voltage', unit: 'V', low: [], high: [], mean: [54, 53, 52, 51] };
  const channel = { name: 'height', unit: 'm', low: [], high: [], mean: [10, null, 30, 20] };
  const found = hillsOf({ distance_m: [0, 1, 2, 3], channels: [volts, channel] });
  expect(found).toEqual({
    low: 10,
    high: 30,
    places: [
      [0, 0],
      [2, 1],
      [3, 0.5],
    ],
  });
  expect(hillsOf({ distance_m: null, channels: [channel] })).toBeNull();
});
