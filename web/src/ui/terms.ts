import core from '../api/core.json';

export interface Term {
  name: string;
  meaning: string;
  found: readonly string[];
}

/** Terms that are explained where they first stand on a screen, by code. */
export const TERMS: Record<string, Term> = core.terms;

const escaped = (phrase: string) => phrase.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** A sign is known with the figure behind it, a word as a whole. */
const pattern = (phrase: string) =>
  /\w$/.test(phrase) ? `(?<![\\w-])${escaped(phrase)}(?![\\w-])` : `${escaped(phrase)}[\\d.,]+%?`;

const BY_PHRASE = Object.entries(TERMS).flatMap(([code, { found }]) =>
  found.map((phrase) => ({ code, phrase })),
);

const ANY = new RegExp(BY_PHRASE.map(({ phrase }) => pattern(phrase)).join('|'), 'gi');

export interface Piece {
  text: string;
  /** The term that it names; null for what stands between terms. */
  code: string | null;
}

/** A text in pieces, the terms in it apart. */
export function piecesOf(text: string): Piece[] {
  const found: Piece[] = [];
  let from = 0;
  for (const match of text.matchAll(ANY)) {
    const [words] = match;
    const named = BY_PHRASE.find(({ phrase }) =>
      words.toLowerCase().startsWith(phrase.toLowerCase()),
    );
    if (match.index > from) found.push({ text: text.slice(from, match.index), code: null });
    found.push({ text: words, code: named?.code ?? null });
    from = match.index + words.length;
  }
  if (from < text.length) found.push({ text: text.slice(from), code: null });
  return found;
}
