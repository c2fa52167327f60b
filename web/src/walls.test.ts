import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';
import { expect, test } from 'vitest';

const ROOT = import.meta.dirname;
/** What a file takes in at once, types too. A part that is loaded when it is seen is a door, not a wall. */
const IMPORT = /^(?:import|export)\s[\s\S]*?from\s+'(\.[^']+)';/gm;

const FILES = new Set(
  readdirSync(ROOT, { recursive: true, encoding: 'utf8' }).filter(
    (name) => /\.tsx?$/.test(name) && !/\.test\.|\.d\.ts$/.test(name),
  ),
);

function takenIn(file: string): string[] {
  return [...readFileSync(join(ROOT, file), 'utf8').matchAll(IMPORT)].flatMap((match) => {
    const base = normalize(join(dirname(file), match[1] ?? ''));
    return ['', '.ts', '.tsx'].map((end) => base + end).filter((name) => FILES.has(name));
  });
}

const folderOf = (file: string) => (dirname(file) === '.' ? file : dirname(file));

/** One way round, from a place back to itself; empty where there is none. */
function circle(graph: Map<string, Set<string>>): string[] {
  const done = new Set<string>();
  function walk(place: string, way: string[]): string[] {
    if (way.includes(place)) return [...way.slice(way.indexOf(place)), place];
    if (done.has(place)) return [];
    for (const next of graph.get(place) ?? []) {
      const found = walk(next, [...way, place]);
      if (found.length > 0) return found;
    }
    done.add(place);
    return [];
  }
  for (const place of graph.keys()) {
    const found = walk(place, []);
    if (found.length > 0) return found;
  }
  return [];
}

function graphOf(name: (file: string) => string): Map<string, Set<string>> {
  const graph = new Map<string, Set<string>>();
  for (const file of FILES) {
    const here = graph.get(name(file)) ?? new Set();
    for (const other of takenIn(file)) if (name(other) !== name(file)) here.add(name(other));
    graph.set(name(file), here);
  }
  return graph;
}

test('files take each other in one way only', () => {
  const graph = graphOf((file) => file);
  expect(circle(graph)).toEqual([]);
  // The reader itself: without it an empty graph would have no circles either.
  expect(graph.get('places/parts.ts')).toContain('places/tracesPart.ts');
  expect(FILES.size).toBeGreaterThan(200);
});

test('rooms take each other in one way only', () => {
  const graph = graphOf(folderOf);
  expect(circle(graph)).toEqual([]);
  expect(graph.get('roadside')).toContain('api');
});

test('a circle is found', () => {
  const graph = new Map([
    ['a', new Set(['b'])],
    ['b', new Set(['c'])],
    ['c', new Set(['b'])],
  ]);
  expect(circle(graph)).toEqual(['b', 'c', 'b']);
});
