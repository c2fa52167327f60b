import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { expect, test, vi } from 'vitest';
import { messagesOf } from '../../fluent.ts';
import { localeOf } from './locale';
import { sayer } from './sayer';

const ROOT = join(import.meta.dirname, '..');
const FILES = readdirSync(ROOT, { recursive: true, encoding: 'utf8' }).filter(
  (name) => /\.tsx?$/.test(name) && !/\.test\.|\.d\.ts$|^(testing|words)\//.test(name),
);
const CATALOGUES = Object.fromEntries(
  readdirSync(join(import.meta.dirname, 'en')).map((name) => [
    name.replace('.ftl', ''),
    messagesOf(readFileSync(join(import.meta.dirname, 'en', name), 'utf8')),
  ]),
);

/** The names of the values that a message takes in. */
function variablesOf(pattern: unknown, found = new Set<string>()): Set<string> {
  if (Array.isArray(pattern)) for (const piece of pattern) variablesOf(piece, found);
  else if (pattern !== null && typeof pattern === 'object') {
    const piece = pattern as Record<string, unknown>;
    if (piece.type === 'var') found.add(String(piece.name));
    else for (const one of Object.values(piece)) variablesOf(one, found);
  }
  return found;
}

interface Use {
  file: string;
  room: string;
  key: string;
  values: Set<string> | null;
}

const parsed = (file: string) =>
  ts.createSourceFile(
    file,
    readFileSync(join(ROOT, file), 'utf8'),
    ts.ScriptTarget.Latest,
    true,
    file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );

function namesOf(node: ts.Node | undefined): Set<string> | null {
  if (node === undefined) return new Set();
  if (!ts.isObjectLiteralExpression(node)) return null;
  return new Set(node.properties.map((one) => one.name?.getText() ?? ''));
}

