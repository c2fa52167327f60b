import { say } from '../words/en/roadside.ftl';
/** What is said where this device could not keep something; no browser's own words. */
export function notKeptWords(error: unknown): string {
  return isFull(error) ? say('this-phone-is-out-of') : say('that-could-not-be-saved');
}

/** Whether a store said that there is no room: by name in most, within another error in some. */
export function isFull(error: unknown): boolean {
  if (typeof error !== 'object' || error === null) return false;
  const {
    name = '',
    message = '',
    inner,
  } = error as {
    name?: string;
    message?: string;
    inner?: unknown;
  };
  return /quota/i.test(name) || /quota/i.test(message) || isFull(inner);
}
