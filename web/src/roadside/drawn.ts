import type { FollowTable } from '../api/queries';
import type { Column } from './ensemble';

/** The ride in draws, with what was read since its table was made. */
export interface Drawn {
  table: FollowTable;
  /** What readings tell of, and beside it what none does. */
  left: Column;
  last: Column;
  usable: Column;
  perM: Column;
  takes: Column[];
  rest: Column[];
  home: Column[] | null;
  lap: Column | null;
  /** What riding faster or slower than the table has it takes, over that. */
  speed: number;
  /** Of each stretch since, how far its energy lies beside its length [log]. */
  steps: Column[];
  /** Where nobody noted heights: what climbing to each of those places took, of all since the table [log]. */
  lifts?: Column[];
  places: number[];
}

/** A ride in draws before anything that was read since its table. */
export function columnsOf(table: FollowTable, places: number[], speed: number): Drawn {
  // A table of before has them in one.
  const lasts = table.last_wh ?? [];
  const last = column(table.left_wh.map((_, draw) => lasts[draw] ?? 0));
  return {
    table,
    left: column(table.left_wh).map((one, draw) => one - (last[draw] as number)),
    last,
    usable: column(table.usable_wh),
    perM: column(table.per_m),
    takes: columns(table.takes_wh),
    rest: columns(table.rest_wh),
    home: table.home_wh === null ? null : columns(table.home_wh),
    lap: table.lap_wh === null ? null : column(table.lap_wh),
    speed,
    steps: [],
    places,
  };
}

/**
 * What readings move: the share that is left, the logs of what the pack gives and of what a metre takes,
 * and ways by how many such metres each is. Moved so, a draw stays one that can be.
 */
export interface Shifting {
  share: Column;
  usable: Column;
  perM: Column;
  takes: Column[];
  rest: Column[];
  home: Column[];
  lap: Column[];
}

export function shiftingOf(drawn: Drawn): Shifting {
  const metres = (one: Column) => one.map((wh, draw) => wh / (drawn.perM[draw] as number));
  return {
    share: drawn.left.map((wh, draw) => wh / (drawn.usable[draw] as number)),
    usable: drawn.usable.map(Math.log),
    perM: drawn.perM.map(Math.log),
    takes: drawn.takes.map(metres),
    rest: drawn.rest.map(metres),
    home: (drawn.home ?? []).map(metres),
    lap: drawn.lap === null ? [] : [metres(drawn.lap)],
  };
}

/** The ride in draws as readings have moved it, with what its stretches take beside their length. */
export function shifted(begun: Drawn, moved: Shifting, steps: Column[]): Drawn {
  const perM = moved.perM.map(Math.exp);
  // A table of before has none.
  const slope = begun.table.heat_slope ?? 0;
  const usable = moved.usable.map((log, draw) => {
    const more = (moved.perM[draw] as number) - Math.log(begun.perM[draw] as number);
    return Math.exp(log + slope * more);
  });
  const energy = (one: Column) => one.map((metres, draw) => metres * (perM[draw] as number));
  return {
    ...begun,
    left: moved.share.map((share, draw) => share * (usable[draw] as number)),
    usable,
    perM,
    takes: moved.takes.map(energy),
    rest: moved.rest.map(energy),
    home: begun.home === null ? null : moved.home.map(energy),
    lap: begun.lap === null ? null : energy(moved.lap[0] as Column),
    steps,
  };
}

export const column = (values: readonly number[]) => Float64Array.from(values);
export const columns = (rows: readonly (readonly number[])[]) => rows.map(column);

/** Where a value lies between the ticks of an axis: the tick before it, and how far beyond that. */
export function between(axis: readonly number[], value: number): { index: number; part: number } {
  const last = axis.length - 1;
  if (last <= 0) return { index: 0, part: 0 };
  const found = axis.findIndex((tick) => tick > value) - 1;
  const index = value <= (axis[0] ?? 0) ? 0 : found < 0 ? last - 1 : Math.min(found, last - 1);
  const from = axis[index] ?? 0;
  const to = axis[index + 1] ?? from;
  return { index, part: to > from ? (value - from) / (to - from) : 0 };
}

/** A column between those at the ticks of an axis, straight on beyond its ends. */
export function columnAt(
  axis: readonly number[],
  columns: readonly Column[],
  value: number,
): Column {
  const { index, part } = between(axis, value);
  const low = columns[index] as Column;
  const high = columns[index + 1] ?? low;
  return low.map((from, draw) => from + part * ((high[draw] as number) - from));
}

/** What the way from the table's place to another takes [Wh]. */
export function takenTo(drawn: Drawn, at_m: number): Column {
  const { table, lap } = drawn;
  if (lap !== null && table.lap_m !== null) {
    const laps = (at_m - table.done_m) / table.lap_m;
    return lap.map((one) => one * laps);
  }
  return columnAt(table.places_m, drawn.takes, at_m);
}

/** What had been taken after each stretch since the table [Wh]. */
export function takenAfter(drawn: Drawn): Column[] {
  const found: Column[] = [];
  let before = takenTo(drawn, drawn.table.done_m);
  let sum = before.map(() => 0);
  for (const [index, place] of drawn.places.entries()) {
    const until = takenTo(drawn, place);
    const beside = drawn.steps[index] as Column;
    const from = before;
    sum = sum.map(
      (so, draw) =>
        so +
        drawn.speed *
          ((until[draw] as number) - (from[draw] as number)) *
          Math.exp(beside[draw] as number),
    );
    before = until;
    const lift = drawn.lifts?.[index];
    found.push(lift ? sum.map((so, draw) => so * Math.exp(lift[draw] as number)) : sum);
  }
  return found;
}
