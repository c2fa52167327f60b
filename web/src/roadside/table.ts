import { messages as lines } from '../../../src/limpet/notices/en/lines.ftl';
import core from '../api/core.json';
import type { Follow, FollowTable } from '../api/queries';
import type { Values } from '../format/fill';
import { between, columnAt, type Drawn, takenAfter, takenTo } from './drawn';
import { type Column, quantile } from './ensemble';
import type { Readings } from './entry';
import { basesFor, drawnNow, type Left, leftOf, placeIn, within } from './readings';
import type { Ahead } from './store';

export type Code = Follow['matter']['code'];

/** How a ride stands by its table: the core's draws, moved to where they agree with what was read since. */
export interface Standing {
  code: Code;
  values: Values;
  arrives: number;
  reaches: number;
  arrivalLeft: number;
  here: Left;
  /** The chances at each of the table's speeds, the fastest first. */
  bySpeed: Array<{ speed_mps: number; arrives: number; reaches: number }>;
  /** The chances with the pack from the bag; null where there is none. */
  inBag: { arrives: number; reaches: number } | null;
  /** How far what is left goes [m]: low, middle and high of nineteen in twenty. */
  reach: [number, number, number];
  /** What this kind of riding takes [Wh/m]: low, middle and high. */
  perMetre: [number, number, number];
  /** Where it was after each entry since the table, its own place first. */
  path: Left[];
}

/** The core's own search bends further than these draws: readings may miss them by so many times more. */
const BENDS_LESS = 4;
/** What a reading must hold to have shown charge. */
const CHARGE = core.shows_charge as Array<keyof Readings>;
/** Places at which turning round is tried; no way back is told from nearer than this [m]. */
const TURNS = 25;
const LEAST_WAY_M = 100;
const MOST_WAY_M = 2_000_000;
const AT_THE_LINE = 0.03;

interface Way {
  end_m: number;
  /** What it takes from a place to the way's end, and home for whoever turns there [Wh]. */
  rest: (at_m: number) => Column;
  home: ((at_m: number) => Column) | null;
  turn_until_m: number;
  laps: number;
  next: Column | null;
}

/** The way that is left: the table's own, or as its rider says it since. */
function wayOf(
  drawn: Drawn,
  entries: readonly Readings[],
  ahead: Ahead | null | undefined,
  at_m: number,
): Way {
  const { table, speed } = drawn;
  const scaled = (one: Column, by: number) => one.map((value) => value * by * speed);
  const { perM } = drawn;
  const plain = (metres: number) => scaled(perM, Math.max(metres, 0));
  const none = { turn_until_m: 0, laps: 0, next: null, home: null };
  if (ahead?.way === 'given' && ahead.until_m !== undefined) {
    const until = ahead.until_m;
    const climb = (ahead.climb_m ?? 0) * table.climb_wh;
    const from = ahead.from_m ?? 0;
    const length = Math.max(until - from, 1);
    return {
      ...none,
      end_m: until,
      rest: (place) =>
        plain(until - place).map((one) => one + (climb * Math.max(until - place, 0)) / length),
    };
  }
  const lap = drawn.lap;
  if (table.lap_m !== null && lap !== null && ahead?.way !== 'back') {
    const lap_m = table.lap_m;
    const laps = Math.floor(at_m / lap_m + AT_THE_LINE) + 1;
    const end_m = laps * lap_m;
    return {
      ...none,
      end_m,
      rest: (place) => scaled(lap, Math.max(end_m - place, 0) / lap_m),
      laps,
      next: scaled(lap, (end_m + lap_m - at_m) / lap_m),
    };
  }
  const turn = entries.findLast((entry) => entry.kind === 'turn' && entry.time_s > table.at_s);
  if (table.onward === 'back' && !table.turned) {
    const home = (place: number) =>
      scaled(columnAt(table.places_m, drawn.home ?? drawn.rest, place), 1);
    if (turn) {
      const turned_m = placeAt(table, entries, turn.time_s);
      const whole = home(turned_m);
      return {
        ...none,
        end_m: 2 * turned_m,
        rest: (place) => {
          const left = Math.max(2 * turned_m - place, 0) / Math.max(turned_m, 1);
          return whole.map((one) => one * left);
        },
      };
    }
    return { ...none, end_m: 2 * at_m, rest: home, home, turn_until_m: MOST_WAY_M };
  }
  if (ahead?.way === 'back' && table.onward !== 'back') {
    return { ...none, end_m: 2 * at_m, rest: plain, home: plain, turn_until_m: MOST_WAY_M };
  }
  const homes = drawn.home;
  return {
    ...none,
    end_m: table.until_m,
    rest: (place) => scaled(columnAt(table.places_m, drawn.rest, place), 1),
    home: homes === null ? null : (place) => scaled(columnAt(table.places_m, homes, place), 1),
    turn_until_m: turn ? 0 : table.turn_until_m,
  };
}

