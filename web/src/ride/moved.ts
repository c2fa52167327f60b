import type { Units } from '../api/queries';
import { ENTRY } from '../format/fields';
import { distanceText } from '../format/units';
import type { Readings } from '../roadside/entry';
import type { RideEntry } from '../roadside/ride';
import type { KeptAnswer } from '../roadside/store';
import { say } from '../words/en/ride.ftl';

/** So many readings are named. */
const MOST_NAMED = 2;
/** Readings that tell how much is left; a place alone tells it too, but is in every entry. */
const TELLING = [
  'voltage_rest_v',
  'voltage_load_v',
  'gauge',
  'charge_ah',
  'energy_wh',
  'shown_range_m',
] as const satisfies ReadonlyArray<keyof Readings>;

/**
 * What moved an estimate that left its own interval; empty where it did not.
 *
 * @param before the answer before
 * @param now_m where the pack ends by the answer of now
 * @param entries all of the ride's, as they stand
 */
export function movedWords(
  before: KeptAnswer | null,
  now_m: number | null,
  entries: readonly RideEntry[],
  units: Units,
): string {
  const [low = 0, middle = 0, high = 0] = before?.cutoff_m ?? [];
  if (before?.cutoff_m == null || now_m === null || (now_m >= low && now_m <= high)) return '';
  const from = distanceText(middle, units);
  const to = distanceText(now_m, units);
  return say('cut-off-moved-from-to', { from, to, cause_of: causeOf(before, entries) });
}

function causeOf(before: KeptAnswer, entries: readonly RideEntry[]): string {
  const had = new Map(before.entries.map((entry) => [entry.id, entry.changes]));
  const there = new Set(entries.map((entry) => entry.id));
  const corrected = entries.some(
    (entry) => had.has(entry.id) && (entry.changes ?? 0) > (had.get(entry.id) ?? 0),
  );
  if (corrected || [...had.keys()].some((id) => !there.has(id))) return say('your-correction');
  const added = entries.filter((entry) => !had.has(entry.id));
  const read = TELLING.filter((name) => added.some((entry) => entry[name] != null));
  const named = read.map((name) =>
    say('the-label', {
      label: ENTRY.find((field) => field.name === name)?.label.toLowerCase() ?? name,
    }),
  );
  if (named.length > 0) return named.slice(0, MOST_NAMED).join(' and ');
  if (added.length === 0) return say('what-you-changed');
  return added.some((entry) => entry.kind === 'event')
    ? say('what-you-noted')
    : say('the-distance');
}
