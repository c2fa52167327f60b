import {
  FluentBundle,
  type FluentFunction,
  type FluentResource,
  type FluentVariable,
} from '@fluent/bundle';
import { LOCALE } from './locale';

/** What a message takes in: nothing is said of what is not there. */
export type Value = FluentVariable | boolean | null | undefined;
export type Values = Readonly<Record<string, Value>>;

/** Messages of a room as they are parsed when the page is built, by key. */
export type Messages = Readonly<Record<string, FluentResource['body'][number]['value']>>;

export interface Say {
  /** The sentence of a key with its values; a key that nobody wrote stands for itself. */
  (key: string, values?: Values): string;
  /** Where its messages are kept, for sentences with elements in them. */
  readonly bundle: FluentBundle;
}

/** Values as Fluent takes them. */
export function taken(values: Values): Record<string, FluentVariable> {
  return Object.fromEntries(
    Object.entries(values).map(([name, value]) => [
      name,
      value == null || typeof value === 'boolean' ? '' : value,
    ]),
  );
}

function bodyOf(messages: Messages): FluentResource {
  const body = Object.entries(messages).map(([id, value]) => ({ id, value, attributes: {} }));
  return { body } as FluentResource;
}

/**
 * What says the sentences of a room.
 *
 * @param rooms messages; of a key in two of them the first is said
 * @param functions what messages call to write a value
 *
 * Letters of one direction only are English's for now: isolating marks would stand in every copied text.
 */
export function sayer(
  rooms: readonly Messages[],
  functions: Record<string, FluentFunction> = {},
): Say {
  const bundle = new FluentBundle(LOCALE, { useIsolating: false, functions });
  for (const messages of rooms) bundle.addResource(bodyOf(messages));
  function say(key: string, values: Values = {}): string {
    const pattern = bundle.getMessage(key)?.value;
    if (pattern == null) {
      console.error(`No words for ${key}.`);
      return key;
    }
    const faults: Error[] = [];
    const said = bundle.formatPattern(pattern, taken(values), faults);
    for (const fault of faults) console.error(`${key}: ${fault.message}`);
    return said;
  }
  return Object.assign(say, { bundle });
}
