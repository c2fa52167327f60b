import { type ReactNode, startTransition, useEffect, useState } from 'react';
import { flushSync } from 'react-dom';

/**
 * What lies below the first screen: it is drawn once what stands above is there, a piece at a time, so that a tap in
 * between is heard.
 */
export function Later({ children }: { children: ReactNode }) {
  const [now, setNow] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => startTransition(() => setNow(true)));
    // Whoever prints at once has all of it on paper.
    const onPaper = () => flushSync(() => setNow(true));
    window.addEventListener('beforeprint', onPaper);
    return () => {
      clearTimeout(timer);
      window.removeEventListener('beforeprint', onPaper);
    };
  }, []);
  return now ? children : null;
}
