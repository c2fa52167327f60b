import type { Schemas } from '../api/client';
import type { Entry, Units } from '../api/queries';
import { ENTRY, EVENT, sentOf, type TypedFields, typedText } from '../format/fields';

export type EntryBody = Schemas['EntryIn'];
export type Typed = TypedFields;

/** Displays are usually read in this order; what the core's list has beyond it comes after. */
const READ_FIRST = [
  'voltage_rest_v',
  'voltage_load_v',
  'charge_ah',
  'energy_wh',
  'trip_m',
  'laps',
  'gauge',
  'odometer_m',
  'gps_m',
  'current_a',
  'speed_mps',
  'battery_temp_c',
];

/** Everything an entry can hold, in the order in which displays are usually read. */
export const ENTRY_FIELDS = [...ENTRY].sort((a, b) => place(a.name) - place(b.name));

/** All numbers of an entry, those too that only an event asks for. */
export const ALL_FIELDS = [...ENTRY_FIELDS, ...EVENT];

function place(name: string): number {
  const at = READ_FIRST.indexOf(name);
  return at < 0 ? READ_FIRST.length : at;
}

/** What was typed as the API takes it: text with a unit, or a bare number. */
export function bodyOf(
  typed: Typed,
  rest: { time_s: number; kind: Entry['kind']; note?: string },
  units: Units,
): EntryBody {
  const read = ENTRY_FIELDS.map((field) => [
    field.name,
    sentOf(field, typed[field.name] ?? '', units),
  ]).filter(([, sent]) => sent !== null);
  return {
    ...Object.fromEntries(read),
    time_s: rest.time_s,
    kind: rest.kind,
    note: rest.note?.trim() ? rest.note.trim() : null,
  };
}

/** One reading of an entry, or of what it said before. */
export function readingOf(entry: object, name: string): number | null {
  const value = (entry as Record<string, unknown>)[name];
  return typeof value === 'number' ? value : null;
}

/** The stored entry as a rider would have typed it. */
export function typedOf(entry: Entry, units: Units): Typed {
  const typed: Typed = {};
  for (const field of ENTRY_FIELDS) {
    const value = readingOf(entry, field.name);
    if (value !== null) typed[field.name] = typedText(field, value, units, field.decimals);
  }
  return typed;
}

/** A stored entry as it is sent: all that it says, without its history and what is asked about it. */
export function wholeBody(entry: Entry): EntryBody {
  const { id: _, changes: __, earlier: ___, questions: ____, ...said } = entry;
  return said;
}
