import { describe, expect, it } from 'vitest';
import type { Units } from '../api/queries';
import {
  asksOf,
  ENTRY,
  exampleOf,
  type FormField,
  fieldOf,
  fieldsOf,
  inReaders,
  lineOf,
  RESERVE,
  sentOf,
  shownWithUnit,
  typedText,
  unitOf,
} from './fields';

const KM: Units = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'kPa' };
const MI: Units = { distance: 'mi', mass: 'st', temperature: '°F', pressure: 'psi' };
const LENGTH = fieldOf('leg', 'length_m');
const COLD = fieldOf('trip', 'temp_c');
const SHARE = fieldOf('trip', 'reserve');
const STOPS = fieldOf('leg', 'stops');
const OHM = fieldOf('pack', 'resistance_ohm');

describe('a field', () => {
  it.each([
    [LENGTH, '12.4', MI, '12.4 mi'],
    [LENGTH, ' 12,4 ', KM, '12,4 km'],
    [LENGTH, '12.4mi', KM, '12.4mi'],
    [LENGTH, '1 234', KM, '1 234 km'],
    [LENGTH, 'far', KM, 'far'],
    [LENGTH, '  ', KM, null],
    [COLD, '-5', MI, '-5 °F'],
    [COLD, '−5', KM, '−5 °C'],
    [SHARE, '15%', KM, 0.15],
    [SHARE, '7,5', MI, 0.075],
    [SHARE, 'some', MI, 'some'],
    [STOPS, '2,5', KM, 2.5],
    [OHM, '110', MI, '110 mΩ'],
    [OHM, '0.11 Ω', MI, '0.11 Ω'],
  ])('%o with %s is sent', (field, typed, units, sent) => {
    expect(sentOf(field, typed, units)).toBe(sent);
  });

  it('comes back as it would be typed', () => {
    // 1 mi = 1609.344 m, 1 lb = 0.45359237 kg, exact (NIST SP 811, B.8).
    expect(typedText(LENGTH, 16_093.44, MI)).toBe('10');
    expect(typedText(LENGTH, 1720, KM)).toBe('1.72');
    expect(typedText(COLD, -5, MI)).toBe('23');
    expect(typedText(SHARE, 0.2, MI)).toBe('20');
    expect(typedText(OHM, 0.1, MI)).toBe('100');
    expect(typedText(LENGTH, null, KM)).toBe('');
  });

  it('has a unit and an example in the rider’s terms', () => {
    expect([unitOf(LENGTH, KM), unitOf(LENGTH, MI), unitOf(SHARE, MI), unitOf(STOPS, MI)]).toEqual([
      'km',
      'mi',
      '%',
      '',
    ]);
    expect(exampleOf(LENGTH, KM)).toBe('12 km');
    expect(exampleOf(LENGTH, MI)).toBe('7.5 mi');
    expect(exampleOf(fieldOf('leg', 'climb_m'), MI)).toBe('130 ft');
    expect(exampleOf(COLD, MI)).toBe('');
  });

  it('is told with its unit where it is read', () => {
    const volts = ENTRY.find((field) => field.name === 'voltage_rest_v') as FormField;
    expect(shownWithUnit(volts, 54.32, KM)).toBe('54.3\u00a0V');
    const hot = ENTRY.find((field) => field.name === 'battery_temp_c') as FormField;
    expect(shownWithUnit(hot, 20, MI)).toBe('68\u00a0°F');
  });

  it('says its hint in the rider’s units', () => {
    const hot = ENTRY.find((field) => field.name === 'battery_temp_c') as FormField;
    expect(asksOf(hot, KM)).toBe('Stop above 60\u00a0°C');
    expect(asksOf(hot, MI)).toBe('Stop above 140\u00a0°F');
    expect(exampleOf(fieldOf('ride', 'lap_length_m'), MI)).toBe('1720 m');
  });

  it('that the core does not know is a fault of ours', () => {
    expect(() => fieldOf('leg', 'depth_m')).toThrow('leg has no field depth_m');
  });
});

describe('every field of every form', () => {
  const forms = [
    'vehicle',
    'pack',
    'rider',
    'leg',
    'trip',
    'claim',
    'cell',
    'plan',
    'ride',
  ] as const;
  it.each(forms)('%s comes back as it was sent', (form) => {
    for (const field of fieldsOf(form)) {
      for (const units of [KM, MI]) {
        const typed = typedText(field, 0.75, units);
        const sent = sentOf(field, typed, units);
        if (field.shown === 'unit') expect(sent).toBe(`${typed} ${unitOf(field, units)}`);
        else expect(sent).toBeCloseTo(0.75, 9);
      }
    }
  });
});

describe('the table of units', () => {
  it('is the core’s, with stones read as pounds', () => {
    expect(lineOf('mass', MI).unit).toBe('lb');
    expect(inReaders('temperature', -40, MI)).toBeCloseTo(-40);
    expect(lineOf('voltage', MI).unit).toBe('V');
    expect(RESERVE).toBe(0.2);
  });
});
