import type { Schemas } from '../api/client';
import type { EntryBody } from '../entries/fields';
import type { Readings } from '../roadside/entry';

export type Practice = Schemas['PracticeOut'];
type Rows = Schemas['PracticeRows'];

/** An entry of the practice ride: as it is sent, and as it is shown. */
export interface PracticeEntry {
  id: string;
  body: EntryBody;
  shown: Readings;
}

/** A practice ride at one moment. Times are of the ride [s], thirty times as fast as the rider's own. */
export interface Play {
  /** With its stops; the log's clock. */
  clockS: number;
  /** Riding alone; the truth is kept by it. */
  movingS: number;
  phase: 'before' | 'moving' | 'standing' | 'over';
  /** When it stopped last, by the log's clock. */
  stoodAtS: number;
  /** How much a stop had given back to the volts when it rode on, and when that was. */
  gain: { volts: number; atS: number };
  /** Whether it turns at the next stone. */
  turning: boolean;
  /** Which way home it took; null on the way out. */
  way: number | null;
  entries: PracticeEntry[];
}

/** Nothing is asked of what lies between: so far it goes in one step [s of the ride]. */
const STEP_S = 2;
/** No practice ride is longer than this, with its stops [s of the ride]. */
const LONGEST_S = 5 * 3600;
/** As many entries as are judged, with a few kept for the turn and the end. */
export const MOST_NOTED = 50;

export const begun = (): Play => ({
  clockS: 0,
  movingS: 0,
  phase: 'before',
  stoodAtS: 0,
  gain: { volts: 0, atS: 0 },
  turning: false,
  way: null,
  entries: [],
});

/** What is true at one moment of riding: SI units, between the rows that the core gave. */
export interface Truth {
  distance_m: number;
  speed_mps: number;
  voltage_v: number;
  settled_v: number;
  lag_v: number;
  used_wh: number;
}

/** The stretch that is ridden at a moment. */
function stretch(practice: Practice, play: Pick<Play, 'way' | 'movingS'>): Rows {
  const home = play.way === null ? undefined : practice.ways[play.way]?.rows;
  return home && play.movingS >= home.begins_s ? home : practice.out;
}

export function truthAt(practice: Practice, play: Pick<Play, 'way' | 'movingS'>): Truth {
  const rows = stretch(practice, play);
  const n = rows.distance_m.length;
  const into = Math.min(Math.max(play.movingS - rows.begins_s, 0), rows.ends_s - rows.begins_s);
  const at = Math.min(into / practice.step_s, n - 1);
  const low = Math.min(Math.floor(at), n - 2);
  // The last row is nearer than a whole step.
  const span =
    low === n - 2 ? rows.ends_s - rows.begins_s - low * practice.step_s : practice.step_s;
  const part = span > 0 ? Math.min((into - low * practice.step_s) / span, 1) : 1;
  const between = (column: number[]) => {
    const from = column[low] ?? 0;
    return from + part * ((column[low + 1] ?? from) - from);
  };
  return {
    distance_m: between(rows.distance_m),
    speed_mps: between(rows.speed_dmps) / 10,
    voltage_v: between(rows.voltage_cv) / 100,
    settled_v: between(rows.settled_cv) / 100,
    lag_v: between(rows.lag_cv) / 100,
    used_wh: between(rows.used_dwh) / 10,
  };
}

/** How much of a lag is left after so long. */
function leftOf(practice: Practice, seconds: number): number {
  const { seconds: times, left } = practice.back;
  const above = times.findIndex((time) => time >= seconds);
  if (above < 0) return left.at(-1) ?? 0;
  if (above === 0) return left[0] ?? 1;
  const from = times[above - 1] ?? 0;
  const part = (seconds - from) / ((times[above] ?? from) - from);
  return (left[above - 1] ?? 0) * (1 - part) + (left[above] ?? 0) * part;
}

/** What the vehicle's own display shows. */
export interface Display {
  volts: number;
  bars: number;
  trip_m: number;
  speed_mps: number;
}

