import type { Entry, Units } from '../api/queries';
import { ALL_FIELDS, type EntryBody } from '../entries/fields';
import { numberIn } from '../format/fields';

/** What an entry says, in the core's units; what was not read is missing. */
export type Readings = Partial<Omit<Entry, 'id' | 'changes' | 'earlier' | 'questions'>> &
  Pick<Entry, 'kind' | 'time_s'>;

/** A body as it was typed, with its readings as numbers: what this device can show of it by itself. */
export function readingsOf(body: EntryBody, units: Units): Readings {
  const numbers = Object.fromEntries(
    ALL_FIELDS.map((field) => {
      const said = (body as Record<string, unknown>)[field.name];
      if (typeof said === 'string') return [field.name, numberIn(field, said, units)];
      return [field.name, said ?? null];
    }).filter(([, value]) => value !== null),
  );
  const { kind, time_s, note, what, place, mode, photo, confirmed } = body;
  const words = { note, what, place, mode, photo, confirmed };
  return { ...numbers, ...words, kind, time_s } as Readings;
}

/** What a stored entry says, without what the server tells of it. */
export function saidBy(entry: Entry): Readings {
  const { id: _, changes: __, earlier: ___, questions: ____, ...said } = entry;
  return said;
}
