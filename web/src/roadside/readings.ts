import core from '../api/core.json';
import type { FollowTable } from '../api/queries';
import { between, columns, columnsOf, type Drawn, shifted, shiftingOf, takenAfter } from './drawn';
import {
  Apart,
  agree,
  birgeOf,
  type Column,
  generator,
  meanOf,
  type Observation,
  quantile,
} from './ensemble';
import type { Readings } from './entry';

/** What is left at a place [share of usable energy], and how surely that is known (one σ). */
export interface Left {
  at_m: number;
  left: number;
  sure: number;
}

type Base = FollowTable['bases'][number];

/** Readings that count what was taken. */
const COUNTERS = ['charge_ah', 'energy_wh'];
/** A difference of height that nobody noted is no more of what was taken than this [log, one σ]. */
const MOST_LIFT = 0.8;
/**
 * The readings that distance is counted from: those that the table holds. Of an instrument that nobody
 * had read when it was made, before the first metre, the reading at the start; failing that, counters
 * that are set to nought.
 */
export function basesFor(table: FollowTable, entries: readonly Readings[]): Base[] {
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
    const scale = base.name === table.reads?.instrument ? table.reads.per_m : 1;
    return base.at_m + (read - base.shown) / scale;
  }
  return null;
}

/** How far a stretch's energy may lie beside its length: `form_std` of the core, by the table's own numbers. */
function stepStd(table: FollowTable, metres: number, height_m = table.height_m): number {
  const length = Math.max(metres, 50);
  return Math.min(Math.sqrt((table.step_std ** 2 * 1000) / length + (height_m / length) ** 2), 0.8);
}

/** Riding time between entries without what was stood [s]. */
function ridingS(entries: readonly Readings[], until_s: number): number {
  let stood = 0;
  let since: number | null = null;
  for (const entry of entries) {
    if (entry.time_s > until_s) break;
    if (entry.kind === 'stop') since = since ?? entry.time_s;
    else if (since !== null && (entry.kind === 'resume' || entry.kind === 'lap')) {
      stood += entry.time_s - since;
      since = null;
    }
  }
  const first = entries[0]?.time_s ?? 0;
  return Math.max(until_s - first - stood, 1);
}

/**
 * By how much a reading of an instrument is less sure than one alone: those of one ride go wrong together, and of
 * many each is worth less (`limpet.state.remaining.less_worth`).
 */
function lessWorth(name: string, entries: readonly Readings[]): number {
  const worth: Partial<Record<string, number>> = core.readings_worth;
  const enough = worth[name];
  if (enough === undefined) return 1;
  const read = entries.filter((entry) => entry[name as keyof Readings] != null).length;
  return Math.sqrt(Math.max(read, enough) / enough);
}

/** What the speed that was ridden takes over what the table was made for; 1 where that knew it. */
function speedFactor(table: FollowTable, entries: readonly Readings[], at_m: number): number {
  const last = entries.findLast((entry) => entry.trip_m != null || entry.gps_m != null);
  if (table.done_m > 0 || table.onward === 'planned' || !last || at_m < 500) return 1;
  const own = table.speeds_mps[0] ?? 1;
  const mean = at_m / ridingS(entries, last.time_s);
  // As `limpet.under_way.ways` has it: who came by the said speed on the mean has not stood unnoticed.
  const said = table.said_mps ?? null;
  const standing = mean * core.hidden_standing;
  const held = said === null ? standing : Math.min(standing, Math.max(mean, said));
  const share = Math.min(Math.max(held / own, 0.3), 1.6);
  const shares = table.speeds_mps.map((speed) => speed / own).reverse();
  const ratios = table.slower.map((row) => row[0] ?? 1).reverse();
  const { index, part } = between(shares, share);
  const low = ratios[index] ?? 1;
  return Math.min(Math.max(low + part * ((ratios[index + 1] ?? low) - low), 0.5), 2);
}

