import type { Follow } from '../api/queries';
import type { Ride, RideEntry } from './ride';
import type { Act, Ahead } from './store';

export type Evidence = Follow['evidence'];

/**
 * What this device knows beyond an answer: nothing; more, which its own table can be moved by; or
 * something that the answer had otherwise, which no table can put right.
 */
export type Beyond =
  | { kind: 'nothing' }
  | { kind: 'more'; entries: RideEntry[] }
  | { kind: 'other' };

/** Acts that change what an answer is made of. */
const CHANGING = new Set<Act['kind']>([
  'entry',
  'removal',
  'back',
  'ending',
  'again',
  'sheet',
  'piece',
]);
/** What a track adds before anybody speaks of it [m]. */
export const NOTABLE_TRACK_M = 100;

export function sameAhead(a: Ahead | null, b: Ahead | null): boolean {
  return JSON.stringify(a ?? null) === JSON.stringify(b ?? null);
}

/** Whether a first answer is to give way to a second, for the same way: by the evidence, not by the clock. */
export function isNewer(before: Evidence, next: Evidence): boolean {
  return next.revision >= before.revision;
}

/** What is known here beyond the evidence of an answer. */
export function beyond(ride: Ride, evidence: Evidence, at_s: number): Beyond {
  const had = new Map(evidence.entries.map((entry) => [entry.id, entry.changes]));
  const here = ride.entries.filter((entry) => entry.where !== 'refused');
  const standing = new Map(here.map((entry) => [entry.id, entry]));
  for (const [id, changes] of had) {
    const now = standing.get(id);
    if (now === undefined || now.where === 'unsent' || (now.changes ?? changes) !== changes) {
      return { kind: 'other' };
    }
  }
  const sheet = ride.detail?.sheet?.changes;
  const waiting = ride.unsent.filter((act) => CHANGING.has(act.kind));
  const said = waiting.some((act) => act.kind === 'sheet' && !act.id.startsWith('gauge-'));
  if (said || (sheet !== undefined && sheet > evidence.sheet_changes)) return { kind: 'other' };
  const entries = here.filter((entry) => !had.has(entry.id));
  // Before anything was noted every entry is later, one at the very start too.
  const after_s = had.size === 0 ? Number.NEGATIVE_INFINITY : at_s;
  if (entries.some((entry) => entry.time_s <= after_s)) return { kind: 'other' };
  if (entries.length > 0) return { kind: 'more', entries };
  // Of the same entries something else was recorded since: a track, samples, the gauge's kind.
  const later = ride.revision > evidence.revision || waiting.length > 0;
  return later ? { kind: 'more', entries } : { kind: 'nothing' };
}
