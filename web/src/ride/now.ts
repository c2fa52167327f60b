import core from '../api/core.json';
import type { Units } from '../api/queries';
import { fill } from '../format/fill';
import type { Ride } from '../roadside/ride';
import { leftNow, type Standing, standingAt } from '../roadside/table';
import { nextEntryAt, nextEntryWords, plannedWords } from './planned';
import { placeOf } from './stripHere';

/** The line that matters, what stands under it, and where it is from. */
export interface Now {
  headline: string;
  under: string;
  /** What the plan wants next, where there is a plan. */
  next: string;
  /** Where that is [m]; null where nothing is wanted. */
  nextAt: number | null;
  /** The server's own answer, one from this device's table, or what is left when there is neither. */
  from: 'server' | 'table' | 'old' | 'plan' | 'nothing';
  standing: Standing | null;
  /** The core's line and its figures; null where there is none. */
  code: Code | null;
  values: Record<string, number>;
}

type Code = keyof typeof core.matters;

/** A line of the core's in words. */
export function matterWords(
  code: Code,
  values: Record<string, number>,
  units: Units,
): Pick<Now, 'headline' | 'under' | 'code' | 'values'> {
  const { line, under } = core.matters[code];
  return {
    headline: fill(line, values, units),
    under: fill(under, values, units),
    code,
    values,
  };
}

/** Whether the server has judged all that was noted here. */
export function isJudged(ride: Ride): boolean {
  const last = ride.entries.findLast((entry) => entry.where !== 'refused');
  const newest = ride.unsent.some((act) => act.kind === 'entry' || act.kind === 'removal');
  return ride.follow !== null && !newest && (last?.time_s ?? 0) <= ride.follow.at_s + 1;
}

/** What matters now: by the server where it has spoken, by its table where it cannot; never nothing. */
export function nowOf(ride: Ride, units: Units, track_m: number | null = null): Now {
  const ridden_m = riddenOf(ride, track_m);
  const next = ride.plan?.answer ? nextEntryWords(ride.plan, ridden_m, units) : '';
  const nextAt = ride.plan ? nextEntryAt(ride.plan, ridden_m) : null;
  const blank = { next: '', nextAt: null, standing: null, code: null, values: {} };
  if (ride.state === 'ended') {
    return { headline: 'Ended', under: 'The result is in the logbook.', from: 'server', ...blank };
  }
  if (ride.entries.length === 0) {
    return { ...blank, ...matterWords('read_volts', {}, units), from: 'nothing', next, nextAt };
  }
  if (ride.follow !== null && (isJudged(ride) || ride.table === null)) {
    const { code, values } = ride.follow.matter;
    const from = isJudged(ride) ? 'server' : 'old';
    return { ...matterWords(code, values, units), from, next, nextAt, standing: null };
  }
  if (ride.table !== null) {
    const standing = standingAt(ride.table, leftNow(ride.table, standingEntries(ride), track_m));
    return {
      ...matterWords(standing.code, standing.values, units),
      from: 'table',
      next,
      nextAt,
      standing,
    };
  }
  if (ride.plan?.answer) {
    const words = plannedWords(
      ride.plan,
      { entries: ride.entries, ridden_m, figures: null },
      units,
    );
    return { ...words, from: 'plan', ...blank };
  }
  return {
    headline: 'Ride, and read again',
    under: 'Volts at rest and the trip meter at the next stop; an answer comes with the signal.',
    from: 'nothing',
    ...blank,
  };
}

/**
 * How far a ride has come [m]: by the server's own reckoning where it has judged all entries, by its
 * table where that knows more. A reading is not a distance yet: trip meters run fast or slow, and only
 * the core knows by how much.
 */
export function riddenOf(ride: Ride, track_m: number | null = null): number {
  const told = ride.follow?.distance?.value ?? ride.detail?.strip?.ridden_m ?? 0;
  if (ride.follow !== null && isJudged(ride)) return Math.max(told, track_m ?? 0);
  const here = ride.table === null ? 0 : leftNow(ride.table, standingEntries(ride), track_m).at_m;
  const read = ride.table === null ? ride.entries.map((entry) => placeOf(ride, entry) ?? 0) : [];
  return Math.max(told, here, track_m ?? 0, ...read);
}

function standingEntries(ride: Ride): Ride['entries'] {
  return ride.entries.filter((entry) => entry.where !== 'refused');
}
