import { useEffect, useRef } from 'react';
import { say } from '../words/en/ride.ftl';
import type { Shown } from './shown';
import { buzz, speak } from './signals';

/** So near to the turn it is told [m]. */
const NEAR_TURN_M = 300;
/** The rungs of getting home, the best first: each one down is told, once. */
const RUNGS = ['home', 'should', 'reserve', 'probably', 'might_not', 'probably_not', 'not_home'];
/** Lines that are told when they come up, whatever the rider looks at. */
const TELLING = new Set([
  ...RUNGS.slice(2),
  'stop_now',
  'tilt_back',
  'beeping',
  'speed_step',
  'too_hot',
  'shown_short',
  'turn_now',
  'slow_to',
  'enough',
  'laps_short',
  'laps_reserve',
]);

/**
 * What is told now, once: a line that calls for something, and the turn when it is near. An older answer
 * was told when it was new: nothing is undone by it, and nothing begins.
 */
export function alertOf(now: Pick<Shown, 'code' | 'values' | 'state'>): string | null | undefined {
  if (now.state === 'older') return undefined;
  if (now.code === null) return null;
  if (TELLING.has(now.code)) return now.code;
  if (now.code === 'range_left' && Number(now.values.least_m ?? 1) <= 0) return 'reserve';
  const near =
    now.code === 'turn_by' && Number(now.values.to_go_m ?? Number.MAX_VALUE) < NEAR_TURN_M;
  return near ? 'turn_near' : null;
}

/** Whether the place of a planned entry was passed without one. */
export function isPassed(
  before: { at: number | null; entries: number },
  now: { at: number | null; entries: number },
): boolean {
  if (before.at === null || before.entries !== now.entries) return false;
  return now.at === null || now.at > before.at;
}

/** Makes what calls for something felt, and heard where that is wanted; each once until it has passed. */
export function useAlerts(now: Shown, entries: number, spoken: boolean): void {
  const wanted = useRef({ at: now.nextAt, entries });
  useEffect(() => {
    const here = { at: now.nextAt, entries };
    const passed = isPassed(wanted.current, here);
    wanted.current = here;
    if (!passed) return;
    buzz();
    if (spoken) say(say('time-for-an-entry-stop'));
  }, [now.nextAt, entries, spoken]);
  const told = useRef<string | null>(null);
  const alert = alertOf(now);
  const { headline, under } = now;
  useEffect(() => {
    if (alert === undefined || alert === told.current) return;
    told.current = alert;
    if (alert === null) return;
    buzz();
    if (spoken) speak(`${headline}. ${under}`);
  }, [alert, headline, under, spoken]);
}
