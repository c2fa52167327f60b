import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import core from '../api/core.json';
import type { FollowTable } from '../api/queries';
import type { Readings } from './entry';
import rides from './follow-rides.json';
import { type Left, placeIn } from './readings';
import { type Standing, standingNow } from './table';

interface Judged {
  code: string;
  arrives: number;
  reaches: number;
  left: number;
  range_m: number;
  turn_by_m: number | null;
}

interface FollowedRide {
  table: FollowTable;
  now: Judged;
  later: Array<{ entry: Readings; judged: Judged }>;
}

const RIDES = Object.entries(rides as unknown as Record<string, FollowedRide>);

const points = (chance: number, judged: number) => Math.abs(100 * (chance - judged));

describe.each(RIDES)('a ride without signal: %s', (_, { table, now, later }) => {
  it('stands where the core had it', () => {
    const found = standingNow(table, []);
    expect(found.code).toBe(now.code);
    expect(points(found.arrives, now.arrives)).toBeLessThan(1);
    expect(points(found.reaches, now.reaches)).toBeLessThan(1);
    expect(found.here.left).toBeCloseTo(now.left, 1);
  });

  it('is where the core would have it, after each entry', () => {
    const entries: Readings[] = [];
    for (const { entry, judged } of later) {
      entries.push(entry);
      const found = standingNow(table, entries);
      expect(points(found.arrives, judged.arrives)).toBeLessThan(13);
      expect(points(found.reaches, judged.reaches)).toBeLessThan(13);
      expect(Math.abs(found.here.left - judged.left)).toBeLessThan(2 * found.here.sure);
    }
  });

  it('moves with the track alone, and never forward by standing', () => {
    const before = standingNow(table, []);
    const on = standingNow(table, [], table.done_m + 1500);
    expect(on.here.left).toBeLessThan(before.here.left);
    expect(standingNow(table, [], table.done_m - 500)).toEqual(before);
  });

  it('is sooner home the slower it goes', () => {
    const [usual, slower] = standingNow(table, []).bySpeed;
    expect(slower?.reaches).toBeGreaterThanOrEqual(usual?.reaches ?? 1);
  });

  it('answers for another way that its rider says, without anybody being asked', () => {
    const given = (km: number) =>
      standingNow(table, [], null, {
        way: 'given',
        from_m: table.done_m,
        until_m: table.done_m + 1000 * km,
      });
    const chances = [1, 10, 20, 40, 90].map((km) => given(km).reaches);
    expect(chances).toEqual([...chances].sort((a, b) => b - a));
    expect(chances[0]).toBeGreaterThan(0.9);
    expect(chances.at(-1)).toBeLessThan(0.1);
  });
});

describe('what is told', () => {
  const [[, { table }]] = RIDES as [[string, FollowedRide]];

  it('is never near certain before a reading has shown charge', () => {
    const unread: FollowTable = { ...table, shows_charge: false };
    const near = { way: 'given' as const, from_m: table.done_m, until_m: table.done_m + 500 };
    const reaches = (entries: Readings[], made = unread) =>
      standingNow(made, entries, null, near).reaches;
    expect(reaches([], table)).toBeGreaterThan(0.99);
    expect(reaches([])).toBe(core.most_unshown);
    const read = { kind: 'checkpoint' as const, time_s: table.at_s + 60, voltage_rest_v: 50.4 };
    expect(reaches([read])).toBeGreaterThan(core.most_unshown);
  });

  it('is a turn as the trip meter will show it', () => {
    const [, { table: back }] = RIDES.find(([name]) => name.includes('out and back')) as [
      string,
      FollowedRide,
    ];
    const { reads } = back;
    if (reads === null) throw new Error('the table knows no trip meter');
    const fast: FollowTable = { ...back, reads: { ...reads, per_m: 1.05 } };
    const { values } = standingNow(fast, []);
    const to_go_m = Number(values.turn_m) - reads.at_m;
    expect(to_go_m).toBeGreaterThan(500);
    expect(Number(values.turn_shown_m)).toBeCloseTo(reads.shown_m + 1.05 * to_go_m, 0);
    // It is named as what the rider looks at.
    expect(values.reads).toBe('the trip meter reads');
  });

  it('is the range that the display promises, less what was ridden since', () => {
    const read: Readings = { kind: 'event', time_s: table.at_s + 60, shown_range_m: 5000 };
    const { code, values } = standingNow(table, [read], table.done_m + 1000);
    expect(code).toBe('shown_short');
    expect(values.shown_m).toBeCloseTo(4000, -2);
  });
});

