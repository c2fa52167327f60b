import { describe, expect, it } from 'vitest';
import { askable, bearing, blankTrip, compass, formOf, hasWay, tripBody } from './form';

const MILES = { distance: 'mi', mass: 'lb', temperature: '°F', pressure: 'psi' } as const;
const FORM = { ...blankTrip(), vehicle_id: 'v', pack_id: 'p', route_id: 'r' };

describe('a trip as typed', () => {
  it('sends what is typed with the rider’s unit', () => {
    const body = tripBody(
      {
        ...FORM,
        typed: { ...FORM.typed, temp_c: '28', wind_mps: '9', tyre_kpa: '40', target_mps: '12' },
      },
      MILES,
    );
    expect(body).toMatchObject({
      temp_c: '28 °F',
      wind_mps: '9 mph',
      tyre_kpa: '40 psi',
      target_mps: '12 mph',
      route_id: 'r',
      legs: null,
      reserve: 0.2,
    });
  });

  it('sketches one leg when no route is chosen', () => {
    const body = tripBody(
      { ...FORM, route_id: '', sketch: { length_m: '7.5', stops: '4' } },
      MILES,
    );
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

  const STORED = {
    vehicle_id: 'v',
    pack_id: 'p',
    route_id: 'r',
    target_mps: 5.3,
    temp_c: 4,
    wind_mps: 4.4704,
    wind_from_deg: 250,
    tyre_kpa: 275.790291727,
    reserve: 0.25,
    known_consumption_wh_per_km: 10,
    packs_count: 2,
    packs_use: 'in_parallel' as const,
  };

  it('comes back from storage in the rider’s units', () => {
    // 1 mi = 1609.344 m; 1 psi = 6.894757 kPa (NIST SP 811, B.8).
    expect(formOf(STORED, MILES).typed).toMatchObject({
      target_mps: '11.856',
      temp_c: '39.2',
      wind_mps: '10',
      tyre_kpa: '40',
      wind_from_deg: '250',
      reserve: '25',
      known_consumption_wh_per_km: '16.093',
    });
  });

  it('is sent again as it came back', () => {
    expect(tripBody(formOf(STORED, MILES), MILES)).toMatchObject({
      target_mps: '11.856 mph',
      temp_c: '39.2 °F',
      wind_from_deg: 250,
      reserve: 0.25,
      packs_count: 2,
      packs_use: 'in_parallel',
      known_consumption_wh_per_km: '16.093 Wh/mi',
    });
  });

  it('leaves an emptied share to the server', () => {
    const body = tripBody({ ...FORM, typed: { ...FORM.typed, reserve: ' ' } }, MILES);
    expect('reserve' in body).toBe(false);
    expect(body.probability).toBe(0.95);
  });

  it('reads the compass both ways', () => {
    expect(bearing('sw')).toBe(225);
    expect(bearing('250°')).toBe(250);
    expect(bearing('')).toBeNull();
    expect(compass(236)).toBe('SW');
    expect(compass(350)).toBe('N');
  });
});
