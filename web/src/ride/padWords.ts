import type { Units } from '../api/queries';
import { ENTRY_FIELDS, type EntryBody, type Typed } from '../entries/fields';
import { sentOf, shownText, unitOf } from '../format/fields';
import { type Ride, type RideEntry, saidIn } from '../roadside/ride';
import { say } from '../words/en/ride.ftl';
import { NOTE } from './pad';
import { placed } from './placed';
import { expectedOf, fieldNamed, VOLTS } from './steps';

/** What to do for a reading, guided through a pair or not. */
export function hintOf(name: string, guided: boolean): string | undefined {
  if (guided && PAIR_HINTS[name]) return PAIR_HINTS[name];
  if (name === 'voltage_rest_v') return say('standing-throttle-closed');
  if (name === 'voltage_load_v') return say('under-load-let-somebody-else');
  return undefined;
}

/** What to do for each reading of a pair. */
export const PAIR_HINTS: Record<string, string> = {
  voltage_rest_v: say('n-1-of-3-throttle-closed'),
  voltage_load_v: say('n-2-of-3-where-it'),
  current_a: say('n-3-of-3-the-amps'),
};

/** A stored value as its keys would have typed it. */
export function plainText(name: string, value: number, units: Units): string {
  const field = fieldNamed(name);
  return shownText(field, value, units)
    .replace(/[^\d.\-−]/g, '')
    .replace('−', '-');
}

/** What was typed in a step, as it is taken. */
export function shownStep(
  step: string,
  typed: Typed,
  units: Units,
  taken: (name: string) => string,
): string {
  const names = step === 'voltage_rest_v' ? VOLTS : [step];
  return names
    .filter((name) => (typed[name] ?? '') !== '')
    .map(taken)
    .map((text) => `${text} ${unitOf(fieldNamed(step), units)}`.trim())
    .join(', ');
}

/** The digits on the pad, with the point where it is offered. */
export function shownOffer(text: string, offers: number[]): string {
  if (offers.length > 1) return String(offers[0]);
  return text === '' ? ' ' : text.replace('-', '−');
}

/** What is sent: each reading with its unit, digits with the point where it was offered. */
export function bodyFrom(
  typed: Typed,
  asTyped: ReadonlySet<string>,
  ride: Ride,
  { openedAt, time_s }: { openedAt: number; time_s: number },
  units: Units,
  entry: RideEntry | null,
  kind: 'start' | 'checkpoint' | 'settle',
): EntryBody {
  const readings = ENTRY_FIELDS.flatMap((field) => {
    const text = (typed[field.name] ?? '').trim();
    if (text === '') return [];
    const expected = asTyped.has(field.name) ? null : expectedOf(ride, field.name, openedAt, units);
    const value = placed(text, expected)[0];
    return [[field.name, sentOf(field, String(value ?? text), units)]];
  });
  const note = (typed[NOTE] ?? '').trim();
  const kept = entry ? keptWords(entry) : {};
  return {
    ...kept,
    ...Object.fromEntries(readings),
    kind: entry?.kind ?? kind,
    time_s,
    note: note === '' ? null : note,
  } as EntryBody;
}

/** What an entry says beside its numbers, which a pad does not change. */
function keptWords(entry: RideEntry): Partial<EntryBody> {
  const names = new Set(ENTRY_FIELDS.map((field) => field.name));
  return Object.fromEntries(
    Object.entries(saidIn(entry)).filter(([name, value]) => !names.has(name) && value != null),
  );
}