describe('readings without signal', () => {
  const ride = (name: string) =>
    RIDES.find(([found]) => found.includes(name)) as [string, FollowedRide];

  it('that cannot all be true are said to be so', () => {
    const [, { table }] = ride('volts at stops');
    const up_and_down = [50.2, 42.1, 52.4].map((voltage_rest_v, k) => ({
      kind: 'checkpoint' as const,
      time_s: table.at_s + 600 * (k + 1),
      trip_m: table.done_m + 1500 * (k + 1),
      voltage_rest_v,
    }));
    expect(standingNow(table, up_and_down.slice(0, 1)).code).not.toBe('contradict');
    expect(standingNow(table, up_and_down).code).toBe('contradict');
  });

  it('of a counter move what was taken, and never what the pack holds', () => {
    const [, { table }] = ride('metered, out and back');
    const last = 3.5;
    const having = (ah: number) =>
      standingNow(table, [
        {
          kind: 'checkpoint',
          time_s: table.at_s + 700,
          trip_m: table.done_m + 4000,
          charge_ah: last + ah,
        },
      ]);
    const [none] = having(1.2).path;
    const used = (ah: number) => (none as Left).left - (having(ah).path.at(-1) as Left).left;
    // Twice the charge is twice the share, though a metre was foreseen to take 1.2 Ah in 4 km.
    expect(used(2.4) / used(1.2)).toBeCloseTo(2, 1);
    // A road model that is so far off by what was counted is taken for no surer than that.
    const half = (one: Standing) => (one.perMetre[2] - one.perMetre[0]) / one.perMetre[1];
    expect(having(3).perMetre[1] / having(1.2).perMetre[1]).toBeGreaterThan(2);
    expect(half(having(3))).toBeGreaterThan(half(having(1.2)));
  });
});

describe('what the core says of a table', () => {
  const ride = (name: string) =>
    RIDES.find(([found]) => found.includes(name)) as [string, FollowedRide];

  it('of a said speed is held by whoever came by it on the mean', () => {
    const [, { table }] = ride('metered, out and back');
    const speed = table.speeds_mps[0] as number;
    const begun: FollowTable = { ...table, done_m: 0, at_s: -1, bases: [], reads: null };
    const entries: Readings[] = [0, 6000].map((trip_m) => ({
      kind: trip_m === 0 ? 'start' : 'checkpoint',
      time_s: trip_m / speed,
      trip_m,
    }));
    const takes = (said_mps: number | null) =>
      standingNow({ ...begun, said_mps }, entries).perMetre[1];
    // Without a word of it, it was a tenth faster between lights that nobody noted.
    expect(takes(null)).toBeGreaterThan(1.02 * takes(speed));
  });

  it('of a gauge is worth less the more often it is read', () => {
    const [, { table }] = ride('percent');
    const left = (times: number) => {
      const read = Array.from({ length: times }, (_, k) =>
        noted(table.at_s + 60 * (k + 1), { trip_m: table.done_m + 10 * (k + 1), gauge: 60 }),
      );
      return standingNow(table, read).here.left;
    };
    // Fifteen more that all say the same move it less than the second and third did.
    expect(left(3) - left(18)).toBeLessThan(0.25 * (left(1) - left(3)));
  });

  it('of heights that nobody noted is of what was counted, not of what was foreseen', () => {
    const [, { table }] = ride('metered, out and back');
    const read = noted(table.at_s + 700, { trip_m: table.done_m + 4000, charge_ah: 7 });
    const takes = (height_m: number) =>
      standingNow({ ...table, height_m, step_std: 0.05 }, [read]).perMetre[1];
    // Of three times what was foreseen so little a hill is next to nothing.
    expect(takes(800)).toBeGreaterThan(0.93 * takes(0));
  });

  it('of the pack gives less where a metre takes more, as far as the core says', () => {
    const [, { table }] = ride('metered, out and back');
    const read = noted(table.at_s + 700, { trip_m: table.done_m + 4000, charge_ah: 7 });
    const reach = (heat_slope: number) => standingNow({ ...table, heat_slope }, [read]).reach[1];
    expect(reach(-0.1)).toBeLessThan(0.99 * reach(0));
  });

  it('of what no reading tells of stays as unsure as it is', () => {
    const [, { table }] = ride('metered, out and back');
    const read: Readings = {
      kind: 'checkpoint',
      time_s: table.at_s + 700,
      trip_m: table.done_m + 4000,
      charge_ah: 4.7,
    };
    const sure = (by: number) => {
      const last_wh = table.last_wh.map((wh) => by * wh);
      const left_wh = table.left_wh.map((wh, draw) => wh + (by - 1) * (table.last_wh[draw] ?? 0));
      return standingNow({ ...table, last_wh, left_wh }, [read]).here.sure;
    };
    expect(sure(4)).toBeGreaterThan(1.5 * sure(1));
    const told = standingNow({ ...table, last_wh: table.last_wh.map(() => 0) }, [read]);
    expect(told.here.left).not.toBe(standingNow(table, [read]).here.left);
  });
});