/** How far the ride had come at a moment since the table. */
function placeAt(table: FollowTable, entries: readonly Readings[], time_s: number): number {
  const bases = basesFor(table, entries);
  let at_m = table.done_m;
  for (const entry of entries) {
    if (entry.time_s <= table.at_s || entry.time_s > time_s) continue;
    at_m = Math.max(placeIn(table, entry, bases) ?? at_m, at_m);
  }
  return at_m;
}

/** What the rider's own instrument will show at a true distance [m]. */
function shownAt(table: FollowTable, entries: readonly Readings[], at_m: number): number {
  const { reads } = table;
  const start = basesFor(table, entries)[0];
  const own = reads ?? {
    instrument: (start?.name ?? 'trip_m') as 'trip_m',
    shown_m: start?.shown ?? 0,
    at_m: start?.at_m ?? 0,
    per_m: 1,
  };
  const name = own.instrument as keyof Readings;
  const last = entries.findLast((entry) => entry.time_s > table.at_s && entry[name] != null);
  const place = last ? placeIn(table, last, basesFor(table, entries)) : null;
  const from = place === null || !last ? own.at_m : place;
  const shown = place === null || !last ? own.shown_m : Number(last[name]);
  return shown + (at_m - from) * own.per_m;
}

/** What the display shows to be left from here [m]; null where nobody read it. */
function shownLeft(table: FollowTable, entries: readonly Readings[], at_m: number): number | null {
  const last = entries.findLast((entry) => entry.shown_range_m != null);
  if (last?.shown_range_m == null) return null;
  const place = placeIn(table, last, basesFor(table, entries)) ?? table.done_m;
  return last.shown_range_m - Math.max(at_m - place, 0);
}

/**
 * How the ride stands: what was left by its table, with every entry since, and what that means for the way.
 *
 * @param entries all of the ride's
 * @param track_m how far the ride has come by this device's own track, where there is one
 * @param ahead the way as its rider says it; undefined is the table's own
 */
