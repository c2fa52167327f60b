import { type RefObject, useEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';

interface Unfolded {
  ref: RefObject<HTMLDetailsElement | null>;
  /** Whether what is inside has been wanted: until then it is not drawn at all. */
  wanted: boolean;
  onToggle: () => void;
}

/** A part that is drawn when it is first opened; `open` opens it by itself, and so does paper. */
export function useUnfolded(open: boolean): Unfolded {
  const ref = useRef<HTMLDetailsElement>(null);
  const [wanted, setWanted] = useState(open);
  useEffect(() => {
    if (!open) return;
    setWanted(true);
    if (ref.current) ref.current.open = true;
  }, [open]);
  useEffect(() => {
    const unfold = () => {
      // What is printed is taken from the page as it stands when this returns.
      flushSync(() => setWanted(true));
      if (ref.current) ref.current.open = true;
    };
    window.addEventListener('beforeprint', unfold);
    return () => window.removeEventListener('beforeprint', unfold);
  }, []);
  return { ref, wanted, onToggle: () => ref.current?.open && setWanted(true) };
}
