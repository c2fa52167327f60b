import { describe, expect, it } from 'vitest';
import type { FollowTable } from '../api/queries';
import type { Readings } from './entry';
import rides from './follow-rides.json';
import { chanceOf, leftNow, standingAt } from './table';

interface Judged {
  code: string;
  arrives: number;
  reaches: number;
  left: number;
  arrival_left: number;
  turn_by_m: number | null;
}

interface FollowedRide {
  table: FollowTable;
  now: Judged;
  later: Array<{ entry: Readings; judged: Judged }>;
}

const RIDES = Object.entries(rides as unknown as Record<string, FollowedRide>);

/** How far a chance may lie beside the core's own [points]: at once, and after the first and second entry. */
const AT_ONCE = 1;
const LATER = [6, 15];

const points = (chance: number, judged: number) => Math.abs(100 * (chance - judged));

describe.each(RIDES)('a ride without signal: %s', (_, { table, now, later }) => {
  it('stands where the core had it', () => {
    const found = standingAt(table, leftNow(table, []));
    expect(found.code).toBe(now.code);
    expect(points(found.arrives, now.arrives)).toBeLessThan(AT_ONCE);
    expect(points(found.reaches, now.reaches)).toBeLessThan(AT_ONCE);
    expect(found.here.left).toBeCloseTo(now.left, 1);
    if (now.turn_by_m !== null) {
      expect(Math.abs(Number(found.values.turn_m ?? 0) - now.turn_by_m)).toBeLessThan(100);
    }
  });

  it('is where the core would have it, after each entry', () => {
    const entries: Readings[] = [];
    for (const [step, { entry, judged }] of later.entries()) {
      entries.push(entry);
      const found = standingAt(table, leftNow(table, entries));
      expect(points(found.arrives, judged.arrives)).toBeLessThan(LATER[step] ?? 0);
      expect(points(found.reaches, judged.reaches)).toBeLessThan(LATER[step] ?? 0);
      // Within what the table itself holds for possible.
      expect(Math.abs(found.here.left - judged.left)).toBeLessThan(2 * found.here.sure);
    }
  });

  it('moves with the track alone, and never forward by standing', () => {
    const before = leftNow(table, []);
    const on = leftNow(table, [], table.done_m + 1500);
    expect(on.left).toBeLessThan(before.left);
    expect(on.sure).toBeGreaterThanOrEqual(before.sure);
    expect(leftNow(table, [], table.done_m - 500)).toEqual(before);
  });

  it('is sooner home the more is left, and the slower it goes', () => {
    const here = leftNow(table, []);
    const chances = [0.05, 0.2, 0.4, 0.6, 0.9].map(
      (left) => standingAt(table, { ...here, left }).arrives,
    );
    expect([...chances].sort((a, b) => a - b)).toEqual(chances);
    // Far slower, what runs beside the motor counts for more: only the next speed is sure to help.
    const [usual, slower] = standingAt(table, { ...here, left: 0.45 }).bySpeed;
    expect(slower?.reaches).toBeGreaterThanOrEqual(usual?.reaches ?? 1);
  });
});

describe('a score', () => {
  it.each([
    [0, 0.5],
    [1.6448536, 0.95],
    [-2.3263479, 0.01],
    [3.5, 0.999767],
  ])('%s is a chance of %s', (score, chance) => {
    expect(chanceOf(score)).toBeCloseTo(chance, 5);
  });
});

describe('a table that was made before the first metre', () => {
  const [ride] = Object.values(rides as unknown as Record<string, FollowedRide>);
  if (!ride) throw new Error('there are no rides');
  const made = { ...ride.table, done_m: 0, at_s: -1, bases: [] };
  const noted = (time_s: number, more: object): Readings =>
    ({ kind: time_s === 0 ? 'start' : 'checkpoint', time_s, ...more }) as Readings;

  it('counts from what was read at the start, an odometer too', () => {
    const entries = [noted(0, { trip_m: 300, odometer_m: 9_000_000 })];
    expect(leftNow(made, [...entries, noted(900, { trip_m: 2300 })]).at_m).toBe(2000);
    expect(leftNow(made, [...entries, noted(900, { odometer_m: 9_001_500 })]).at_m).toBe(1500);
  });

  it('takes a trip meter that nobody read at the start for one that was set to nought', () => {
    expect(leftNow(made, [noted(900, { trip_m: 2300 })]).at_m).toBe(2300);
    expect(leftNow(made, [noted(900, { odometer_m: 9_001_500 })]).at_m).toBe(0);
  });
});