export function standingNow(
  table: FollowTable,
  entries: readonly Readings[],
  track_m: number | null = null,
  ahead: Ahead | null | undefined = undefined,
): Standing {
  const { drawn, path, birge } = drawnNow(table, entries);
  const { usable } = drawn;
  const last_m = path.at(-1)?.at_m ?? table.done_m;
  const at_m = Math.max(track_m ?? 0, last_m);
  const used = takenAfter(drawn).at(-1) ?? drawn.left.map(() => 0);
  const before = takenTo(drawn, last_m);
  const further = takenTo(drawn, at_m);
  const left = drawn.left.map((one, draw) => {
    const on = drawn.speed * ((further[draw] as number) - (before[draw] as number));
    const beside = drawn.last[draw] as number;
    return within(one + beside - (used[draw] as number) - on, 0, usable[draw] as number);
  });
  if (at_m > last_m)
    path.push(
      leftOf(
        left.map((one, draw) => one / (usable[draw] as number)),
        at_m,
      ),
    );
  // A reading that the table can make nothing of has shown nothing.
  const telling = CHARGE.filter((name) => table.sights.some((sight) => sight.name === name));
  const shows =
    table.shows_charge || entries.some((one) => telling.some((name) => one[name] != null));
  const most = shows ? 1 : core.most_unshown;
  const wanted = Math.min(table.wanted, most);
  const way = wayOf(drawn, entries, ahead, at_m);
  const reserve = usable.map((one) => table.reserve * one);
  const chance = (needs: Column, kept: boolean, by = 1, bag = 0) => {
    let good = 0;
    for (let draw = 0; draw < left.length; draw += 1) {
      const keeps = kept ? (reserve[draw] as number) : 0;
      const more = bag * (usable[draw] as number);
      if (by * (needs[draw] as number) <= (left[draw] as number) + more - keeps) good += 1;
    }
    return good / Math.max(left.length, 1);
  };
  const told = (share: number) => Math.min(share, most);
  const rest = way.rest(at_m);
  const arrives = told(chance(rest, true));
  const reaches = told(chance(rest, false));
  const ratios = table.slower.map((row) => {
    const { index, part } = between(table.places_m, at_m);
    const low = row[index] ?? 1;
    return low + Math.min(Math.max(part, 0), 1) * ((row[index + 1] ?? low) - low);
  });
  const slower = ratios.map((ratio) => chance(rest, true, ratio));
  const turn_m = turnBy(way, drawn, left, at_m, wanted, reserve);
  const left_m = Math.max(
    way.home !== null && table.onward === 'back' && !table.turned ? at_m : way.end_m - at_m,
    0,
  );
  const shown_m = shownLeft(table, entries, at_m);
  const arrivalLeft = quantile(
    left.map((one, draw) => Math.max(one - (rest[draw] as number), 0) / (usable[draw] as number)),
    0.5,
  );
  const perMetre = drawn.perM.map((one) => drawn.speed * one);
  const reaching = left.map((one, draw) => one / (perMetre[draw] as number));
  const reach = spanOf(reaching);
  const toReserve = left.map(
    (one, draw) => Math.max(one - (reserve[draw] as number), 0) / (perMetre[draw] as number),
  );
  const facts = {
    arrives,
    reaches,
    slower: told(Math.max(0, ...slower.slice(1))),
    wanted,
    shown_short: shown_m !== null && shown_m < left_m ? 1 : 0,
    done_m: at_m,
    left_m,
    turn_until_m: way.turn_until_m,
    last_turn_m: way.turn_until_m - 1,
    turn_known: turn_m === null ? 0 : 1,
    turn_m: turn_m ?? 0,
    laps: way.laps,
    known: table.half === null ? 0 : 1,
  };
  // Before anybody has ridden so far there is no way back to speak of.
  const leads = way.turn_until_m < MOST_WAY_M || at_m >= LEAST_WAY_M;
  const judged = leads ? codeBy(facts) : 'range_left';
  // Of readings that cannot all be true no number is told.
  const code = birge > BENDS_LESS * core.most_birge ? 'contradict' : judged;
  return {
    code,
    arrives,
    reaches,
    arrivalLeft,
    here: path.at(-1) as Left,
    path,
    reach,
    perMetre: spanOf(perMetre),
    bySpeed: table.speeds_mps.map((speed_mps, index) => ({
      speed_mps,
      arrives: told(slower[index] ?? 0),
      reaches: told(chance(rest, false, ratios[index] ?? 1)),
    })),
    inBag:
      table.in_bag > 0
        ? {
            arrives: told(chance(rest, true, 1, table.in_bag)),
            reaches: told(chance(rest, false, 1, table.in_bag)),
          }
        : null,
    values: {
      arrives,
      reaches,
      left: arrivalLeft,
      left_m,
      reserve: table.reserve,
      shown_m: Math.max(shown_m ?? 0, 0),
      reads: readsWords(table, entries),
      turn_shown_m: shownAt(table, entries, turn_m ?? at_m),
      turn_m: turn_m ?? at_m,
      to_go_m: Math.max((turn_m ?? at_m) - at_m, 0),
      speed_mps: slowTo(table, slower, wanted),
      chance: wanted,
      this: arrives,
      next: way.next === null ? 0 : told(chance(way.next, true)),
      lap: way.laps,
      half: table.half ?? 0,
      range_m: quantile(toReserve, 0.5),
      least_m: quantile(toReserve, 0.025),
    },
  };
}

