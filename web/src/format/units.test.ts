import { describe, expect, it } from 'vitest';
import type { Figures, Quantity, Units } from '../api/queries';
import { withUnit } from './number';
import {
  chance,
  clock,
  consumptionFigures,
  day,
  distance,
  distanceFigure,
  distanceText,
  elapsed,
  height,
  massText,
  number,
  percent,
  speed,
  temperatureText,
  windText,
} from './units';

const MILES: Units = { distance: 'mi', mass: 'kg', temperature: '°C', pressure: 'kPa' };
const KM: Units = { ...MILES, distance: 'km' };

const quantity = (value: number, half: number, unit = 'm'): Quantity => ({
  value,
  unit,
  standard_uncertainty: half / 2,
  low: value - half,
  high: value + half,
  coverage: 0.95,
});

describe('figures', () => {
  it('give a decimal to small ones and none to large ones', () => {
    expect(number(18.94)).toBe('18.9');
    expect(number(189.4)).toBe('189');
    expect(number(-3.25, 1)).toBe('−3.3');
  });

  it('never show a negative nothing', () => {
    expect(number(-0.01)).toBe('0.0');
  });

  it('carry their interval in the unit they are read in', () => {
    // 1 mi = 1609.344 m, international yard and pound agreement, 1959.
    const found = distanceFigure(quantity(50_000, 3218.688), MILES);
    expect(found).toEqual({ value: '31.1', unit: 'mi', plusMinus: '2.0', span: '29.1 to 33.1' });
  });

  it('put the consumption first in the unit of the road signs', () => {
    const figures = {
      wh_per_mi: quantity(18.9, 0.5, 'Wh/mi'),
      wh_per_km: quantity(11.74, 0.3, 'Wh/km'),
    } as Figures;
    expect(consumptionFigures(figures, MILES)?.map((f) => f.unit)).toEqual(['Wh/mi', 'Wh/km']);
    expect(consumptionFigures(figures, KM)?.map((f) => f.value)).toEqual(['11.7', '18.9']);
    expect(consumptionFigures({ ...figures, wh_per_mi: null }, KM)).toBeNull();
  });
});

describe('units', () => {
  it('follow the rider', () => {
    expect(distance(1609.344, MILES)).toBe(1);
    expect(distance(1609.344, KM)).toBeCloseTo(1.609344);
    expect(distanceText(16_093.44, MILES)).toBe('10.0 mi');
    expect(speed(10, KM)).toBeCloseTo(36);
    expect(height(0.3048, MILES)).toBe(1);
    expect(windText(5, KM)).toBe('wind 18 km/h');
  });

  it('know pounds, stones and Fahrenheit', () => {
    // 1 lb = 0.45359237 kg exactly; 14 lb to the stone.
    expect(massText(90.718474, { ...MILES, mass: 'lb' })).toBe('200 lb');
    expect(massText(69.853225, { ...MILES, mass: 'st' })).toBe('11 st 0 lb');
    expect(temperatureText(-40, { ...MILES, temperature: '°F' })).toBe('−40 °F');
    expect(temperatureText(9.4, MILES)).toBe('9 °C');
  });

  it('keep a share and its sign on one line', () => {
    expect(percent(0.153)).toBe('15%');
    expect(percent(0.003)).toBe('0.3%');
    expect(percent(0)).toBe('0%');
    expect(percent(0.0001)).toBe('0%');
    expect(chance(0.153)).toBe('15%');
    expect(chance(1)).toBe('over 99%');
    expect(chance(0)).toBe('under 1%');
  });
});

describe('time', () => {
  it('is the clock of where the test was noted', () => {
    expect(clock('2026-05-14T09:12:30+02:00', 3570)).toBe('10:12');
    expect(clock('2026-05-14T23:50:00+00:00', 1200)).toBe('00:10');
    expect(clock(null, 4000)).toBe('1 h 06');
  });

  it('says how long in minutes and hours', () => {
    expect(elapsed(59 * 60 + 59)).toBe('59 min');
    expect(elapsed(2 * 3600 + 5 * 60)).toBe('2 h 05');
  });

  it('does not move a day to another zone', () => {
    expect(day('2026-05-14T00:30:00+13:00')).toBe('14 May 2026');
    expect(day(undefined)).toBe('undated');
  });
});

describe('a unit', () => {
  it('stands close where it is percent, else a space away, and leaves none where there is none', () => {
    expect(withUnit('66', '%')).toBe('66%');
    expect(withUnit('54.4', 'V')).toBe('54.4\u00a0V');
    expect(withUnit('3', '')).toBe('3');
  });
});
