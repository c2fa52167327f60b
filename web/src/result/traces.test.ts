import { describe, expect, it } from 'vitest';
import type { Traces, Units } from '../api/queries';
import { lookOf, positions, summary } from './traces';

const KM: Units = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'kPa' };
const traces: Traces = {
  time_s: [0, 60, 120],
  distance_m: [0, 300, 900],
  channels: [
    { name: 'voltage', unit: 'V', low: [50, null, 48], mean: [52, null, 49], high: [54, null, 50] },
    { name: 'speed', unit: 'm/s', low: [4, 5, 6], mean: [5, 5, 5], high: [6, 6, 7] },
    { name: 'height', unit: 'm', low: [null], mean: [null], high: [null] },
  ],
  available: ['voltage', 'speed', 'height'],
  stretch: {
    from_s: 0,
    to_s: 120,
    distance_m: 900,
    energy_wh: null,
    wh_per_km: null,
    ascent_m: null,
    descent_m: null,
    mean_speed_mps: 7.5,
    voltage_low_v: 48,
    voltage_mean_v: 51,
    voltage_high_v: 54,
  },
};

describe('traces', () => {
  it('lie along distance in the rider’s unit, or along minutes', () => {
    expect(positions(traces, 'distance', KM)).toEqual([0, 0.3, 0.9]);
    expect(positions(traces, 'time', KM)).toEqual([0, 1, 2]);
    expect(positions({ ...traces, distance_m: null }, 'distance', KM)).toEqual([0, 1, 2]);
  });

  it('are summed up by their span or their mean, gaps left out', () => {
    expect(summary(traces, 0, KM)).toBe('48.0 to 54.0 V');
    expect(summary(traces, 1, KM)).toBe('mean 18.0 km/h');
    expect(summary(traces, 2, KM)).toBe('not recorded here');
    expect(summary(traces, 9, KM)).toBe('');
  });

  it('show a channel they do not know as it comes', () => {
    expect(lookOf('torque').label).toBe('torque');
  });
});
