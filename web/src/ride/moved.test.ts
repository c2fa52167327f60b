import { describe, expect, it } from 'vitest';
import type { Units } from '../api/queries';
import type { RideEntry } from '../roadside/ride';
import { movedWords } from './moved';

const MI: Units = { distance: 'mi', mass: 'lb', temperature: '°F', pressure: 'psi' };
const MILE = 1609.344;
const entry = (id: string, read: Partial<RideEntry> = {}): RideEntry => ({
  id,
  kind: 'checkpoint',
  time_s: 0,
  where: 'stored',
  changes: 0,
  ...read,
});
const before = {
  cutoff_m: [40, 50, 60].map((far) => far * MILE),
  entries: [
    { id: 'a', changes: 0 },
    { id: 'b', changes: 0 },
  ],
};
const words = (now: number | null, added: RideEntry[], kept = [entry('a'), entry('b')]) =>
  movedWords(before, now === null ? null : now * MILE, [...kept, ...added], MI);

describe('what moved an answer', () => {
  it('is not told while it stays within its own interval', () => {
    expect(words(45, [entry('c', { gauge: 40 })])).toBe('');
    expect(words(null, [entry('c', { gauge: 40 })])).toBe('');
    expect(movedWords(null, 10, [entry('c', { gauge: 40 })], MI)).toBe('');
  });

  it('is the reading that came', () => {
    expect(words(30, [entry('c', { voltage_rest_v: 38.1, trip_m: 9 })])).toBe(
      'Cut-off moved from 50.0 mi to 30.0 mi because of the resting volts',
    );
    expect(words(70, [entry('c', { gauge: 80, charge_ah: 3 })])).toMatch(/of the gauge and the /);
    expect(words(30, [entry('c', { trip_m: 9 })])).toMatch(/because of the distance$/);
    expect(words(30, [entry('c', { kind: 'event', what: 'rain' })])).toMatch(/what you noted$/);
  });

  it('is a correction, a removal, or a change of the sheet', () => {
    const corrected = [entry('a', { changes: 1 }), entry('b')];
    expect(words(30, [], corrected)).toMatch(/your correction$/);
    expect(words(30, [], [entry('a')])).toMatch(/your correction$/);
    expect(words(30, [])).toMatch(/what you changed$/);
  });
});
