import type { TestFilter, TestRow } from '../api/queries';
import { END_REASONS, PURPOSES } from '../format/words';
import { say } from '../words/en/logbook.ftl';

/** The orders of the logbook; by vehicle and by pack the rows stand under headings. */
export const SORTS = [
  { value: 'newest', label: say('newest-first') },
  { value: 'oldest', label: say('oldest-first') },
  { value: 'vehicle', label: say('by-vehicle') },
  { value: 'pack', label: say('by-pack') },
  { value: 'consumption', label: say('lowest-consumption') },
  { value: 'range', label: say('longest-range') },
  { value: 'title', label: say('by-title') },
] as const;
export type Sort = (typeof SORTS)[number]['value'];

export const SEASONS = [
  { value: 'dec_feb', label: say('december-to-february') },
  { value: 'mar_may', label: say('march-to-may') },
  { value: 'jun_aug', label: say('june-to-august') },
  { value: 'sep_nov', label: say('september-to-november') },
] as const;

function oneOf<T extends string>(
  list: ReadonlyArray<{ value: T }>,
  value: string | null,
): T | undefined {
  return list.find((item) => item.value === value)?.value;
}

/** What the address asks for; what it cannot mean is passed over. */
export function filterOf(address: URLSearchParams): TestFilter {
  const text = (name: string, most: number) => address.get(name)?.slice(0, most) || undefined;
  const found: TestFilter = {
    vehicle: text('vehicle', 100),
    pack: text('pack', 100),
    rider: text('rider', 100),
    purpose: oneOf(PURPOSES, address.get('purpose')),
    ended: oneOf(END_REASONS, address.get('ended')),
    season: oneOf(SEASONS, address.get('season')),
    tag: text('tag', 40),
    words: text('q', 100),
    sort: oneOf(SORTS, address.get('sort')),
  };
  return Object.fromEntries(
    Object.entries(found).filter(([, value]) => value !== undefined),
  ) as TestFilter;
}

export type Line =
  | { kind: 'heading'; key: string; text: string }
  | { kind: 'row'; key: string; test: TestRow };

/** Rows with the headings of their groups between them, where the order has groups. */
export function linesOf(tests: TestRow[], sort: Sort | undefined): Line[] {
  const groupOf = (test: TestRow) =>
    sort === 'vehicle'
      ? test.vehicle_name || say('vehicle-not-named')
      : sort === 'pack'
        ? test.pack_name || say('pack-not-named')
        : null;
  const lines: Line[] = [];
  let last: string | null = null;
  for (const test of tests) {
    const group = groupOf(test);
    if (group !== null && group !== last) {
      lines.push({ kind: 'heading', key: `heading ${group}`, text: group });
    }
    last = group;
    lines.push({ kind: 'row', key: test.id, test });
  }
  return lines;
}
