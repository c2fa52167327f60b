import { describe, expect, it } from 'vitest';
import { pressureText } from '../format/units';
import { knownPerKm, plain } from './form';
import { spanText } from './spans';

const MILES = { distance: 'mi', mass: 'kg', temperature: '°F', pressure: 'psi' } as const;
const KM = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'bar' } as const;

function swing(input: string, from: number, to: number) {
  return { input, from, to, range_low_m: 1, range_high_m: 2 };
}

describe('the span of a ranked bar', () => {
  it('is in the rider’s units', () => {
    expect(spanText(swing('target_speed_mps', 5, 7.5), KM)).toBe('18 to 27 km/h');
    expect(spanText(swing('wind_mps', 0, 6), MILES)).toBe('0 to 13 mph');
    expect(spanText(swing('temp_c', 0, 20), MILES)).toBe('32 °F to 68 °F');
    expect(spanText(swing('tyre_kpa', 200, 300), KM)).toBe('2.0 bar to 3.0 bar');
  });

  it('names its unit, shares in percent', () => {
    expect(spanText(swing('retained_fraction', 0.8, 1), KM)).toBe('80 to 100 %');
    expect(spanText(swing('cda_m2', 0.5, 0.7), KM)).toBe('0.50 to 0.70 m²');
    expect(spanText(swing('crr', 0.008, 0.012), KM)).toBe('0.0080 to 0.012');
    expect(spanText(swing('gear_kg', 0, 20), KM)).toBe('0.0 to 20 kg');
    expect(spanText(swing('climb_factor', 0.5, 1.5), KM)).toBe('half to one and a half');
  });
});

describe('a known consumption as typed', () => {
  it('is per kilometre whatever it is typed in', () => {
    expect(knownPerKm('17.5', MILES)).toBeCloseTo(10.874, 3);
    expect(knownPerKm('10,9 Wh/km', MILES)).toBeCloseTo(10.9);
    expect(knownPerKm('17.5 Wh/mi', KM)).toBeCloseTo(10.874, 3);
    expect(knownPerKm('', KM)).toBeNull();
  });

  it('passes what is no number on, to be refused', () => {
    expect(plain('soon')).toBeNaN();
    expect(plain('15 %')).toBe(15);
  });
});

describe('tyre pressure', () => {
  it('is shown in the unit that the rider reads', () => {
    expect(pressureText(248.2, MILES)).toBe('36 psi');
    expect(pressureText(250, KM)).toBe('2.5 bar');
    expect(pressureText(250, { ...KM, pressure: 'kPa' })).toBe('250 kPa');
  });
});
