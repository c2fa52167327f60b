import { basename } from 'node:path';
import { FluentResource } from '@fluent/bundle';
import { FluentParser, type Junk } from '@fluent/syntax';
import type { Plugin } from 'vite';

type Pattern = FluentResource['body'][number]['value'];

/** A sentence that is wrapped in the file is one line on the page, and what has no values one text. */
function inOneLine(pattern: Pattern): Pattern {
  if (pattern === null || typeof pattern === 'string') return pattern?.replace(/\n/g, ' ') ?? null;
  const pieces = pattern.reduce<typeof pattern>((done, piece) => {
    const last = done.at(-1);
    if (typeof piece === 'object') {
      if (piece.type !== 'select') return [...done, piece];
      const variants = piece.variants.map((one) => ({
        ...one,
        value: inOneLine(one.value as Pattern),
      }));
      return [...done, { ...piece, variants } as typeof piece];
    }
    const text = piece.replace(/\n/g, ' ');
    return typeof last === 'string' ? [...done.slice(0, -1), last + text] : [...done, text];
  }, []);
  const [only] = pieces;
  return pieces.length === 1 && typeof only === 'string' ? only : pieces;
}

/** The messages of a file by key, as Fluent keeps them; throws where a line belongs to no message. */
export function messagesOf(written: string): Record<string, Pattern> {
  const junk = new FluentParser()
    .parse(written)
    .body.find((entry): entry is Junk => entry.type === 'Junk');
  if (junk) throw new Error(`No message: ${junk.content.slice(0, 80)}`);
  return Object.fromEntries(
    new FluentResource(written).body.map(({ id, value }) => [id, inOneLine(value)]),
  );
}

/** Takes a file of words in as what says them: parsed once, when the page is built. */
export function fluent(): Plugin {
  return {
    name: 'fluent',
    transform(written, id) {
      if (!id.endsWith('.ftl')) return null;
      const messages = `export const messages = ${JSON.stringify(messagesOf(written))};`;
      // The core's own sentences need the reader's units before anything can be said.
      if (!id.includes('/words/en/')) return { code: messages, map: null };
      const shared = basename(id) === 'common.ftl';
      const code = [
        "import { sayer } from '/src/words/sayer.ts';",
        shared ? '' : "import { messages as shared } from '/src/words/en/common.ftl';",
        messages,
        `export const say = sayer([${shared ? 'messages' : 'shared, messages'}]);`,
      ].join('\n');
      return { code, map: null };
    },
  };
}
