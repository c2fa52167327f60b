import core from '../api/core.json';
import type { Comparison, Question, TestRow, Units } from '../api/queries';
import { withUnit } from '../format/number';
import { distance, number, percent } from '../format/units';
import { say } from '../words/en/compare.ftl';
import { MOST_COMPARED } from './most';

export interface Sides {
  first: string[];
  second: string[];
}

/** The sides as the address has them; nothing twice. */
export function sidesOf(query: URLSearchParams): Sides {
  const listed = (name: string) => (query.get(name) ?? '').split(',').filter(Boolean);
  const first = [...new Set(listed('first'))];
  const second = [...new Set(listed('second'))].filter((id) => !first.includes(id));
  return { first: first.slice(0, MOST_COMPARED), second: second.slice(0, MOST_COMPARED) };
}

/**
 * Tests that were chosen together, in two sides: those of the first one's vehicle and pack against the
 * others; where all are of one kit, the first against the rest.
 */
export function dealt(
  tests: ReadonlyArray<Pick<TestRow, 'id' | 'vehicle_name' | 'pack_name'>>,
): Sides {
  const [one] = tests;
  if (!one) return { first: [], second: [] };
  const alike = tests.filter(
    (test) => test.vehicle_name === one.vehicle_name && test.pack_name === one.pack_name,
  );
  const first = alike.length === tests.length ? [one] : alike;
  const ids = first.map((test) => test.id);
  return { first: ids, second: tests.map((test) => test.id).filter((id) => !ids.includes(id)) };
}

/** Under which conditions both sides are told: A’s, but for the one that is asked about. */
export function atConditions(question: Question): string {
  const factors: Record<string, string> = core.factors;
  const own = factors[question];
  return own ? say('at-as-conditions-each-with', { own }) : say('at-as-conditions');
}

/** The address of a comparison. */
export function addressOf({ first, second }: Sides, question: Question | null): string {
  const asked = question ? `&question=${question}` : '';
  return `/compare?first=${first.join(',')}&second=${second.join(',')}${asked}`;
}

/** A test on the other side; the last one of a side stays. */
export function moved(sides: Sides, id: string): Sides {
  const [from, to] = sides.first.includes(id) ? ['first', 'second'] : ['second', 'first'];
  const left = sides[from as 'first'].filter((one) => one !== id);
  if (left.length === 0) return sides;
  return { ...sides, [from as string]: left, [to as string]: [...sides[to as 'first'], id] };
}

/** What somebody said before they knew which is which. */
export type Guess = 'first' | 'second' | 'neither';

/** Whether A is shown as Y, by the ids alone: the same however often the page is opened. */
export function isFlipped(ids: readonly string[]): boolean {
  let sum = 0;
  for (const letter of ids.join('')) sum = (31 * sum + letter.charCodeAt(0)) % 65_521;
  return sum % 2 === 1;
}

/** A guess beside the verdict, in words. */
export function guessText(guess: Guess, verdict: Comparison['verdict']): string {
  const said =
    guess === 'neither'
      ? say('about-the-same')
      : say('guess-uses-less', { guess: guess === 'first' ? 'A' : 'B' });
  const right = { first_less: 'first', second_less: 'second', no_difference_shown: 'neither' };
  if (verdict === 'not_comparable') return say('before-you-knew-which-was', { said });
  const same = right[verdict] === guess;
  return say('before-you-knew-which-was-which-you', {
    said,
    same: same ? say('the-evidence-agrees') : say('the-evidence-disagrees'),
  });
}

type Shown = Pick<Comparison, 'quantity'>;

/** A figure of a comparison as it is read: its number and its unit. */
export function figureOf(value: number, { quantity }: Shown, units: Units): number {
  if (quantity === 'wh_per_km') return value / distance(1000, units);
  return quantity === 'range_to_cutoff' ? distance(value, units) : 100 * value;
}

export function unitOf({ quantity }: Shown, units: Units): string {
  if (quantity === 'wh_per_km') return `Wh/${units.distance}`;
  return quantity === 'range_to_cutoff' ? units.distance : '%';
}

export function figureText(value: number, shown: Shown, units: Units): string {
  return withUnit(number(figureOf(value, shown, units), 1), unitOf(shown, units));
}

/** The same with its sign, for what something changed. */
export function changeText(value: number, shown: Shown, units: Units): string {
  const figure = figureOf(value, shown, units);
  const size = number(Math.abs(figure), 1);
  const sign = Number(size) === 0 ? '' : figure < 0 ? '−' : '+';
  // Shares that differ are told in points, or a fifth less would read as two numbers.
  const unit = shown.quantity === 'retained_fraction' ? 'points' : unitOf(shown, units);
  return withUnit(`${sign}${size}`, unit);
}

/** Whether a change is more than nought as it is read. */
export function shows(value: number, shown: Shown, units: Units): boolean {
  return Math.abs(figureOf(value, shown, units)) >= 0.05;
}

/** A step from the difference as found to the one at equal conditions. */
export interface Step {
  name: string;
  from: number;
  to: number;
}

/**
 * From the difference as it was found, a step for each condition, to the difference that is left. What
 * was taken off the second side makes the difference smaller, what was taken off the first larger.
 */
export function stepsOf(comparison: Comparison): Step[] {
  const { as_found, difference, corrections } = comparison;
  if (!as_found || !difference) return [];
  const worth = new Map<string, number>();
  for (const { name, applied_to, change } of corrections) {
    const sign = applied_to === 'second' ? 1 : -1;
    worth.set(name, (worth.get(name) ?? 0) + sign * change.value);
  }
  let at = as_found.value;
  const steps = [...worth].map(([name, change]) => {
    const step = { name, from: at, to: at + change };
    at = step.to;
    return step;
  });
  // Shares do not add up to the last tenth: what is left over is told, not hidden.
  const rest = difference.value - at;
  return Math.abs(rest) > 0.02 * Math.abs(difference.value)
    ? [...steps, { name: 'rest', from: at, to: difference.value }]
    : steps;
}

/** A share with its sign; what rounds to nothing has none. */
export function signed(value: number): string {
  if (Math.abs(value) < 0.0005) return percent(0);
  return (value < 0 ? '−' : '+') + percent(Math.abs(value));
}

/** A relative difference with its interval. */
export function shareText(comparison: Comparison): string {
  const share = comparison.relative_difference;
  if (!share) return '';
  return say('value-low-to-high', {
    value: signed(share.value),
    low: signed(share.low),
    high: signed(share.high),
  });
}

/** How a verdict was come to: by pairs, by groups or by what single runs are known to differ by. */
export function judgedText({
  judged_by,
  runs,
  run_spread,
  learned_runs,
}: Pick<Comparison, 'judged_by' | 'run_spread' | 'learned_runs'> & {
  runs: ReadonlyArray<Pick<Comparison['runs'][number], 'side'>>;
}): string {
  const known =
    run_spread == null
      ? ''
      : learned_runs > 0
        ? say('rides-vary-by-as-earlier', { run_spread: number(100 * run_spread, 1), learned_runs })
        : say('assuming-rides-vary-by-about', { run_spread: number(100 * run_spread, 1) });
  const first = runs.filter(({ side }) => side === 'first').length;
  const by = {
    paired: say('pairs-ridden-in-turns', { first }),
    welch: say('and-rides-each-side-with', { first, count: runs.length - first }),
    interval: say('one-ride-each'),
  };
  return judged_by ? by[judged_by] + known : '';
}
