import { describe, expect, it } from 'vitest';
import { isListOfWords, isRecord, remember, remembered } from './remembered';

function storage(kept: Record<string, string>, broken = false): () => Storage {
  return () => {
    if (broken) throw new Error('The browser refuses.');
    return {
      getItem: (key: string) => kept[key] ?? null,
      setItem: (key: string, value: string) => {
        kept[key] = value;
      },
      removeItem: (key: string) => {
        delete kept[key];
      },
    } as unknown as Storage;
  };
}

describe('what the browser remembers', () => {
  it('comes back as it was', () => {
    const kept = {};
    remember('a', { b: 1 }, storage(kept));
    expect(remembered('a', isRecord, storage(kept))).toEqual({ b: 1 });
    remember('a', null, storage(kept));
    expect(remembered('a', isRecord, storage(kept))).toBeNull();
  });

  it.each(['{', 'null', '7', '[1]', '"x"'])(
    'is nothing when it is broken or another thing: %s',
    (text) => {
      expect(remembered('a', isRecord, storage({ a: text }))).toBeNull();
      expect(remembered('a', isListOfWords, storage({ a: text }))).toBeNull();
    },
  );

  it('is nothing where the browser keeps nothing', () => {
    remember('a', 1, storage({}, true));
    expect(remembered('a', isRecord, storage({}, true))).toBeNull();
  });
});
