import { describe, expect, it } from 'vitest';
import { notKeptWords } from './room';

describe('a store that could not keep something', () => {
  it.each([
    new DOMException('full', 'QuotaExceededError'),
    Object.assign(new Error('Aborted'), { inner: { name: 'QuotaExceededError' } }),
    new Error('QuotaExceededError: out of it'),
  ])('says that there is no room, and what to do: %s', (error) => {
    expect(notKeptWords(error)).toMatch(/out of room.*Free some space/);
    expect(notKeptWords(error)).not.toMatch(/Quota/);
  });

  it.each([new Error('closed'), 'anything', null])(
    'says of others what can be done: %s',
    (error) => {
      expect(notKeptWords(error)).toMatch(/could not be saved/);
    },
  );
});
