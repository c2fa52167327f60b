import core from '../api/core.json';
import type { Follow, FollowTable } from '../api/queries';
import type { Values } from '../format/fill';
import type { Readings } from './entry';

/** What is left at a place [share of usable energy], and how surely that is known (one σ). */
export interface Left {
  at_m: number;
  left: number;
  sure: number;
}

export type Code = Follow['matter']['code'];

/** How a ride stands by its table: figures between those that the core made, and nothing else. */
export interface Standing {
  code: Code;
  values: Values;
  arrives: number;
  reaches: number;
  arrivalLeft: number;
  here: Left;
  /** The chances at each of the table's speeds, the fastest first. */
  bySpeed: Array<{ speed_mps: number; arrives: number; reaches: number }>;
}

/** Where a value lies between the ticks of an axis: the tick before it, and how far beyond that. */
function between(axis: readonly number[], value: number): { index: number; part: number } {
  const last = axis.length - 1;
  if (last <= 0 || value <= (axis[0] ?? 0)) return { index: 0, part: 0 };
  if (value >= (axis[last] ?? 0)) return { index: last - 1, part: 1 };
  const index = axis.findIndex((tick) => tick > value) - 1;
  const from = axis[index] ?? 0;
  const to = axis[index + 1] ?? from;
  return { index, part: to > from ? (value - from) / (to - from) : 0 };
}

/** Nested rows of figures. A place without one (too late to turn) has none. */
type Grid = number | null | Grid[];

/** The figure at some coordinates of a grid, linearly between its neighbours; NaN where one is missing. */
function at(grid: Grid, axes: ReadonlyArray<readonly number[]>, point: readonly number[]): number {
  if (!Array.isArray(grid)) return grid ?? Number.NaN;
  const [axis = [], ...others] = axes;
  const [value = 0, ...rest] = point;
  const { index, part } = between(axis, value);
  const low = at(grid[index] ?? null, others, rest);
  if (part === 0) return low;
  const high = at(grid[index + 1] ?? null, others, rest);
  return part === 1 ? high : low + part * (high - low);
}

/** The chance that belongs to a score: the normal distribution (Abramowitz and Stegun 7.1.26). */
export function chanceOf(score: number): number {
  const x = Math.abs(score) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * x);
  const poly =
    t *
    (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
  const inner = 1 - poly * Math.exp(-x * x);
  return 0.5 * (1 + (score < 0 ? -inner : inner));
}

type Base = FollowTable['bases'][number];

/**
 * The readings that distance is counted from: those that the table holds. Of an instrument that nobody
 * had read when it was made, before the first metre, the reading at the start; failing that, counters
 * that are set to nought.
 */
function basesFor(table: FollowTable, entries: readonly Readings[]): Base[] {
  if (table.done_m > 0) return table.bases;
  const start = entries.find((entry) => entry.kind === 'start');
  const added = (['laps', 'trip_m', 'gps_m', 'odometer_m'] as const).flatMap((name) => {
    if (table.bases.some((base) => base.name === name)) return [];
    const shown = start?.[name] ?? (name === 'odometer_m' ? null : 0);
    return shown === null ? [] : [{ name, shown, at_m: 0 }];
  });
  return [...table.bases, ...added];
}

/** Where an entry was made, by the instruments whose earlier readings are known; null unsaid. */
export function placeIn(
  table: FollowTable,
  entry: Readings,
  bases: readonly Base[] = table.bases,
): number | null {
  for (const base of bases) {
    const read = entry[base.name as keyof Readings];
    if (typeof read !== 'number' || read < base.shown) continue;
    if (base.name === 'laps') {
      if (table.lap_m === null) continue;
      return base.at_m + (read - base.shown) * table.lap_m;
    }
    return base.at_m + read - base.shown;
  }
  return null;
}

/** What is left at a place further on, from what was left at one before it. */
function carriedTo(table: FollowTable, from: Left, at_m: number): Left {
  const axis = [table.places_m, [0, 1]];
  const foreseen = (place: number, column: number) => at(table.foreseen, axis, [place, column]);
  const grown = foreseen(at_m, 1) ** 2 - foreseen(from.at_m, 1) ** 2;
  const left = from.left + foreseen(at_m, 0) - foreseen(from.at_m, 0);
  return {
    at_m,
    left: Math.min(Math.max(left, 0), 1),
    sure: Math.sqrt(from.sure ** 2 + Math.max(grown, 0)),
  };
}

/**
 * What a reading adds. The table says what is known once it is read beside what was foreseen; what the
 * reading says by itself follows of both, and is weighed against what is known here.
 */
