import { messages } from '../../../src/limpet/notices/en/lines.ftl';
import core from '../api/core.json';
import type { Follow, Strip, Units } from '../api/queries';
import { speaker, type Values } from '../format/fill';
import { distance, distanceText, number } from '../format/units';
import { type Beyond, beyond, NOTABLE_TRACK_M, sameAhead } from '../roadside/evidence';
import { answerOf } from '../roadside/kept';
import type { Left } from '../roadside/readings';
import type { Ride } from '../roadside/ride';
import type { KeptTable } from '../roadside/store';
import { type Standing, standingNow } from '../roadside/table';
import { emptyStrip } from '../tideline/band';
import { say } from '../words/en/ride.ftl';
import { deviceStrip } from './deviceStrip';
import { movedWords } from './moved';
import { nextEntryAt, nextEntryWords, plannedWords } from './planned';

export type Code = Follow['matter']['code'];

const line = speaker(messages);

/**
 * Everything that a ride's page shows, out of one version of the evidence: the server's answer where it
 * knows all that this device does; this device's own estimate where it knows more; else the answer before,
 * as older; else what is there before anything was asked.
 */
export interface Shown {
  state: 'now' | 'device' | 'older' | 'before' | 'ended';
  /** When the server's answer behind it was asked for [ms]; 0 of none. */
  asOf: number;
  /** What it was made from, for whoever wants to hold it against the core. */
  evidence: string;
  code: Code | null;
  values: Values;
  headline: string;
  under: string;
  /** What the plan wants next, and where that is [m]. */
  next: string;
  nextAt: number | null;
  /** How far the ride has come [m], and why that is not what the instrument shows. */
  soFar_m: number | null;
  soFarWords: string;
  consumption: Follow['consumption'];
  strip: Strip | null;
  follow: Follow | null;
  standing: Standing | null;
  /** What moved it, where it left the interval of the answer before. */
  moved: string;
  /** Nobody has judged this ride yet: it rests on start values for such a vehicle and pack. */
  startValues: boolean;
  /** A reading that it hangs on is questioned. */
  questioned: boolean;
}

/** A line of the core's in words. */
export function matterWords(
  code: Code,
  values: Values,
  units: Units,
): Pick<Shown, 'headline' | 'under' | 'code' | 'values'> {
  const said = (key: string) => begun(line(key, values, units));
  return { headline: said(code), under: said(`${code}_under`), code, values };
}

/** A sentence begins with a capital, one that begins with a chance ("over 99%") too. */
function begun(sentence: string): string {
  return sentence.charAt(0).toUpperCase() + sentence.slice(1);
}

const NOTHING = {
  asOf: 0,
  evidence: '',
  next: '',
  nextAt: null,
  soFar_m: null,
  soFarWords: '',
  consumption: null,
  strip: null,
  follow: null,
  standing: null,
  moved: '',
  startValues: false,
  questioned: false,
};

export function shownOf(ride: Ride, units: Units, track_m: number | null = null): Shown {
  const shown = estimateOf(ride, units, track_m);
  const limit =
    ride.state === 'ended' || shown.state === 'now'
      ? null
      : (limitNoted(ride) ?? stepPassed(ride.table, ride.entries));
  // A limit that was just noted outranks any range, whoever has heard of it.
  return limit === null || shown.code === 'stop_now'
    ? shown
    : { ...shown, ...matterWords(limit, {}, units) };
}

type Limits = Record<string, { code: Code; holds_s: number | null }>;

/** A limit of the vehicle's that was noted here and holds still, by the core's own list. */
export function limitNoted(ride: Pick<Ride, 'entries'>): Code | null {
  const limits = core.limits as unknown as Limits;
  const last = ride.entries.at(-1)?.time_s ?? 0;
  const relief = reliefOf(ride.entries);
  for (const [what, { code, holds_s }] of Object.entries(limits)) {
    const noted = ride.entries.findLast((entry) => entry.what === what && entry.time_s > relief);
    if (noted && (holds_s === null || last - noted.time_s <= holds_s)) return code;
  }
  return null;
}

