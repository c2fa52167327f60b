import { FluentNumber, type FluentValue } from '@fluent/bundle';
import type { Units } from '../api/queries';
import { type Messages, sayer } from '../words/sayer';
import { chance, distanceText, number, percent, speedText, unitsKey } from './units';

/** Values of a line of the core's, in the core's units. */
export type Values = Record<string, number | string>;

/** Choices of units that are kept: somebody who changes them reads on in the new ones. */
const MOST_READERS = 4;

/**
 * What says the lines that the core gives (`src/limpet/notices/en`), as the core would, without a signal: the
 * functions are those of `limpet.notices.words`. A value that an older version did not keep is a dash.
 */
export function speaker(messages: Messages) {
  const readers = new Map<string, ReturnType<typeof sayer>>();
  const missing = new Map<string, Values>();
  return (key: string, values: Values, units: Units): string => {
    const reader = unitsKey(units);
    let say = readers.get(reader);
    if (say === undefined) {
      if (readers.size >= MOST_READERS) readers.clear();
      say = sayer([messages], functionsFor(units));
      readers.set(reader, say);
    }
    const without = missing.get(key) ?? dashes(messages, key);
    missing.set(key, without);
    return say(key, { ...without, ...values });
  };
}

/** A dash for every value that a message takes in. */
function dashes(messages: Messages, key: string): Values {
  const written = JSON.stringify(messages[key] ?? '');
  return Object.fromEntries(
    [...written.matchAll(/"type":"var","name":"(\w+)"/g)].map(([, name]) => [name, '–']),
  );
}

function functionsFor(units: Units) {
  const of =
    (said: (value: number) => string) =>
    ([value]: FluentValue[]) =>
      value instanceof FluentNumber ? said(value.value) : String(value);
  return {
    DISTANCE: of((value) => tight(distanceText(value, units))),
    SPEED: of((value) => tight(speedText(value, units))),
    PERCENT: of(percent),
    CHANCE_OF: of(chance),
    FIXED: ([value]: FluentValue[], { digits }: Record<string, FluentValue>) =>
      value instanceof FluentNumber
        ? number(value.value, digits instanceof FluentNumber ? digits.value : 0)
        : String(value),
  };
}

/** A figure and its unit stay on one line. */
function tight(text: string): string {
  return text.replace(' ', '\u00a0');
}
