import { describe, expect, it } from 'vitest';
import type { Plan, Units } from '../api/queries';
import { plannedWords } from './planned';

const UNITS: Units = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'kPa' };

function plan(
  turnM: number | null,
  enoughM: number | null,
): Pick<Plan, 'answer' | 'asked' | 'trouble'> {
  const answer = {
    forecast: {
      route: { distance_m: 20_000 },
      turn_point: turnM === null ? null : { distance_m: turnM, probability: 0.95 },
    },
    schedule: { entries: [{ distance_m: 4000 }, { distance_m: 9000 }] },
    enough: { distance_m: enoughM, wanted: 0.05 },
  };
  // Only what the line reads is here.
  return { answer: answer as unknown as Plan['answer'], asked: { and_back: true }, trouble: '' };
}

function test(ridden_m: number, kinds: string[], half = 0.5): Parameters<typeof plannedWords>[1] {
  return {
    entries: kinds.map((kind) => ({ kind })),
    ridden_m,
    figures: { range_to_cutoff: { value: 1, low: 1 - half, high: 1 + half } },
  } as unknown as Parameters<typeof plannedWords>[1];
}

describe('the line of the plan that matters now', () => {
  it('begins with the volts at rest', () => {
    expect(plannedWords(plan(8000, null), test(0, []), UNITS).headline).toMatch(
      /^Read the resting volts/,
    );
  });

  it('names the turn while it is ahead, and the next entry', () => {
    const words = plannedWords(plan(8000, null), test(5000, ['start']), UNITS);
    expect(words.headline).toBe('Turn by 8.0\u00a0km');
    expect(words.under).toContain('3.0\u00a0km to go');
    expect(words.under).toContain('Next entry at 9.0\u00a0km');
  });

  it('calls the far end a turn, not a limit', () => {
    expect(plannedWords(plan(10_000, null), test(5000, ['start']), UNITS).headline).toBe(
      'Turn at 10.0\u00a0km',
    );
  });

  it('goes on to enough once turned, and says when it is reached', () => {
    const turned = ['start', 'turn'];
    expect(plannedWords(plan(8000, 12_000), test(9500, turned), UNITS).headline).toBe(
      'Enough at 12.0\u00a0km',
    );
    expect(plannedWords(plan(8000, 12_000), test(9500, turned, 0.04), UNITS).headline).toMatch(
      /^Enough: you can end here/,
    );
  });

  it('counts down to the end', () => {
    const turned = ['start', 'turn'];
    expect(plannedWords(plan(8000, null), test(15_000, turned), UNITS).headline).toBe(
      '5.0\u00a0km to go',
    );
    expect(plannedWords(plan(8000, null), test(20_100, turned), UNITS).headline).toBe(
      'You’re there',
    );
  });
});