describe('what was read since the table', () => {
  const ride = (name: string) =>
    RIDES.find(([found]) => found.includes(name)) as [string, FollowedRide];
  const [, { table: back }] = ride('metered, out and back');
  const on = (minutes: number, km: number, more: Partial<Readings> = {}) =>
    noted(back.at_s + 60 * minutes, { trip_m: back.done_m + 1000 * km, ...more });

  it('is only what is later than it: its own last entry is in it already', () => {
    const last = noted(back.at_s, { trip_m: back.done_m + 3000 });
    expect(standingNow(back, [last])).toEqual(standingNow(back, []));
    expect(standingNow(back, [{ ...last, time_s: back.at_s + 1 }]).here.at_m).toBeGreaterThan(
      back.done_m + 2000,
    );
  });

  it('turns where it says so, not where it is by now', () => {
    const made: FollowTable = {
      ...back,
      bases: [{ name: 'trip_m', shown: back.done_m, at_m: back.done_m }],
      reads: null,
    };
    const out = [on(10, 3), on(12, 4, { kind: 'turn' }), on(20, 6)];
    const { values } = standingNow(made, out);
    // Four out, two of them back already.
    expect(Number(values.left_m)).toBeCloseTo(back.done_m + 2000, 0);
  });

  it('is told by the instrument’s last reading, not by its first', () => {
    const reads = { instrument: 'trip_m' as const, shown_m: 5000, at_m: back.done_m, per_m: 1 };
    const bases = [{ name: 'trip_m', shown: 5000, at_m: back.done_m }];
    const table: FollowTable = { ...back, bases, reads };
    const read = [1000, 2000].map((further, k) =>
      noted(back.at_s + 300 * (k + 1), { trip_m: 5000 + further }),
    );
    const { values } = standingNow(table, read);
    const further = Number(values.turn_m) - (back.done_m + 2000);
    expect(Number(values.turn_shown_m)).toBeCloseTo(7000 + further, 0);
    const slow: FollowTable = { ...table, reads: { ...reads, per_m: 0.9 } };
    const found = standingNow(slow, read).values;
    const ahead = Number(found.turn_m) - (back.done_m + 2000 / 0.9);
    expect(Number(found.turn_shown_m)).toBeCloseTo(7000 + 0.9 * ahead, 0);
  });

  it('below what a counter showed before is a reset, and no place', () => {
    const bases = [{ name: 'trip_m', shown: 5000, at_m: back.done_m }];
    const table: FollowTable = { ...back, bases };
    expect(placeIn(table, noted(back.at_s + 60, { trip_m: 400 }))).toBeNull();
    expect(standingNow(table, [noted(back.at_s + 60, { trip_m: 400 })]).here.at_m).toBe(
      back.done_m,
    );
  });

  it('of a promise that stands still says nothing new', () => {
    const sight = back.sights.find((one) => one.by_log);
    const { table } = sight
      ? { table: back }
      : (RIDES.map(([, one]) => one).find((one) =>
          one.table.sights.some((each) => each.by_log),
        ) ?? { table: null });
    if (!table) throw new Error('no table with a promise');
    const promise = (km: number, minutes: number, shown_range_m: number) =>
      noted(table.at_s + 60 * minutes, { trip_m: table.done_m + 1000 * km, shown_range_m });
    const once = standingNow(table, [promise(0.1, 1, 9000), promise(0.2, 2, 9000)]);
    const bare = standingNow(table, [
      promise(0.1, 1, 9000),
      noted(table.at_s + 120, { trip_m: table.done_m + 200 }),
    ]);
    expect(once.here.left).toBeCloseTo(bare.here.left, 3);
  });
});

