import { useEffect, useState, useSyncExternalStore } from 'react';
import { clockTrouble, jumpOf, jumpWords, onClock } from '../device/clock';

const LOOK_MS = 5000;

/** What is wrong with this phone's clock, against the server's and against itself; empty while nothing is. */
export function useClock(): string {
  const trouble = useSyncExternalStore(onClock, clockTrouble);
  const [jumped, setJumped] = useState('');
  useEffect(() => {
    let before = { wall: Date.now(), mono: performance.now() };
    const look = setInterval(() => {
      const jump = jumpOf(before, Date.now(), performance.now());
      before = { wall: Date.now(), mono: performance.now() };
      if (jump !== 0) setJumped(jumpWords(jump));
    }, LOOK_MS);
    return () => clearInterval(look);
  }, []);
  return trouble || jumped;
}
