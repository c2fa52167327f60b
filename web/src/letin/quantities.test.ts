import { expect, test } from 'vitest';
import { unitChoices, unitChosen, unitSent, usualUnit } from './quantities';

test('a part of a unit is said, chosen and sent as one', () => {
  const read = { quantity: 'voltage_v', unit: '', factor: 0.1 } as const;
  expect(unitChosen(read)).toBe('0.1 V');
  expect(unitSent('0.1 V')).toEqual({ unit: 'V', factor: 0.1 });
  expect(unitSent('km/h')).toEqual({ unit: 'km/h', factor: 1 });
});

test('a unit that is spelled otherwise is among the choices, and one that is known stands once', () => {
  expect(unitChoices({ quantity: 'voltage_v', unit: 'vdc' })[0]).toBe('vdc');
  expect(unitChoices({ quantity: 'speed_mps', unit: 'KM/H' })).toHaveLength(4);
  expect(unitChosen({ quantity: 'speed_mps', unit: 'KM/H' })).toBe('km/h');
});

test('what names no unit is in the core’s own', () => {
  expect(unitChosen({ quantity: 'speed_mps' })).toBe('m/s');
  expect(unitChosen({ quantity: 'gauge' })).toBe('');
  expect(usualUnit('distance_m')).toBe('km');
});