/** Whether the last reading has passed a step in speed of the vehicle's own, by what the core left here of them. */
export function stepPassed(table: KeptTable | null, entries: Ride['entries']): Code | null {
  const after = entries.filter((entry) => entry.time_s > reliefOf(entries));
  // A table of before has none.
  const passed = (table?.steps ?? []).some(({ name, at }) => {
    const read = after.findLast((entry) => entry[name] != null)?.[name];
    return read != null && (name === 'gauge' ? read <= at : read < at);
  });
  return passed ? 'speed_step' : null;
}

/** When a charge or another pack last took limits back [s]; before the start where nothing did. */
function reliefOf(entries: Ride['entries']): number {
  return Math.max(
    -1,
    ...entries
      .filter((entry) => entry.kind === 'swap' || core.relief.includes(entry.what ?? ''))
      .map((entry) => entry.time_s),
  );
}

function estimateOf(ride: Ride, units: Units, track_m: number | null): Shown {
  if (ride.state === 'ended') {
    const words = { headline: say('ended'), under: say('the-result-is-in-the') };
    const strip = ride.detail?.computed === 'fresh' ? ride.detail.strip : null;
    return { ...NOTHING, ...words, state: 'ended', code: null, values: {}, strip };
  }
  const planned = ride.plan?.answer ? emptyStrip(ride.plan.answer.forecast) : null;
  if (ride.entries.every((entry) => entry.where === 'refused')) {
    const words = matterWords('read_volts', {}, units);
    return { ...NOTHING, ...words, ...nextOf(ride, 0, units), state: 'before', strip: planned };
  }
  const { follow, table } = ride;
  const since: Beyond = follow ? beyond(ride, follow.evidence, follow.at_s) : { kind: 'other' };
  const moved = track_m !== null && track_m > (follow?.distance?.value ?? 0) + NOTABLE_TRACK_M;
  if (follow !== null && since.kind === 'nothing' && !(moved && table)) {
    return answered(ride, follow, 'now', units);
  }
  if (table !== null) {
    const known = beyond(ride, table.evidence, table.at_s);
    if (known.kind !== 'other') return byTable(ride, table, units, track_m);
  }
  if (follow !== null) return answered(ride, follow, 'older', units);
  return unanswered(ride, units, planned);
}

/** The server's answer, whole. */
function answered(ride: Ride, follow: Follow, state: 'now' | 'older', units: Units): Shown {
  const { code, values } = follow.matter;
  const ridden = follow.distance?.value ?? 0;
  return {
    ...matterWords(code as Code, values, units),
    ...nextOf(ride, ridden, units),
    state,
    asOf: ride.followedAt,
    evidence: `${follow.evidence.revision}:${follow.evidence.digest}`,
    soFar_m: follow.distance?.value ?? null,
    soFarWords: soFarWords(follow.reads, ridden, units),
    consumption: follow.consumption,
    strip: follow.strip,
    follow,
    standing: null,
    moved:
      state === 'now' ? movedWords(ride.previous, middleOf(follow.strip), ride.entries, units) : '',
    startValues: false,
    questioned: follow.warnings.some((notice) => notice.code === 'hangs_on_question'),
  };
}

