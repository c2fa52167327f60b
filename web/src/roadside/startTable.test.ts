import { describe, expect, it } from 'vitest';
import type { Readings } from './entry';
import rides from './start-rides.json';
import values from './start-values.json';
import { startTable } from './startTable';
import type { StartSaid } from './store';
import { standingNow } from './table';

type Case = {
  said: StartSaid;
  gauge_steps: number | null;
  entries: Readings[];
  further_m: number;
  reaches: number;
  left: { value: number; standard_uncertainty: number };
};
const CASES = Object.entries(rides as unknown as Record<string, Case>);

function standing(ride: Case) {
  const table = startTable(values, ride.said, ride.gauge_steps);
  const here_m = ride.entries.at(-1)?.trip_m ?? 0;
  const ahead = { way: 'given', from_m: here_m, until_m: here_m + ride.further_m } as const;
  return standingNow(table, ride.entries, null, ahead);
}

describe('start values', () => {
  it.each(CASES)('say of %s nearly what the core does', (_, ride) => {
    const found = standing(ride);
    // Two wide answers of the same evidence: within 15 points, and neither far narrower.
    expect(Math.abs(found.reaches - ride.reaches)).toBeLessThan(0.15);
    expect(found.here.sure).toBeGreaterThan(0.4 * ride.left.standard_uncertainty);
  });

  it('are sure of nothing before something showed charge', () => {
    const [, ride] = CASES[0] as [string, Case];
    expect(standing({ ...ride, further_m: 500 }).reaches).toBeLessThanOrEqual(0.94);
    const [, told] = CASES[1] as [string, Case];
    expect(standing({ ...told, further_m: 500 }).reaches).toBeGreaterThan(0.97);
    // A gauge of which nobody knows the steps has shown nothing.
    const [, percent] = CASES[2] as [string, Case];
    const full = { ...percent, said: { ...percent.said, charge: 'just_charged' as const } };
    const near = { ...full, entries: full.entries.slice(0, 2), further_m: 200 };
    expect(standing(near).reaches).toBeGreaterThan(0.97);
    expect(standing({ ...near, gauge_steps: null }).reaches).toBeLessThanOrEqual(0.94);
  });

  it('know less of a pack that nobody described, and more of one that was just charged', () => {
    const [, ride] = CASES[0] as [string, Case];
    const spread = (said: Partial<StartSaid>) => {
      const { reach } = standing({ ...ride, said: { ...ride.said, ...said } });
      return reach[2] / Math.max(reach[0], 1);
    };
    expect(spread({ series: null })).toBeGreaterThan(1.5 * spread({}));
    expect(spread({ charge: '' })).toBeGreaterThan(spread({}));
  });

  it('count two packs together, and not the one in the bag', () => {
    const [, ride] = CASES[0] as [string, Case];
    const reach = (said: Partial<StartSaid>) =>
      standing({ ...ride, said: { ...ride.said, ...said } }).reach[1];
    const one = reach({});
    expect(reach({ packs: 2, packs_use: 'in_parallel' })).toBeGreaterThan(2 * one);
    expect(reach({ packs: 2, packs_use: 'in_sequence' })).toBeGreaterThan(2 * one);
    expect(reach({ packs: 2, packs_use: 'spare' })).toBeCloseTo(one, 0);
    const bag = startTable(values, { ...ride.said, packs: 2, packs_use: 'spare' }, null);
    expect(bag.in_bag).toBe(1);
  });

  it('tell by when to turn, on a ride out and back that nobody judged', () => {
    const [, ride] = CASES[1] as [string, Case];
    const table = startTable(values, ride.said, null);
    const found = standingNow(table, ride.entries);
    expect(found.code).toMatch(/turn_(by|now)/);
    const at = (trip_m: number, voltage_rest_v: number) =>
      standingNow(table, [
        ...ride.entries,
        { kind: 'checkpoint', time_s: 8000, trip_m, voltage_rest_v },
      ]);
    const late = at(22_000, 46.5);
    expect(late.code).toBe('turn_now');
    expect(late.reaches).toBeLessThan(found.reaches);
    // Where turning hardly helps any more that is said.
    const far = at(30_000, 44);
    expect(far.code).toBe('not_home');
    expect(far.reaches).toBeLessThan(0.2);
  });

  it('go round a lap whose length is known', () => {
    const [, ride] = CASES[1] as [string, Case];
    const table = startTable(values, { ...ride.said, lap_length_m: 2000 }, null);
    expect(standingNow(table, ride.entries).code).toMatch(/^laps/);
  });
});
