import { describe, expect, it } from 'vitest';
import type { Follow, FollowTable } from '../api/queries';
import type { Readings } from '../roadside/entry';
import rides from '../roadside/follow-rides.json';
import type { Ride } from '../roadside/ride';
import { riddenOf } from './now';

const [{ table }] = Object.values(rides as unknown as Record<string, { table: FollowTable }>) as [
  { table: FollowTable },
];

function ride(entries: Readings[], more: Partial<Ride> = {}): Ride {
  return {
    entries: entries.map((entry, index) => ({ ...entry, id: `${index}`, where: 'stored' })),
    lap_length_m: null,
    unsent: [],
    follow: null,
    table: null,
    detail: null,
    ...more,
  } as unknown as Ride;
}

const judged = (metres: number, at_s: number) =>
  ({ at_s, distance: { value: metres } }) as unknown as Follow;

const noted = (time_s: number, trip_m: number): Readings => ({
  kind: 'checkpoint',
  time_s,
  trip_m,
});

describe('how far a ride has come', () => {
  it('is what the core made of a trip meter that runs fast, not what that shows', () => {
    const entries = [noted(0, 0), noted(2400, 10_500)];
    expect(riddenOf(ride(entries, { follow: judged(9800, 2400) }))).toBe(9800);
  });

  it('is by its table where an entry has not been judged', () => {
    const [base] = table.bases;
    if (base?.name !== 'trip_m') throw new Error('the table has no trip meter');
    const entries = [noted(table.at_s + 600, base.shown + 1000)];
    const asked = { follow: judged(table.done_m, table.at_s), table };
    expect(riddenOf(ride(entries, asked))).toBeCloseTo(base.at_m + 1000, 0);
    expect(riddenOf(ride(entries, asked), base.at_m + 1400)).toBeCloseTo(base.at_m + 1400, 0);
  });

  it('is what the readings say where the core has said nothing', () => {
    expect(riddenOf(ride([noted(0, 200), noted(600, 2200)]))).toBe(2000);
    expect(riddenOf(ride([noted(0, 200), noted(600, 2200)]), 2500)).toBe(2500);
  });
});
