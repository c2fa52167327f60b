import { describe, expect, it } from 'vitest';
import type { Comparison, Units } from '../api/queries';
import {
  addressOf,
  atConditions,
  changeText,
  dealt,
  figureText,
  guessText,
  isFlipped,
  judgedText,
  moved,
  shareText,
  sidesOf,
  stepsOf,
} from './sides';

const KM: Units = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'kPa' };
const MI: Units = { ...KM, distance: 'mi' };

const quantity = (value: number, half = 0.5) => ({
  value,
  unit: 'Wh/km',
  standard_uncertainty: half / 2,
  low: value - half,
  high: value + half,
  coverage: 0.95,
});

const change = (name: string, applied_to: 'first' | 'second', value: number) => ({
  name,
  applied_to,
  change: quantity(value),
});

const comparison = (more: object) =>
  ({
    quantity: 'wh_per_km',
    as_found: quantity(3),
    difference: quantity(0.5),
    corrections: [change('wind', 'second', -2), change('load', 'second', -0.5)],
    ...more,
  }) as unknown as Comparison;

describe('two sides', () => {
  it('are in the address, nothing on both', () => {
    const sides = sidesOf(new URLSearchParams('first=a,b,a&second=b,c'));
    expect(sides).toEqual({ first: ['a', 'b'], second: ['c'] });
    const address = addressOf(sides, 'pack');
    expect(sidesOf(new URLSearchParams(address.split('?')[1]))).toEqual(sides);
    expect(address).toContain('question=pack');
  });

  it('are dealt by kit, and one against the rest where all are alike', () => {
    const test = (id: string, vehicle_name: string, pack_name = 'Eider') => ({
      id,
      vehicle_name,
      pack_name,
    });
    expect(dealt([test('a', 'Plover'), test('b', 'Dotterel'), test('c', 'Plover')])).toEqual({
      first: ['a', 'c'],
      second: ['b'],
    });
    expect(dealt([test('a', 'Plover'), test('b', 'Plover'), test('c', 'Plover')])).toEqual({
      first: ['a'],
      second: ['b', 'c'],
    });
    expect(dealt([test('a', 'Plover'), test('b', 'Plover', 'Worn')])).toEqual({
      first: ['a'],
      second: ['b'],
    });
    expect(dealt([])).toEqual({ first: [], second: [] });
  });

  it('change by moving a test, and neither is left empty', () => {
    const sides = { first: ['a', 'b'], second: ['c'] };
    expect(moved(sides, 'a')).toEqual({ first: ['b'], second: ['c', 'a'] });
    expect(moved(sides, 'c')).toEqual(sides);
  });
});

describe('the steps from what was found to what is left', () => {
  it('go on from each other to the difference', () => {
    expect(stepsOf(comparison({}))).toEqual([
      { name: 'wind', from: 3, to: 1 },
      { name: 'load', from: 1, to: 0.5 },
    ]);
  });

  it('take what was set right in the first off the other way', () => {
    const corrections = [change('wind', 'first', 2), change('wind', 'second', -0.5)];
    expect(stepsOf(comparison({ corrections }))).toEqual([{ name: 'wind', from: 3, to: 0.5 }]);
  });

  it('tell what single conditions do not account for', () => {
    const corrections = [change('wind', 'second', -2)];
    expect(stepsOf(comparison({ corrections })).at(-1)).toEqual({ name: 'rest', from: 1, to: 0.5 });
  });

  it('are none where nothing could be compared', () => {
    expect(stepsOf(comparison({ difference: null }))).toEqual([]);
  });
});

describe('figures of a comparison', () => {
  it('are read in the units of their reader', () => {
    expect(figureText(10, { quantity: 'wh_per_km' }, MI)).toBe('16.1\u00a0Wh/mi');
    expect(figureText(10_000, { quantity: 'range_to_cutoff' }, KM)).toBe('10.0\u00a0km');
    expect(figureText(0.77, { quantity: 'retained_fraction' }, KM)).toBe('77.0%');
  });

  it('have a sign where they changed, and none where they did not', () => {
    expect(changeText(-1.94, { quantity: 'wh_per_km' }, KM)).toBe('−1.9\u00a0Wh/km');
    expect(changeText(0.02, { quantity: 'wh_per_km' }, KM)).toBe('0.0\u00a0Wh/km');
    expect(changeText(-0.175, { quantity: 'retained_fraction' }, KM)).toBe('−17.5\u00a0points');
    const share = { value: -0.15, low: -0.28, high: 0.01 };
    expect(shareText(comparison({ relative_difference: share }))).toBe('−15% (−28% to +1%)');
  });
});

describe('a blind judgement', () => {
  it('hides the sides the same way however often it is opened, and not always the same', () => {
    const sides = ['a', 'b', 'c', 'd', 'e', 'f'].map((id) => isFlipped([id, 'z']));
    expect(new Set(sides).size).toBe(2);
    expect(isFlipped(['a', 'z'])).toBe(isFlipped(['a', 'z']));
  });

  it('stands beside the verdict', () => {
    expect(guessText('first', 'first_less')).toContain('A uses less. The evidence agrees.');
    expect(guessText('second', 'first_less')).toContain('B uses less. The evidence disagrees.');
    expect(guessText('neither', 'no_difference_shown')).toContain('The evidence agrees.');
    expect(guessText('neither', 'not_comparable')).not.toContain('evidence');
  });
});

describe('how a verdict was come to', () => {
  const told = (judged_by: 'paired' | 'welch' | 'interval', learned_runs = 0) =>
    judgedText({
      judged_by,
      run_spread: 0.031,
      learned_runs,
      runs: [{ side: 'first' }, { side: 'first' }, { side: 'second' }, { side: 'second' }],
    });

  it('names pairs, groups and what runs are known to differ by', () => {
    expect(told('paired')).toContain('2 pairs, ridden in turns');
    expect(told('welch')).toContain('2 and 2 rides');
    expect(told('interval', 7)).toBe('One ride each; rides vary by 3.1%, as 7 earlier ones show');
    expect(told('interval')).toContain('assuming rides vary by about 3.1%');
    expect(judgedText({ judged_by: null, run_spread: null, learned_runs: 0, runs: [] })).toBe('');
  });
});

describe('the conditions that both sides are told at', () => {
  it('are those of the first, but for what is asked about', () => {
    expect(atConditions('vehicle')).toBe('at A’s conditions');
    expect(atConditions('load')).toBe('at A’s conditions, each with its own load');
    expect(atConditions('tyres')).toBe('at A’s conditions, each with its own tyre pressure');
  });
});
