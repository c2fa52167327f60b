import { describe, expect, it } from 'vitest';
import { wordsOf, wrap } from './wrap';

const byLength = ({ text }: { text: string }) => text.length;
const read = (lines: ReturnType<typeof wrap>) =>
  lines.map((line) => line.map(({ text }) => text).join(''));

describe('a sentence in lines', () => {
  const sentence = 'The ride used *67% of the pack* (62% to 73%).';

  it('keeps every word, in order, and what is bold', () => {
    const words = wordsOf(sentence);
    expect(words.map(({ text }) => text).join('')).toBe(sentence.replaceAll('*', ''));
    expect(words.filter(({ bold }) => bold).map(({ text }) => text.trim())).toEqual([
      '67%',
      'of',
      'the',
      'pack',
    ]);
  });

  it('breaks between words only, and no line is longer than its room', () => {
    const lines = read(wrap(wordsOf(sentence), 14, byLength));
    expect(lines).toEqual(['The ride used ', '67% of the ', 'pack (62% to ', '73%).']);
  });

  it('never parts a bold word from the stop behind it', () => {
    expect(read(wrap(wordsOf('Plan on *22.8 miles*.'), 18, byLength))).toEqual([
      'Plan on 22.8 ',
      'miles.',
    ]);
  });
});
