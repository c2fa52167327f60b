import { describe, expect, it } from 'vitest';
import type { Entry, Units } from '../api/queries';
import { bodyOf, ENTRY_FIELDS, typedOf } from './fields';

const MILES: Units = { distance: 'mi', mass: 'kg', temperature: '°F', pressure: 'kPa' };
const at = { time_s: 60, kind: 'checkpoint' as const };

describe('what is typed', () => {
  it('goes with the unit its field shows, unless it brings its own', () => {
    const body = bodyOf(
      { trip_m: '12.4', voltage_rest_v: '54,3 V', battery_temp_c: '70' },
      at,
      MILES,
    );
    expect(body.trip_m).toBe('12.4 mi');
    expect(body.voltage_rest_v).toBe('54,3 V');
    expect(body.battery_temp_c).toBe('70 °F');
  });

  it('leaves out what was not read', () => {
    const body = bodyOf({ trip_m: ' ', charge_ah: '' }, { ...at, note: '  ' }, MILES);
    expect(body).toEqual({ time_s: 60, kind: 'checkpoint', note: null });
  });

  it('sends counts as numbers and nonsense as it stands', () => {
    expect(bodyOf({ laps: '2,5', gauge: '3' }, at, MILES)).toMatchObject({ laps: 2.5, gauge: 3 });
    expect(bodyOf({ laps: 'many' }, at, MILES).laps).toBe('many');
  });
});

describe('a stored entry', () => {
  const entry = {
    id: 'x',
    time_s: 60,
    kind: 'checkpoint',
    trip_m: 1609.344,
    voltage_rest_v: 54.32,
    battery_temp_c: 20,
    changes: 0,
    earlier: [],
  } as unknown as Entry;

  it('is shown as a rider would have typed it', () => {
    expect(typedOf(entry, MILES)).toEqual({
      trip_m: '1.00',
      voltage_rest_v: '54.3',
      battery_temp_c: '68',
    });
  });

  it('has a label and a hint for every field', () => {
    const names = new Set(ENTRY_FIELDS.map((field) => field.name));
    expect(names.size).toBe(ENTRY_FIELDS.length);
    expect(ENTRY_FIELDS.every((field) => field.label && field.asks)).toBe(true);
  });
});
