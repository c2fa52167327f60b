import type { TestFilter, TestRow } from '../api/queries';
import { END_REASONS, PURPOSES } from '../format/words';

/** The orders of the logbook; by vehicle and by pack the rows stand under headings. */
export const SORTS = [
  { value: 'newest', label: 'Newest first' },
  { value: 'oldest', label: 'Oldest first' },
  { value: 'vehicle', label: 'By vehicle' },
  { value: 'pack', label: 'By pack' },
  { value: 'consumption', label: 'Lowest consumption' },
  { value: 'range', label: 'Longest range' },
  { value: 'title', label: 'By title' },
] as const;
export type Sort = (typeof SORTS)[number]['value'];

export const SEASONS = [
  { value: 'dec_feb', label: 'December to February' },
  { value: 'mar_may', label: 'March to May' },
  { value: 'jun_aug', label: 'June to August' },
  { value: 'sep_nov', label: 'September to November' },
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
      ? test.vehicle_name || 'Vehicle not named'
      : sort === 'pack'
        ? test.pack_name || 'Pack not named'
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