/** The core's draws moved by every entry since the table was made, and where each was. */
export function drawnNow(
  table: FollowTable,
  entries: readonly Readings[],
): { drawn: Drawn; path: Left[]; birge: number } {
  const since = entries.filter((entry) => entry.time_s > table.at_s);
  const bases = basesFor(table, entries);
  const places: number[] = [];
  let at_m = table.done_m;
  for (const entry of since) {
    at_m = Math.max(placeIn(table, entry, bases) ?? at_m, at_m);
    places.push(at_m);
  }
  const begun = columnsOf(table, places, speedFactor(table, entries, at_m));
  const moved = shiftingOf(begun);
  const sights = table.sights.map((sight) => ({
    sight,
    shown: columns(sight.shown).map((one) => (sight.by_log ? one.map(Math.log) : one)),
  }));
  const moving = [
    moved.share,
    moved.usable,
    moved.perM,
    ...moved.takes,
    ...moved.rest,
    ...moved.home,
    ...moved.lap,
    // What a counter shows is told by what was taken alone, whatever the pack holds.
    ...sights.flatMap(({ sight, shown }) => (COUNTERS.includes(sight.name) ? [] : shown)),
  ];
  // What a stretch takes beside its length has nothing to do with any of them.
  const apart = new Apart(moving);
  const random = generator(11);
  // A counter sees that what a height took comes back: it is of each place. Without one, as the core has it, of
  // each stretch.
  const counted = since.some((entry) =>
    COUNTERS.some((name) => entry[name as keyof Readings] != null),
  );
  const steps = places.map((place, index) => {
    const before = places[index - 1] ?? table.done_m;
    const height_m = counted ? 0 : table.height_m;
    const std = place > before ? stepStd(table, place - before, height_m) : 0;
    return apart.drawn(random).map((score) => std * score);
  });
  const heights = counted ? places.map(() => apart.drawn(random)) : [];
  const readings: Counted[] = [];
  for (const [index, entry] of since.entries()) {
    for (const { sight, shown } of sights) {
      const read = entry[sight.name as keyof Readings];
      if (typeof read !== 'number') continue;
      const before = since[index - 1]?.[sight.name as keyof Readings];
      // A promise that stands still says nothing new.
      if (sight.by_log && (before === read || read <= 0)) continue;
      const reading: Counted = {
        read: sight.by_log ? Math.log(read) : read,
        std: sight.std * lessWorth(sight.name, entries),
        at: index,
        shown,
        axis: sight.left,
        counts: COUNTERS.includes(sight.name),
        promises: sight.by_log,
      };
      readings.push(reading.counts ? sinceTable(begun, reading) : reading);
    }
  }
  const counts = countedBy(begun, readings);
  const off = counts?.off ?? 0;
  if (counts) widened(moved.perM, off, stepStd(table, counts.metres));
  const now = (): Drawn => ({
    ...shifted(begun, moved, steps),
    lifts: heights.map((height, index) => {
      const metres = Math.max((places[index] as number) - table.done_m, 1);
      const std = Math.min((table.height_m * Math.exp(-off)) / metres, MOST_LIFT);
      return height.map((score) => std * score);
    }),
  });
  const look = () => {
    const drawn = now();
    const used = takenAfter(drawn);
    const shown = readings.map((reading) =>
      shownAfter(reading.counts ? begun : drawn, used[reading.at] as Column, reading),
    );
    if (used.length > 0) {
      // A drive that still pulls is not below its cut-off.
      shown.push(shareAfter(drawn, used.at(-1) as Column).map((one) => Math.min(one, 0)));
    }
    return shown;
  };
  const running = since.length > 0 ? [{ read: 0, std: 0.01 }] : [];
  agree([...moving, ...steps, ...heights], [...readings, ...running], look, apart);
  const shown = look();
  // What was counted is no judgement of what is left, and a display may promise anything.
  const judged = readings.flatMap(({ counts, promises }, row) => (counts || promises ? [] : [row]));
  const birge = birgeOf(
    judged.map((row) => readings[row] as Observation),
    judged.map((row) => shown[row] as Column),
  );
  const drawn = now();
  const used = takenAfter(drawn);
  const first: Column = drawn.left.map(() => 0);
  const path = [first, ...used].map((one, index) => {
    const share = shareAfter(drawn, one).map((value, draw) =>
      within(value + (drawn.last[draw] as number) / (drawn.usable[draw] as number), 0, 1),
    );
    return leftOf(share, index === 0 ? table.done_m : (places[index - 1] as number));
  });
  return { drawn, path, birge };
}

