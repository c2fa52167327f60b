import type { EntryKind, Plan, TestDetail, Units } from '../api/queries';
import { distance, number } from '../format/units';
import { say } from '../words/en/ride.ftl';

export interface Words {
  headline: string;
  under: string;
}

/** The line of the plan that matters now, and what comes after it. */
export function plannedWords(
  plan: Pick<Plan, 'answer' | 'asked' | 'trouble'>,
  test: Pick<TestDetail, 'figures'> & { ridden_m: number; entries: Array<{ kind: EntryKind }> },
  units: Units,
): Words {
  if (plan.answer === null) return { headline: say('ride'), under: plan.trouble };
  const { forecast, enough } = plan.answer;
  const far = (metres: number) => distanceWords(metres, units);
  if (test.entries.length === 0) {
    return {
      headline: say('read-the-resting-volts'),
      under: say('throttle-closed-pack-rested-then', { far: far(forecast.route.distance_m) }),
    };
  }
  const ridden = test.ridden_m;
  const turned = test.entries.some((entry) => entry.kind === 'turn');
  const turn = forecast.turn_point;
  const entry = nextEntryWords(plan, ridden, units);
  const told = measuredEnough(test, enough.wanted);
  const enoughWords =
    enough.distance_m == null || told ? '' : say('enough-at-far', { far: far(enough.distance_m) });
  const also = (...parts: string[]) => parts.filter(Boolean).join(' · ');
  if (turn && plan.asked.and_back === true && !turned && turn.distance_m > ridden) {
    const half = forecast.route.distance_m / 2;
    const at = Math.min(turn.distance_m, half);
    return {
      headline:
        at < half - 1 ? say('turn-by-far', { far: far(at) }) : say('turn-at-far', { far: far(at) }),
      under: also(say('far-to-go', { far: far(Math.max(at - ridden, 0)) }), entry, enoughWords),
    };
  }
  if (told)
    return {
      headline: say('enough-you-can-end-here'),
      under: also(say('the-range-is-known-well'), entry),
    };
  if (enough.distance_m != null && ridden < enough.distance_m) {
    return {
      headline: say('enough-at-far-title', { far: far(enough.distance_m) }),
      under: also(say('far-to-go', { far: far(enough.distance_m - ridden) }), entry),
    };
  }
  const togo = forecast.route.distance_m - ridden;
  if (togo > 0) {
    return {
      headline: say('far-to-go', { far: far(togo) }),
      under: also(entry, say('then-let-it-rest-and')),
    };
  }
  return { headline: say('youre-there'), under: say('let-the-pack-rest-read') };
}

/** Where the plan wants the next entry [m]; null when it wants none. */
export function nextEntryAt(plan: Pick<Plan, 'answer'>, ridden_m: number): number | null {
  const next = plan.answer?.schedule.entries.find((entry) => entry.distance_m > ridden_m + 100);
  return next?.distance_m ?? null;
}

/** The same in words; nothing when it wants none. */
export function nextEntryWords(plan: Pick<Plan, 'answer'>, ridden_m: number, units: Units): string {
  const at = nextEntryAt(plan, ridden_m);
  return at === null ? '' : say('next-entry-at', { distance_words: distanceWords(at, units) });
}

function distanceWords(metres: number, units: Units): string {
  return `${number(distance(metres, units), 1)}\u00a0${units.distance}`;
}

/** Whether the evidence so far already gives the range as well as was wanted. */
function measuredEnough(test: Pick<TestDetail, 'figures'>, wanted: number): boolean {
  const range = test.figures?.range_to_cutoff;
  if (range == null || range.value <= 0) return false;
  return (range.high - range.low) / 2 / range.value <= wanted;
}
