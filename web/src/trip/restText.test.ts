import { describe, expect, it } from 'vitest';
import type { Units } from '../api/queries';
import { blankTrip } from './form';
import { fails, packText, riddenText, WEATHER, weatherText } from './restText';
import type { Kit } from './useKit';

const MILES: Units = { distance: 'mi', mass: 'kg', temperature: '°C', pressure: 'kPa' };
const KIT = {
  vehicles: [],
  packs: [],
  riders: [{ id: 'i', name: 'Ines' }],
  routes: [],
} as never as Kit;

describe('what folded fields come to', () => {
  it('says what is assumed of a trip of which nothing is said', () => {
    const blank = blankTrip(0.2);
    expect(riddenText(blank, KIT, MILES)).toBe('Ridden: in traffic at the usual speed');
    expect(weatherText(blank, MILES)).toBe('Weather: not known');
    expect(packText(blank, MILES)).toBe('Starts full, 20% in reserve');
  });

  it('says what was typed, with the unit that was meant', () => {
    const blank = blankTrip(0.2);
    const typed = {
      ...blank.typed,
      target_mps: '12',
      temp_c: '-2',
      wind_mps: '3 m/s',
      wind_from_deg: 'W',
      tyre_kpa: '280',
      start_energy_fraction: '80',
    };
    const trip = { ...blank, typed, rider_id: 'i', packs_count: '2' };
    expect(riddenText(trip, KIT, MILES)).toBe('Ridden by Ines: in traffic at 12\u00a0mph');
    expect(weatherText(trip, MILES)).toBe(
      'Weather: -2\u00a0°C, wind 3 m/s from W, tyres 280\u00a0kPa',
    );
    expect(packText(trip, MILES)).toBe('Starts at 80%, 20% in reserve, 2 packs');
    expect(riddenText({ ...trip, policy: 'flat_out' }, KIT, MILES)).toBe(
      'Ridden by Ines: flat out',
    );
  });

  it('opens by itself where one of its fields is refused', () => {
    expect(fails({ wind_mps: 'takes 0 to 89 mph' }, WEATHER)).toBe(true);
    expect(fails({ vehicle_id: 'is needed' }, WEATHER)).toBe(false);
  });
});