function read(table: FollowTable, before: Left, entry: Readings, later: readonly Readings[]): Left {
  let known = before;
  for (const sight of table.sights) {
    const name = sight.name as keyof Readings;
    const shown = entry[name];
    if (typeof shown !== 'number') continue;
    // Errors of one instrument go together: of several readings of it the last one counts.
    if (later.some((one) => typeof one[name] === 'number')) continue;
    const column = (values: number[]) => at(values, [table.places_m], [before.at_m]);
    const prior = at(table.foreseen, [table.places_m, [0, 1]], [before.at_m, 1]) ** 2;
    const after = column(sight.sure) ** 2;
    if (prior - after < 1e-9) continue;
    const foreseen = at(table.foreseen, [table.places_m, [0, 1]], [before.at_m, 0]);
    const told = column(sight.left) + column(sight.per) * (shown - column(sight.shown));
    const alone = foreseen + ((told - foreseen) * prior) / (prior - after);
    const error = 1 / (1 / after - 1 / prior);
    const weight = known.sure ** 2 / (known.sure ** 2 + error);
    known = {
      ...known,
      left: Math.min(Math.max(known.left + weight * (alone - known.left), 0), 1),
      sure: Math.sqrt((1 - weight) * known.sure ** 2),
    };
  }
  return known;
}

/**
 * What is left now: what the table foresaw, with every entry since it was made.
 *
 * @param track_m how far the ride has come by this device's own track, where there is one
 */
export function leftNow(
  table: FollowTable,
  entries: readonly Readings[],
  track_m: number | null = null,
): Left {
  return leftPath(table, entries, track_m).at(-1) as Left;
}

/** The same with what was left at the table's own place before it, and after each entry since. */
export function leftPath(
  table: FollowTable,
  entries: readonly Readings[],
  track_m: number | null = null,
): Left[] {
  const [left = 1, sure = 0.1] = table.foreseen[0] ?? [];
  let here: Left = { at_m: table.done_m, left, sure };
  const since = entries.filter((entry) => entry.time_s > table.at_s);
  const path = [here];
  const bases = basesFor(table, entries);
  for (const [index, entry] of since.entries()) {
    const place = placeIn(table, entry, bases);
    if (place !== null && place > here.at_m) here = carriedTo(table, here, place);
    here = read(table, here, entry, since.slice(index + 1));
    path.push(here);
  }
  if (track_m !== null && track_m > here.at_m) path.push(carriedTo(table, here, track_m));
  return path;
}

/** How far what is left goes in this kind of riding [m]: low, middle and high of nineteen in twenty. */
export function reachOf(table: FollowTable, here: Left): [number, number, number] {
  const [middle = 0, low = 0] = table.range_m;
  const own = Math.log(middle / Math.max(low, 1)) / FAR_SCORE;
  const spread = 1.96 * Math.hypot(own, here.sure / Math.max(here.left, 0.02));
  const on = here.left * middle;
  return [on * Math.exp(-spread), on, on * Math.exp(spread)];
}

/** What is left at the end of the way: its middle, and how far below and above it 20 and 5 % lie. */
type Over = readonly [number, number, number, number, number];

/** How many σ out the two quantiles are of normal draws. */
const NEAR_SCORE = 0.8416;
const FAR_SCORE = 1.6449;

function overIn(
  table: FollowTable,
  here: Left,
  grid: ReadonlyArray<Grid | undefined>,
  takes: number,
): Over {
  const axes = [table.places_m, table.left, table.sure];
  const point = [here.at_m, here.left, here.sure];
  const part = (index: number) => at(grid[index] ?? null, axes, point);
  return [part(0) + here.left - takes, part(1), part(2), part(3), part(4)];
}

/** What is left over at the end, at one of the table's speeds. */
function overAt(table: FollowTable, here: Left, speed: number): Over {
  const slower = at(table.slower[speed] ?? null, [table.places_m], [here.at_m]);
  const takes = at(table.takes, [table.fine_m], [here.at_m]) * slower;
  return overIn(
    table,
    here,
    table.over.map((rows) => rows[speed]),
    takes,
  );
}

/** The same at the end of the lap after; nothing where there are no laps. */
function overNext(table: FollowTable, here: Left): Over | null {
  if (table.over_next === null || table.takes_next === null) return null;
  const takes = at(table.takes_next, [table.fine_m], [here.at_m]);
  return overIn(table, here, table.over_next, takes);
}

/** The score of the chance that more than a share is left over: straight between the quantiles. */
function scoreOver([middle, below, farBelow, above, farAbove]: Over, least: number): number {
  const off = middle - least;
  const size = Math.abs(off);
  const near = Math.max(off > 0 ? below : above, 1e-6);
  const far = Math.max(off > 0 ? farBelow : farAbove, near + 1e-6);
  const score =
    size < near
      ? (size / near) * NEAR_SCORE
      : NEAR_SCORE + ((size - near) * (FAR_SCORE - NEAR_SCORE)) / (far - near);
  return Math.sign(off) * score;
}

/** What a reading must hold to have shown charge. */
const CHARGE = core.shows_charge as Array<keyof Readings>;

/** What the rider's own instrument will show at a true distance [m]. */
function shownAt(table: FollowTable, entries: readonly Readings[], at_m: number): number {
  const { reads } = table;
  if (reads === null) return at_m;
  const name = reads.instrument as keyof Readings;
  const last = entries.findLast((entry) => entry.time_s > table.at_s && entry[name] != null);
  const place = last ? placeIn(table, last, basesFor(table, entries)) : null;
  const from = place === null || !last ? reads.at_m : place;
  const shown = place === null || !last ? reads.shown_m : Number(last[name]);
  return shown + (at_m - from) * reads.per_m;
}