/** This device's own estimate, whole: the table that was left here, with all that was noted since. */
function byTable(ride: Ride, table: KeptTable, units: Units, track_m: number | null): Shown {
  const had = new Set(table.evidence.entries.map((entry) => entry.id));
  const here = ride.entries.filter((entry) => entry.where !== 'refused');
  const since = here.filter((entry) => !had.has(entry.id));
  const way = sameAhead(table.ahead ?? null, ride.ahead) ? undefined : ride.ahead;
  const standing = standingNow(table, here, track_m, way);
  const last = standing.path.at(-1) as Left;
  const strip = deviceStrip(ride, table, standing, since);
  const before = ride.follow ? answerOf(ride.follow) : null;
  return {
    ...matterWords(standing.code, standing.values, units),
    ...nextOf(ride, last.at_m, units),
    state: 'device',
    asOf: ride.followedAt,
    evidence: `${table.evidence.revision}:${table.evidence.digest}+${since.length}`,
    soFar_m: last.at_m,
    soFarWords: '',
    consumption:
      last.at_m > LEAST_RIDDEN_M && standing.code !== 'contradict' ? consumptionOf(standing) : null,
    strip,
    follow: null,
    standing,
    moved: movedWords(before, middleOf(strip), ride.entries, units),
    startValues: table.start_values !== undefined,
    questioned: false,
  };
}

/** Where the pack ends by a strip [m]; null where it says nothing of it. */
const middleOf = (strip: Strip) => strip.cutoff_m?.[1] ?? null;

/** Shorter than this a ride says nothing of what it takes [m]. */
const LEAST_RIDDEN_M = 30;

/** What the ride takes by this device's own draws, as the core would tell it. */
function consumptionOf(standing: Standing): Follow['consumption'] {
  const [low, value, high] = standing.perMetre;
  const told = (unit: string, metres: number) => ({
    value: value * metres,
    unit,
    standard_uncertainty: ((high - low) / 3.92) * metres,
    low: low * metres,
    high: high * metres,
    coverage: 0.95,
  });
  return { wh_per_km: told('Wh/km', 1000), wh_per_mi: told('Wh/mi', 1609.344) };
}

/** Nobody has judged the ride yet, and no table of it is here. */
function unanswered(ride: Ride, units: Units, strip: Strip | null): Shown {
  if (ride.plan?.answer) {
    const ridden_m = 0;
    const words = plannedWords(
      ride.plan,
      { entries: ride.entries, ridden_m, figures: null },
      units,
    );
    return { ...NOTHING, ...words, state: 'before', code: null, values: {}, strip };
  }
  return {
    ...NOTHING,
    headline: say('keep-going-and-take-another'),
    under: say('the-answer-comes-when-there'),
    state: 'before',
    code: null,
    values: {},
    strip,
  };
}

function nextOf(ride: Ride, ridden_m: number, units: Units): Pick<Shown, 'next' | 'nextAt'> {
  if (!ride.plan?.answer) return { next: '', nextAt: null };
  return {
    next: nextEntryWords(ride.plan, ridden_m, units),
    nextAt: nextEntryAt(ride.plan, ridden_m),
  };
}

/** An instrument's own scale is worth a word from here on [-]. */
const NOTABLE_SCALE = 0.005;
const INSTRUMENT_WORDS: Record<string, string> = {
  trip_m: say('trip-meter'),
  odometer_m: say('odometer'),
  gps_m: say('gps'),
};

/** Why the distance so far is not what the rider read: the instrument's own scale. */
function soFarWords(reads: Follow['reads'], ridden_m: number, units: Units): string {
  if (reads === null || ridden_m <= 0) return '';
  const off = reads.per_m - 1;
  if (reads.instrument === 'odometer_m' || Math.abs(off) < NOTABLE_SCALE) return '';
  const shown = reads.shown_m + (ridden_m - reads.at_m) * reads.per_m;
  const by = number(Math.abs(off) * 100, Math.abs(off) < 0.02 ? 1 : 0);
  const name = INSTRUMENT_WORDS[reads.instrument];
  return say('name-reads-shown-by-too', {
    name,
    shown: distanceText(shown, units),
    by,
    off: off > 0 ? say('much') : say('little'),
  });
}

/** A distance as the page shows it so far. */
export function soFarText(shown: Shown, units: Units): string {
  return shown.soFar_m === null ? '–' : number(distance(shown.soFar_m, units), 1);
}
