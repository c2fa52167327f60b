import { useEffect, useState } from 'react';
import { begun, later, type Play, type Practice } from './play';

const TICK_MS = 100;
/** A window that was away is not caught up with: the rider was not looking. */
const MOST_MS = 500;

/** A practice ride that goes by itself; `held` while the rider types. */
export function usePlay(practice: Practice, held: boolean) {
  const [play, setPlay] = useState<Play>(begun);
  const goes = play.phase !== 'before' && !held;
  useEffect(() => {
    if (!goes) return;
    let last = Date.now();
    const timer = setInterval(() => {
      const now = Date.now();
      const seconds = (Math.min(now - last, MOST_MS) / 1000) * practice.pace;
      last = now;
      setPlay((before) => later(practice, before, seconds));
    }, TICK_MS);
    return () => clearInterval(timer);
  }, [goes, practice]);
  return [play, setPlay] as const;
}
