import { basename } from 'node:path';
import { FluentResource } from '@fluent/bundle';
import { FluentParser, type Junk } from '@fluent/syntax';
import type { Plugin } from 'vite';

type Pattern = FluentResource['body'][number]['value'];

/** A sentence that is wrapped in the file is one line on the page. */
function inOneLine(pattern: Pattern): Pattern {
  if (typeof pattern === 'string') return pattern.replace(/\n/g, ' ');
  if (pattern === null) return null;
  return pattern.map((piece) => (typeof piece === 'string' ? piece.replace(/\n/g, ' ') : piece));
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
      const shared = basename(id) === 'common.ftl';
      const code = [
        "import { sayer } from '/src/words/sayer.ts';",
        shared ? '' : "import { messages as shared } from '/src/words/en/common.ftl';",
        `export const messages = ${JSON.stringify(messagesOf(written))};`,
        `export const say = sayer(${shared ? 'messages' : 'shared, messages'});`,
      ].join('\n');
      return { code, map: null };
    },
  };
}
