import { describe, expect, it } from 'vitest';
import { pressureText } from '../format/units';
import { inputText, spanText } from './inputs';

const MILES = { distance: 'mi', mass: 'kg', temperature: '°F', pressure: 'psi' } as const;
const KM = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'bar' } as const;

function swing(input: string, from: number, to: number) {
  return { input, from, to, range_low_m: 1, range_high_m: 2 };
}

describe('the span of a ranked bar', () => {
  it('is in the rider’s units', () => {
    expect(spanText(swing('target_speed_mps', 5, 7.5), KM)).toBe('18 to 27\u00a0km/h');
    expect(spanText(swing('wind_mps', 0, 6), MILES)).toBe('0 to 13\u00a0mph');
    expect(spanText(swing('temp_c', 0, 20), MILES)).toBe('32 to 68\u00a0°F');
    expect(spanText(swing('tyre_kpa', 200, 300), KM)).toBe('2.0 to 3.0\u00a0bar');
  });

  it('names its unit, shares in percent', () => {
    expect(spanText(swing('retained_fraction', 0.8, 1), KM)).toBe('80 to 100%');
    expect(spanText(swing('cda_m2', 0.5, 0.7), KM)).toBe('0.50 to 0.70\u00a0m²');
    expect(spanText(swing('crr', 0.008, 0.012), KM)).toBe('0.0080 to 0.012');
    expect(spanText(swing('gear_kg', 0, 20), KM)).toBe('0 to 20\u00a0kg');
    expect(spanText(swing('climb_factor', 0.5, 1.5), KM)).toBe('half to one and a half');
  });
});

describe('an input', () => {
  it('is read in the rider’s units', () => {
    const wind = { name: 'wind_mps', value: 4.4704, standard_uncertainty: 0.44704 };
    const charge = { name: 'start_energy_fraction', value: 0.95, standard_uncertainty: 0.025 };
    expect(inputText(charge, MILES)).toEqual({ value: '95', spread: '2.5', unit: '%' });
    expect(inputText(wind, MILES)).toEqual({ value: '10', spread: '1', unit: 'mph' });
    const cold = { name: 'temp_c', value: 0, standard_uncertainty: 1.5 };
    expect(inputText(cold, MILES)).toEqual({ value: '32', spread: '2.7', unit: '°F' });
    const rolling = { name: 'crr', value: 0.0123456, standard_uncertainty: 0.00234 };
    expect(inputText(rolling, KM)).toEqual({ value: '0.01235', spread: '0.0023', unit: '' });
  });
});

describe('tyre pressure', () => {
  it('is shown in the unit that the rider reads', () => {
    expect(pressureText(248.2, MILES)).toBe('36 psi');
    expect(pressureText(250, KM)).toBe('2.5 bar');
    expect(pressureText(250, { ...KM, pressure: 'kPa' })).toBe('250 kPa');
  });
});
