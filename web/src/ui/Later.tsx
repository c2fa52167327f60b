import { type ReactNode, startTransition, useEffect, useState } from 'react';

/**
 * What lies below the first screen: it is drawn once what stands above is there, a piece at a time, so that a tap in
 * between is heard.
 */
export function Later({ children }: { children: ReactNode }) {
  const [now, setNow] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => startTransition(() => setNow(true)));
    return () => clearTimeout(timer);
  }, []);
  return now ? children : null;
}