export function displayAt(practice: Practice, play: Play): Display {
  const truth = truthAt(practice, play);
  const rides = play.phase === 'moving';
  const volts = rides
    ? truth.voltage_v + play.gain.volts * leftOf(practice, play.clockS - play.gain.atS)
    : truth.settled_v - lagOf(practice, play, truth);
  return {
    volts,
    bars: practice.bars_v.filter((from) => volts >= from).length,
    trip_m: truth.distance_m * practice.trip_scale,
    speed_mps: rides ? truth.speed_mps : 0,
  };
}

/** What is still missing from the settled volts while it stands. */
function lagOf(practice: Practice, play: Play, truth: Truth): number {
  if (play.phase === 'before') return 0;
  const gained = play.gain.volts * leftOf(practice, play.stoodAtS - play.gain.atS);
  return Math.max(truth.lag_v - gained, 0) * leftOf(practice, play.clockS - play.stoodAtS);
}

/** The ride so much later [s of the ride]. */
export function later(practice: Practice, play: Play, seconds: number): Play {
  let now = play;
  for (let left = Math.min(seconds, LONGEST_S); left > 1e-9; left -= STEP_S) {
    now = oneStep(practice, now, Math.min(left, STEP_S));
  }
  return now;
}

function oneStep(practice: Practice, play: Play, seconds: number): Play {
  if (play.phase === 'before') return play;
  const clockS = Math.min(play.clockS + seconds, LONGEST_S);
  if (play.phase !== 'moving') return { ...play, clockS };
  const movingS = play.movingS + (clockS - play.clockS);
  if (play.way === null) {
    const before = truthAt(practice, play).distance_m;
    const after = truthAt(practice, { way: null, movingS }).distance_m;
    // At the road's end everybody turns.
    const last = practice.ways.length - 1;
    const way = practice.ways.findIndex(
      (one, index) =>
        (play.turning || index === last) && before < one.turn_m - 1 && after >= one.turn_m - 1,
    );
    const home = practice.ways[way];
    if (home) {
      const at = Math.max(movingS, home.rows.begins_s);
      const turned = { ...play, clockS, movingS: at, way, turning: false };
      return withDone(turned, 'turn');
    }
    return { ...play, clockS, movingS };
  }
  const ends = practice.ways[play.way]?.rows.ends_s ?? movingS;
  if (movingS < ends) return { ...play, clockS, movingS };
  return { ...play, clockS, movingS: ends, phase: 'over', stoodAtS: clockS };
}

/** What was done, beside what was read. */
function withDone(play: Play, kind: 'stop' | 'resume' | 'turn'): Play {
  const body = { kind, time_s: play.clockS } as EntryBody;
  const entry = { id: crypto.randomUUID(), body, shown: { kind, time_s: play.clockS } };
  return { ...play, entries: [...play.entries, entry] };
}

export function ride(practice: Practice, play: Play): Play {
  if (play.phase === 'before') return { ...play, phase: 'moving' };
  const truth = truthAt(practice, play);
  const before = truth.lag_v - lagOf(practice, play, truth);
  const gain = { volts: before, atS: play.clockS };
  return withDone({ ...play, phase: 'moving', gain }, 'resume');
}

export function stop(play: Play): Play {
  return withDone({ ...play, phase: 'standing', stoodAtS: play.clockS }, 'stop');
}

export function noted(play: Play, entry: PracticeEntry): Play {
  return { ...play, entries: [...play.entries, entry] };
}

/** What of the log is a reading. */
export function readOf(play: Play): PracticeEntry[] {
  return play.entries.filter(({ body }) => !['stop', 'resume', 'turn'].includes(body.kind));
}

/** What is sent to be judged: it ends where the rider did. */
export function logOf(play: Play): EntryBody[] {
  const bodies = play.entries.map((entry) => entry.body);
  if (bodies.at(-1)?.kind === 'end') return bodies;
  return [...bodies, { kind: 'end', time_s: play.clockS } as EntryBody];
}
