import { useEffect, useRef } from 'react';
import type { Now } from './now';
import { buzz, say } from './signals';

/** So near to the turn it is told [m]. */
const NEAR_TURN_M = 300;
/** Lines that are told when they come up, whatever the rider looks at. */
const TELLING = new Set([
  'stop_now',
  'turn_now',
  'slow_to',
  'short',
  'into_reserve',
  'enough',
  'laps_short',
]);

/** What is told now, once: a line that calls for something, and the turn when it is near. */
export function alertOf(now: Now): string | null {
  if (now.code === null) return null;
  if (TELLING.has(now.code)) return now.code;
  const near = now.code === 'turn_by' && (now.values.to_go_m ?? Number.MAX_VALUE) < NEAR_TURN_M;
  return near ? 'turn_near' : null;
}

/** Makes what calls for something felt, and heard where that is wanted; each once until it has passed. */
export function useAlerts(now: Now, spoken: boolean): void {
  const told = useRef<string | null>(null);
  const alert = alertOf(now);
  const { headline, under } = now;
  useEffect(() => {
    if (alert === told.current) return;
    told.current = alert;
    if (alert === null) return;
    buzz();
    if (spoken) say(`${headline}. ${under}`);
  }, [alert, headline, under, spoken]);
}
