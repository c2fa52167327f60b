import { describe, expect, it } from 'vitest';
import { limpTable } from '../kit/shelves';
import { askable, BLANK_TRIP, bearing, compass, formOf, hasWay, tripBody } from './form';

const MILES = { distance: 'mi', mass: 'lb', temperature: '°F', pressure: 'psi' } as const;
const FORM = { ...BLANK_TRIP, vehicle_id: 'v', pack_id: 'p', route_id: 'r' };

describe('a trip as typed', () => {
  it('sends what is typed with the rider’s unit', () => {
    const body = tripBody({ ...FORM, temp: '28', wind: '9', tyre: '40', target: '12' }, MILES);
    expect(body).toMatchObject({
      temp_c: '28 °F',
      wind_mps: '9 mph',
      tyre_kpa: '40 psi',
      target_mps: '12 mph',
      route_id: 'r',
      legs: null,
      reserve: 0.15,
    });
  });

  it('sketches one leg when no route is chosen', () => {
    const body = tripBody({ ...FORM, route_id: '', length: '7.5', stops: '4' }, MILES);
    expect(body.route_id).toBeNull();
    expect(body.legs?.[0]).toMatchObject({ length_m: '7.5 mi', stops: 4 });
  });

  it('is asked only with kit and a way', () => {
    expect(askable(FORM)).toBe(true);
    expect(askable({ ...FORM, route_id: '' })).toBe(false);
    expect(askable({ ...FORM, pack_id: '' })).toBe(false);
    expect(hasWay(tripBody(FORM, MILES))).toBe(true);
    expect(hasWay(tripBody({ ...FORM, route_id: '' }, MILES))).toBe(false);
  });

  it('comes back from storage as it was', () => {
    const stored = {
      vehicle_id: 'v',
      pack_id: 'p',
      route_id: 'r',
      target_mps: 5.3,
      temp_c: 4,
      wind_from_deg: 250,
      reserve: 0.2,
      packs_count: 2,
      packs_use: 'in_parallel' as const,
    };
    const body = tripBody(formOf(stored), MILES);
    expect(body).toMatchObject({
      target_mps: '5.3 m/s',
      temp_c: '4 °C',
      wind_from_deg: 250,
      reserve: 0.2,
      packs_count: 2,
      packs_use: 'in_parallel',
    });
  });

  it('reads the compass both ways', () => {
    expect(bearing('sw')).toBe(225);
    expect(bearing('250°')).toBe(250);
    expect(bearing('')).toBeNull();
    expect(compass(236)).toBe('SW');
    expect(compass(350)).toBe('N');
  });

  it('reads a limp table', () => {
    expect(limpTable('44 V: 20 km/h; 41: 6', MILES)).toEqual([
      { below_v: '44 V', max_speed_mps: '20 km/h' },
      { below_v: '41 V', max_speed_mps: '6 mph' },
    ]);
    expect(limpTable('', MILES)).toEqual([]);
  });
});