describe('how far it may go', () => {
  it.each(RIDES)('is nineteen in twenty, the far and the near end alike: %s', (_, { table }) => {
    const { reach, perMetre, values } = standingNow(table, []);
    const chance = (until_m: number) =>
      standingNow(table, [], null, { way: 'given', from_m: table.done_m, until_m }).reaches;
    expect(reach[0]).toBeLessThan(reach[1]);
    // What goes as far as the near end does so in 39 of 40, and to the far end in one of 40.
    expect(chance(table.done_m + reach[0])).toBeCloseTo(Math.min(0.975, chance(table.done_m)), 1);
    expect(chance(table.done_m + reach[2])).toBeLessThan(0.06);
    expect(chance(table.done_m + reach[2] * 0.97)).toBeGreaterThan(0);
    expect(perMetre[2]).toBeGreaterThan(perMetre[1]);
    // The reserve's own near end is as far from its middle.
    const near = Number(values.least_m) / Number(values.range_m);
    expect(near).toBeLessThan(1.02 * (reach[0] / reach[1]));
  });
});

const noted = (time_s: number, more: Partial<Readings>): Readings => ({
  kind: 'checkpoint',
  time_s,
  ...more,
});

describe('where an entry was made', () => {
  const [[, { table }]] = RIDES as [[string, FollowedRide]];
  const made: FollowTable = { ...table, done_m: 0, at_s: -1, bases: [], reads: null };
  const entries: Readings[] = [{ kind: 'start', time_s: 0, trip_m: 300, odometer_m: 9_000_000 }];

  it('is counted from the reading at the start, failing that from nought', () => {
    const at = (all: Readings[]) => standingNow(made, all).here.at_m;
    expect(at([...entries, noted(900, { trip_m: 2300 })])).toBe(2000);
    expect(at([...entries, noted(900, { odometer_m: 9_001_500 })])).toBe(1500);
    expect(at([noted(900, { trip_m: 2300 })])).toBe(2300);
    expect(at([noted(900, { odometer_m: 9_001_500 })])).toBe(0);
  });

  it('is a true distance where the instrument shows too much', () => {
    const bases = [{ name: 'trip_m', shown: 5100, at_m: 5000 }];
    const reads = { instrument: 'trip_m' as const, shown_m: 5100, at_m: 5000, per_m: 1.02 };
    const fast: FollowTable = { ...table, bases, reads, done_m: 5000 };
    expect(placeIn(fast, noted(1e6, { trip_m: 6120 }))).toBeCloseTo(6000, 6);
  });
});

/** Cases that `tests/core/under_way/test_device.py` made: the device against the core on many rides. */
const CASES = process.env.LIMPET_DEVICE_CASES;

describe.skipIf(!CASES)('many rides without signal', () => {
  it('are where the core has them within 5 points, and 5% or 200 m, in nineteen of twenty', () => {
    const cases = JSON.parse(readFileSync(CASES as string, 'utf8')) as Array<
      FollowedRide & { known: Readings[] }
    >;
    const off: { points: number[]; metres: number[] } = { points: [], metres: [] };
    for (const { table, known, later } of cases) {
      const entries: Readings[] = [...known];
      for (const { entry, judged } of later) {
        entries.push(entry);
        const found = standingNow(table, entries);
        off.points.push(
          Math.max(points(found.arrives, judged.arrives), points(found.reaches, judged.reaches)),
        );
        const apart = Math.abs(found.reach[1] - judged.range_m);
        off.metres.push(apart / Math.max(0.05 * judged.range_m, 200));
      }
    }
    const share = (values: number[], most: number) =>
      values.filter((value) => value <= most).length / values.length;
    const told = {
      answers: off.points.length,
      within5points: share(off.points, 5),
      within10points: share(off.points, 10),
      withinDistance: share(off.metres, 1),
      twiceDistance: share(off.metres, 2),
    };
    console.log(JSON.stringify(told));
    const wanted = JSON.parse(process.env.LIMPET_DEVICE_WANTED ?? '{}') as Record<string, number>;
    for (const [name, least] of Object.entries(wanted)) {
      expect(told[name as keyof typeof told], name).toBeGreaterThanOrEqual(least);
    }
  }, 120_000);
});