/** What the rider looks at, as a line names it. */
function readsWords(table: FollowTable, entries: readonly Readings[]): string {
  const name = table.reads?.instrument ?? basesFor(table, entries)[0]?.name ?? '';
  return String(lines[`reads_${name}`] ?? lines.reads_nothing);
}

/** A figure's middle and nineteen in twenty of its draws. */
function spanOf(values: Column): [number, number, number] {
  return [quantile(values, 0.025), quantile(values, 0.5), quantile(values, 0.975)];
}

/** How far out one may go and still be home with the reserve [m from the start]; null where it is too late. */
function turnBy(
  way: Way,
  drawn: Drawn,
  left: Column,
  at_m: number,
  wanted: number,
  reserve: Column,
): number | null {
  if (way.home === null || at_m >= way.turn_until_m) return null;
  const { table } = drawn;
  const open = way.turn_until_m >= MOST_WAY_M;
  const per = quantile(drawn.perM, 0.5);
  const reach = (1.5 * quantile(left, 0.5)) / (drawn.speed * per) / 2;
  const until = open ? at_m + Math.max(reach, 100) : way.turn_until_m;
  const here = takenTo(drawn, at_m);
  const share = (place: number) => {
    const out = takenTo(drawn, place);
    const home = way.home?.(place) as Column;
    let good = 0;
    for (let draw = 0; draw < left.length; draw += 1) {
      const on = drawn.speed * ((out[draw] as number) - (here[draw] as number));
      if (on + (home[draw] as number) <= (left[draw] as number) - (reserve[draw] as number))
        good += 1;
    }
    return good / left.length;
  };
  let before = share(at_m);
  if (before < wanted) return null;
  for (let step = 1; step < TURNS; step += 1) {
    const from = at_m + ((step - 1) / (TURNS - 1)) * (until - at_m);
    const place = at_m + (step / (TURNS - 1)) * (until - at_m);
    const now = share(place);
    if (now < wanted)
      return from + ((before - wanted) / Math.max(before - now, 1e-9)) * (place - from);
    before = now;
  }
  return table.turn_until_m < until ? table.turn_until_m : until;
}

/** The highest speed of the table's at which the wanted chance is there, between its columns. */
function slowTo(table: FollowTable, chances: number[], wanted: number): number {
  for (let index = 1; index < chances.length; index += 1) {
    const slower = chances[index] ?? 0;
    if (slower < wanted) continue;
    const faster = chances[index - 1] ?? 0;
    const part = (slower - wanted) / Math.max(slower - faster, 1e-9);
    const speed = table.speeds_mps[index] ?? 0;
    return speed + Math.min(part, 1) * ((table.speeds_mps[index - 1] ?? speed) - speed);
  }
  return table.speeds_mps.at(-1) ?? 0;
}

/** The line that matters, by the core's own rules (`limpet.under_way.matter`), which are data. */
function codeBy(facts: Record<string, number>): Code {
  const holds = ([name, relation, other]: (string | number)[]) => {
    const value = facts[String(name)] ?? 0;
    const bound = typeof other === 'number' ? other : (facts[String(other)] ?? 0);
    return relation === 'at_least' ? value >= bound : value < bound;
  };
  const rules = core.matter_rules as unknown as Array<[Code, (string | number)[][]]>;
  return rules.find(([, conditions]) => conditions.every(holds))?.[0] ?? 'not_home';
}
