import { useEffect, useRef } from 'react';

/**
 * After a new entry the page begins at its top again: what the reading changed stands there, and with large
 * text the keys are a screen below it.
 */
export function useTop(entries: number, over: boolean): void {
  const seen = useRef(entries);
  useEffect(() => {
    // What lies over the ride is closed by going back, and the page is to stay where it is told to be.
    const before = window.history.scrollRestoration;
    window.history.scrollRestoration = 'manual';
    return () => {
      window.history.scrollRestoration = before;
    };
  }, []);
  useEffect(() => {
    if (over) return;
    if (entries > seen.current) window.scrollTo({ top: 0 });
    seen.current = entries;
  }, [entries, over]);
}
