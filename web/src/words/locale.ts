/** The page's words are English: numbers and dates follow the reader's own kind of it. */
const OURS = 'en';
const USUAL = 'en-GB';

/** The locale for numbers and dates, by what the reader's browser asks for. */
export function localeOf(asked: readonly string[]): string {
  return asked.find((one) => one.split('-')[0] === OURS && one.includes('-')) ?? USUAL;
}

export const LOCALE = localeOf(globalThis.navigator?.languages ?? []);
