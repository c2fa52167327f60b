import { describe, expect, it } from 'vitest';
import type { Leg } from '../api/queries';
import { legBody, legText, readingsOf, readingsText } from './legForm';
import { along, heightsOfLegs, pathOf } from './profile';

const LEG: Leg = {
  length_m: 1000,
  climb_m: 30,
  descent_m: 10,
  bearing_deg: 90,
  surface: 'smooth_paved',
  stops: 2,
  speed_mps: null,
  winding: false,
};
const KM = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'kPa' } as const;
const MI = { ...KM, distance: 'mi' } as const;

describe('a route for drawing', () => {
  it('goes up, then down within a leg', () => {
    expect(heightsOfLegs([LEG])).toEqual({ distance_m: [0, 750, 1000], height_m: [0, 30, 20] });
  });

  it('has a path when every leg has a bearing', () => {
    const path = pathOf({ profile: null, legs: [LEG, { ...LEG, bearing_deg: 0 }] });
    expect(path?.east_m.at(-1)).toBeCloseTo(1000);
    expect(path?.north_m.at(-1)).toBeCloseTo(1000);
    expect(pathOf({ profile: null, legs: [{ ...LEG, bearing_deg: null }] })).toBeNull();
  });

  it('is read between its points', () => {
    expect(along([0, 100, 200], [0, 10, 0], 150)).toBe(5);
    expect(along([0, 100], [3, 7], 500)).toBe(7);
  });
});

describe('a leg in the form', () => {
  it('comes back as it was stored', () => {
    const body = legBody(legText(LEG, 0, KM), KM);
    expect(body).toMatchObject({
      length_m: '1 km',
      climb_m: '30 m',
      descent_m: '10 m',
      bearing_deg: 90,
      stops: 2,
      speed_mps: null,
    });
  });

  it('comes back in miles and feet to a rider of miles', () => {
    const text = legText({ ...LEG, length_m: 16_093.44, climb_m: 30.48, speed_mps: 4.4704 }, 0, MI);
    expect(text.typed).toMatchObject({ length_m: '10', climb_m: '100', speed_mps: '10' });
    expect(legBody(text, MI)).toMatchObject({
      length_m: '10 mi',
      climb_m: '100 ft',
      speed_mps: '10 mph',
    });
  });

  it('takes readings in any unit and with either decimal mark', () => {
    expect(readingsOf('1720, 1,716 km; 1 728 m\n1 mi', KM)).toEqual([
      '1720 m',
      '1,716 km',
      '1 728 m',
      '1 mi',
    ]);
    expect(readingsOf('  ', KM)).toEqual([]);
    expect(readingsOf(readingsText([1720, 1716.5], KM), KM)).toEqual(['1720 m', '1716.5 m']);
  });
});