/**
 * By how much more was counted since the table than the road model foresaw [log], and over how much road [m]; null
 * where nothing was.
 */
function countedBy(
  begun: Drawn,
  readings: readonly Counted[],
): { off: number; metres: number } | null {
  const last = readings.findLast((reading) => reading.counts);
  const place = last && begun.places[last.at];
  if (!last || place === undefined || place <= begun.table.done_m) return null;
  const metres = place - begun.table.done_m;
  const used = takenAfter({ ...begun, steps: begun.places.map(() => begun.left.map(() => 0)) });
  const shown = (taken: Column) => meanOf(shownAfter(begun, taken, last));
  const foreseen = shown(used[last.at] as Column);
  if (last.since) return { off: last.read - foreseen, metres };
  const before = shown(begun.left.map(() => 0));
  const counted = last.read - before;
  if (foreseen <= before || counted <= 0) return null;
  return { off: Math.log(counted / (foreseen - before)), metres };
}

/**
 * A road model that is far off by what was counted is not as sure as it says: its spread becomes as wide as
 * that (`limpet.under_way.rate`, empirical variance).
 *
 * @param perM log of what a metre takes, changed in place
 * @param off by how much more was counted than it foresaw [log]
 * @param scatter how far so much road may lie beside its length by itself [log, one σ]
 */
function widened(perM: Column, off: number, scatter: number): void {
  const mean = meanOf(perM);
  const variance = meanOf(perM.map((one) => (one - mean) ** 2));
  const wanted = off ** 2 - scatter ** 2;
  if (wanted <= variance || variance <= 0) return;
  const wider = Math.sqrt(wanted / variance);
  for (let draw = 0; draw < perM.length; draw += 1) {
    perM[draw] = mean + wider * ((perM[draw] as number) - mean);
  }
}

/** A reading, after which stretch it was made, and what its instrument would show at shares left. */
interface Counted extends Observation {
  at: number;
  shown: Column[];
  axis: number[];
  counts: boolean;
  promises: boolean;
  /** What a counter showed at the table's place, where it is read by the log of what it counted since. */
  since?: Column;
}

/** A counter has counted so many times what it is read to before its log is read. */
const COUNTED = 10;

/**
 * A counter read by the log of what it counted since the table: that grows by what a metre takes and by what each
 * stretch takes beside it, which are logs, and a sharp reading moves them in a straight line.
 */
function sinceTable(begun: Drawn, reading: Counted): Counted {
  const since = shownAfter(
    begun,
    begun.left.map(() => 0),
    reading,
  );
  const counted = reading.read - meanOf(since);
  if (counted < COUNTED * reading.std) return reading;
  return { ...reading, read: Math.log(counted), std: reading.std / counted, since };
}

const shareAfter = (of: Drawn, used: Column) =>
  of.left.map((left, draw) => (left - (used[draw] as number)) / (of.usable[draw] as number));

/** What a reading's instrument would show after so much was taken [Wh]. */
function shownAfter(of: Drawn, used: Column, reading: Counted): Column {
  const { since } = reading;
  const least = since ? Math.exp(reading.read) / 100 : 0;
  return shareAfter(of, used).map((one, draw) => {
    const { index, part } = between(reading.axis, Math.min(Math.max(one, 0), 1));
    const low = reading.shown[index]?.[draw] ?? 0;
    const shown = low + part * ((reading.shown[index + 1]?.[draw] ?? low) - low);
    return since ? Math.log(Math.max(shown - (since[draw] as number), least)) : shown;
  });
}

export const within = (value: number, low: number, high: number) =>
  Math.min(Math.max(value, low), high);

export function leftOf(share: Column, at_m: number): Left {
  const mean = meanOf(share);
  const sure = Math.sqrt(meanOf(share.map((value) => (value - mean) ** 2)));
  return { at_m, left: quantile(share, 0.5), sure };
}
