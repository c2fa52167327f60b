import { describe, expect, it } from 'vitest';
import type { Units } from '../api/queries';
import { placed } from './placed';
import { expectedOf, voltsFault } from './steps';

const KM: Units = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'kPa' };
const MILES: Units = { ...KM, distance: 'mi' };
const entry = (time_s: number, more: object) => ({
  id: String(time_s),
  kind: 'checkpoint' as const,
  time_s,
  where: 'stored' as const,
  ...more,
});
const ride = (...entries: ReturnType<typeof entry>[]) => ({
  entries,
  full_v: 54.6,
  cutoff_v: 39,
});

describe('digits without a point', () => {
  const volts = { low: 31, high: 57, near: 50 };

  it('get it where that makes them plausible, and stay to be had as typed', () => {
    expect(placed('482', volts)).toEqual([48.2, 482]);
    expect(placed('4823', volts)).toEqual([48.23, 4823]);
  });

  it('get it at most three places from their end', () => {
    expect(placed('1234', { low: 0, high: 2, near: 1 })).toEqual([1.234, 1234]);
    expect(placed('12345', { low: 0, high: 2, near: 1 })).toEqual([12345]);
  });

  it('stay where they are plausible as they are', () => {
    expect(placed('48', volts)).toEqual([48]);
  });

  it('stay where no point helps', () => {
    expect(placed('9', volts)).toEqual([9]);
  });

  it('lie close to the last reading where two places would do', () => {
    expect(placed('124', { low: 0, high: 60, near: 11 })).toEqual([12.4, 124]);
    expect(placed('124', { low: 0, high: 60, near: 1.1 })).toEqual([1.24, 124]);
  });

  it('on a counter lie where its rate would have brought it', () => {
    const ran = { low: 0, high: 44, near: 7.5, from: 0 };
    expect(placed('74', ran)).toEqual([7.4, 74]);
    expect(placed('109', { low: 7.4, high: 50, near: 11, from: 7.4 })).toEqual([10.9, 109]);
  });

  it('with a point, or with a comma, were typed on purpose', () => {
    expect(placed('482.', volts)).toEqual([482]);
    expect(placed('4,82', volts)).toEqual([4.82]);
  });

  it('are nothing while nothing is typed', () => {
    expect(placed('', volts)).toEqual([]);
    expect(placed('-', null)).toEqual([]);
    expect(placed('.', null)).toEqual([]);
  });
});

describe('what a reading may be now', () => {
  it('is between cut-off and full for the volts, close to the last', () => {
    const found = expectedOf(ride(entry(0, { voltage_rest_v: 50 })), 'voltage_load_v', 60, KM);
    expect(found).toEqual({ low: 0.8 * 39, high: 1.05 * 54.6, near: 50 });
  });

  it('is no less than before for a counter, in the units it is typed in', () => {
    const found = expectedOf(ride(entry(0, { trip_m: 16093.44 })), 'trip_m', 600, MILES);
    expect(found?.low).toBeCloseTo(10);
    expect(found?.high).toBeCloseTo(10 + 18000 / 1609.344);
  });

  it('is where a counter’s own rate has brought it, once it has run for a minute', () => {
    const ran = ride(entry(0, { energy_wh: 0 }), entry(600, { energy_wh: 60 }));
    expect(expectedOf(ran, 'energy_wh', 1200, KM)?.near).toBeCloseTo(120);
    // Too short a while to tell a rate by, or one that stood still: the largest that fits is near.
    const short = ride(entry(0, { energy_wh: 0 }), entry(30, { energy_wh: 60 }));
    expect(expectedOf(short, 'energy_wh', 60, KM)?.near).toBeCloseTo(260);
    const still = ride(entry(0, { energy_wh: 60 }), entry(600, { energy_wh: 60 }));
    expect(expectedOf(still, 'energy_wh', 1200, KM)?.near).toBeCloseTo(260);
  });

  it('is anything for an odometer that was never read', () => {
    expect(expectedOf(ride(), 'odometer_m', 600, KM)).toBeNull();
  });
});

describe('volts', () => {
  const pack = { entries: [], full_v: null, cutoff_v: null, most_v: 65 } as never;

  it('that no such pack has are refused before they are stored', () => {
    expect(voltsFault(pack, 'voltage_rest_v', 585)).toMatch(
      /585 V is more than this pack can have/,
    );
    expect(voltsFault(pack, 'voltage_load_v', 65.1)).not.toBe('');
    expect(voltsFault(pack, 'voltage_rest_v', 58.5)).toBe('');
    expect(voltsFault(pack, 'trip_m', 585)).toBe('');
    expect(voltsFault({ most_v: null }, 'voltage_rest_v', 585)).toBe('');
  });

  it('of a pack that nobody described are placed by what such vehicles have', () => {
    const units = { distance: 'km' } as never;
    const expected = expectedOf(pack, 'voltage_rest_v', 0, units);
    expect(placed('585', expected)[0]).toBe(58.5);
    expect(placed('412', expected)[0]).toBe(41.2);
  });
});