/** What the display promises to be left from here [m]; null where nobody read it since the table. */
function shownLeft(table: FollowTable, entries: readonly Readings[], here: Left): number | null {
  const last = entries.findLast((entry) => entry.shown_range_m != null);
  if (last?.shown_range_m == null) return null;
  const place = placeIn(table, last, basesFor(table, entries)) ?? table.done_m;
  return last.shown_range_m - Math.max(here.at_m - Math.max(place, table.done_m), 0);
}

/**
 * How the ride stands at a place with so much left.
 *
 * @param entries all of the ride's
 */
export function standingAt(
  table: FollowTable,
  here: Left,
  entries: readonly Readings[] = [],
): Standing {
  const axes = [table.places_m, table.left, table.sure];
  const point = [here.at_m, here.left, here.sure];
  const over = table.speeds_mps.map((_, index) => overAt(table, here, index));
  const scores = over.map((one) => scoreOver(one, table.reserve));
  const [own = [0, 0, 0, 0, 0] as const] = over;
  const shows =
    table.shows_charge || entries.some((one) => CHARGE.some((name) => one[name] != null));
  const most = shows ? 1 : core.most_unshown;
  const told = (score: number) => Math.min(chanceOf(score), most);
  const arrives = told(scores[0] ?? 0);
  const reaches = told(scoreOver(own, 0));
  const arrivalLeft = Math.max(own[0], 0);
  const toTurn = at(table.to_turn_m, axes, point);
  const next = overNext(table, here);
  const end =
    table.lap_m === null
      ? table.until_m
      : (Math.floor(here.at_m / table.lap_m + 0.03) + 1) * table.lap_m;
  const laps = table.lap_m === null ? 0 : Math.round(end / table.lap_m);
  const left_m = Math.max(end - here.at_m, 0);
  const shown_m = shownLeft(table, entries, here);
  const wanted = Math.min(table.wanted, most);
  const code = codeBy({
    arrives,
    reaches,
    slower: told(Math.max(...scores.slice(1))),
    wanted,
    shown_short: shown_m !== null && shown_m < left_m ? 1 : 0,
    done_m: here.at_m,
    left_m,
    turn_until_m: table.turn_until_m,
    last_turn_m: table.turn_until_m - 1,
    turn_known: toTurn >= 0 ? 1 : 0,
    turn_m: toTurn >= 0 ? here.at_m + toTurn : 0,
    laps,
    known: table.half === null ? 0 : 1,
  });
  return {
    code,
    arrives,
    reaches,
    arrivalLeft,
    here,
    bySpeed: table.speeds_mps.map((speed_mps, index) => ({
      speed_mps,
      arrives: told(scores[index] ?? 0),
      reaches: told(scoreOver(over[index] ?? own, 0)),
    })),
    values: {
      arrives,
      reaches,
      left: arrivalLeft,
      left_m,
      reserve: table.reserve,
      shown_m: Math.max(shown_m ?? 0, 0),
      reads: core.matter_reads[(table.reads?.instrument ?? '') as keyof typeof core.matter_reads],
      turn_shown_m: shownAt(table, entries, here.at_m + Math.max(toTurn || 0, 0)),
      turn_m: here.at_m + Math.max(toTurn || 0, 0),
      to_go_m: Math.max(toTurn || 0, 0),
      speed_mps: slowTo(table, scores),
      chance: wanted,
      this: arrives,
      next: next === null ? 0 : told(scoreOver(next, table.reserve)),
      lap: laps,
      half: table.half ?? 0,
    },
  };
}

/** The highest speed of the table's at which the wanted chance is there, between its columns. */
function slowTo(table: FollowTable, scores: number[]): number {
  for (let index = 1; index < scores.length; index += 1) {
    const slower = scores[index] ?? 0;
    if (slower < table.wanted_score) continue;
    const faster = scores[index - 1] ?? 0;
    const part = (slower - table.wanted_score) / Math.max(slower - faster, 1e-9);
    const speed = table.speeds_mps[index] ?? 0;
    return speed + Math.min(part, 1) * ((table.speeds_mps[index - 1] ?? speed) - speed);
  }
  return table.speeds_mps.at(-1) ?? 0;
}

/** The line that matters, by the core's own rules (`limpet.follow.matter`), which are data. */
function codeBy(facts: Record<string, number>): Code {
  const holds = ([name, relation, other]: (string | number)[]) => {
    const value = facts[String(name)] ?? 0;
    const bound = typeof other === 'number' ? other : (facts[String(other)] ?? 0);
    return relation === 'at_least' ? value >= bound : value < bound;
  };
  const rules = core.matter_rules as unknown as Array<[Code, (string | number)[][]]>;
  return rules.find(([, conditions]) => conditions.every(holds))?.[0] ?? 'not_home';
}
