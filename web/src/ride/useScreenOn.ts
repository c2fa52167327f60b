import { useEffect } from 'react';

/** Keeps the screen on while a ride is shown, where the browser can; it lets go when the page is hidden. */
export function useScreenOn(wanted: boolean): void {
  useEffect(() => {
    if (!wanted || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let gone = false;
    const ask = async () => {
      if (document.visibilityState !== 'visible') return;
      try {
        lock = await navigator.wakeLock.request('screen');
        if (gone) await lock.release();
      } catch {
        // A low battery refuses it: the ride goes on with a dark screen.
      }
    };
    ask();
    document.addEventListener('visibilitychange', ask);
    return () => {
      gone = true;
      document.removeEventListener('visibilitychange', ask);
      lock?.release().catch(() => undefined);
    };
  }, [wanted]);
}