/** Every key that a file says, with the values that it gives. */
function usesOf(file: string): Use[] {
  const source = parsed(file);
  const room = source.text.match(/words\/en\/(\w+)\.ftl'/)?.[1];
  if (!room) return [];
  const found: Use[] = [];
  function look(node: ts.Node): void {
    if (ts.isCallExpression(node) && node.expression.getText() === 'say') {
      const [key, values] = node.arguments;
      for (const one of keysOf(key)) {
        found.push({ file, room: room ?? '', key: one, values: namesOf(values) });
      }
    }
    if (ts.isJsxSelfClosingElement(node) && node.tagName.getText() === 'Shown') {
      const of = (name: string) =>
        node.attributes.properties.find(
          (one): one is ts.JsxAttribute => ts.isJsxAttribute(one) && one.name.getText() === name,
        )?.initializer;
      const [id, values] = [of('id'), of('values')];
      const given = values && ts.isJsxExpression(values) ? values.expression : undefined;
      if (id && ts.isStringLiteral(id)) {
        found.push({ file, room: room ?? '', key: id.text, values: namesOf(given) });
      }
    }
    ts.forEachChild(node, look);
  }
  look(source);
  return found;
}

/** A key as it is written, or the two that a choice has. */
function keysOf(node: ts.Node | undefined): string[] {
  if (node && ts.isStringLiteral(node)) return [node.text];
  if (node && ts.isConditionalExpression(node)) {
    return [...keysOf(node.whenTrue), ...keysOf(node.whenFalse)];
  }
  return [];
}

const USES = FILES.flatMap(usesOf);
const patternOf = ({ room, key }: Use) => CATALOGUES[room]?.[key] ?? CATALOGUES.common?.[key];

test('what the page says stands in the catalogue, with the values that it is given', () => {
  expect(USES.length).toBeGreaterThan(1500);
  for (const use of USES) {
    const pattern = patternOf(use);
    expect(pattern, `${use.file}: ${use.room}.ftl has no ${use.key}`).toBeDefined();
    if (use.values === null) continue;
    expect([...use.values].sort(), `${use.file}: ${use.key}`).toEqual(
      [...variablesOf(pattern)].sort(),
    );
  }
});

test('what stands in a catalogue is said somewhere, and not in two catalogues', () => {
  const said = new Set(
    USES.map(({ room, key }) => `${CATALOGUES[room]?.[key] ? room : 'common'} ${key}`),
  );
  for (const [room, messages] of Object.entries(CATALOGUES)) {
    for (const key of Object.keys(messages)) {
      expect(said.has(`${room} ${key}`), `${room}.ftl: nobody says ${key}`).toBe(true);
      if (room !== 'common') {
        expect(CATALOGUES.common?.[key], `${key} is common and in ${room}`).toBeUndefined();
      }
    }
  }
});

/** Attributes and properties that a rider never reads. */
const UNREAD =
  /^(className|to|href|src|style|id|key|type|d|transform|viewBox|data-.*|variant|path|value|kind|code|accept|rel|labelElement|preserveAspectRatio|valueFormat|shortcut|fontFamily.*|border|boxShadow|padding|margin|display|gridTemplateColumns|whiteSpace|flex|inset|font)$/;
/** Words that are no sentence: units, the product's name, a key to press, a command, a place of the demo. */
const NOT_WORDS =
  /^(Wh|Ah|mΩ|kWh|MiB|limpet|Limpet|Ctrl K|min|mph|JSON|[^A-Za-z]*(Wh|Ah|V|min|km|mi|kg|st|lb)?[^A-Za-z]*|Wh\/(km|mi)?|\.\/limpet start --lan|Skerrow|index\.html has no #root)$/;

/** What only whoever runs Limpet reads, in the browser's console, and what is kept in a database. */
const TECHNICAL = [
  /^"Atkinson .*", system-ui/,
  /^(\+\+seq|kept before versions)/,
  /^Limpet is not saved for use without signal\.$/,
  /^What is saved here could not be sent\.$/,
];

/** What is written in a file as a rider would read it, and not taken from a catalogue. */
function outsideOf(file: string): string[] {
  const found: string[] = [];
  const worded = (text: string) =>
    /[A-Za-z]{2}/.test(text) && !NOT_WORDS.test(text.replace(/\s+/g, ' ').trim());
  function look(node: ts.Node): void {
    if (ts.isJsxText(node)) {
      const units = node.text.split(/[^A-Za-zΩ/]+/).filter(Boolean);
      if (units.some(worded)) found.push(node.text.trim());
    }
    if (ts.isJsxAttribute(node) && !UNREAD.test(node.name.getText())) {
      const { initializer } = node;
      if (initializer && ts.isStringLiteral(initializer) && worded(initializer.text)) {
        if (/[A-Z ]/.test(initializer.text)) found.push(initializer.text);
      }
    }
    // Three words or more in a row are a sentence, wherever they stand.
    if (
      ts.isStringLiteralLike(node) ||
      ts.isTemplateHead(node) ||
      ts.isTemplateMiddleOrTemplateTail(node)
    ) {
      const sentence = /[a-z’]+,? [a-z’]+,? [a-z’]{2,}/i.test(node.text);
      const { parent } = node;
      const unread =
        ts.isImportDeclaration(parent) ||
        ts.isLiteralTypeNode(parent) ||
        (ts.isJsxAttribute(parent) && UNREAD.test(parent.name.getText())) ||
        (ts.isPropertyAssignment(parent) && UNREAD.test(parent.name.getText())) ||
        /^(console\.|throw )/.test(statementOf(node));
      const technical = TECHNICAL.some((one) => one.test(node.text));
      if (sentence && !unread && !technical && worded(node.text)) found.push(node.text);
    }
    ts.forEachChild(node, look);
  }
  look(parsed(file));
  return found;
}

function statementOf(node: ts.Node): string {
  let here = node;
  while (here.parent && !ts.isStatement(here)) here = here.parent;
  return here.getText();
}

test('no sentence is written in the code of the page', () => {
  const outside = FILES.flatMap((file) => outsideOf(file).map((text) => `${file}: ${text}`));
  expect(outside).toEqual([]);
});

test('a catalogue is one message a key, and a line that belongs to none is refused', () => {
  expect(messagesOf('a = One\n    line more\n')).toEqual({ a: 'One line more' });
  expect(() => messagesOf('a = One\nand nothing\n')).toThrow('and nothing');
});

test('a missing key stands for itself, and is told', () => {
  const told = vi.spyOn(console, 'error').mockImplementation(() => undefined);
  const say = sayer([messagesOf('left = { $count } left{ $more }\n')]);
  expect(say('left', { count: 1200, more: null })).toBe('1,200 left');
  expect(say('left', { count: 2, more: false })).toBe('2 left');
  expect(told).not.toHaveBeenCalled();
  expect(say('right')).toBe('right');
  expect(say('left', { more: ', more' })).toContain('left, more');
  expect(told).toHaveBeenCalledTimes(2);
  told.mockRestore();
});

test('numbers and dates follow the English that the reader asks for', () => {
  expect(localeOf(['de-DE', 'en-US'])).toBe('en-US');
  expect(localeOf(['en', 'de'])).toBe('en-GB');
  expect(localeOf([])).toBe('en-GB');
});
