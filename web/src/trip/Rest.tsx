import { type ReactNode, useEffect, useRef } from 'react';
import { Later } from '../ui/Later';
import parts from '../ui/Parts.module.css';

interface RestProps {
  /** What the fields inside come to, in words. */
  said: string;
  /** Whether something inside is refused: then it opens by itself. */
  open: boolean;
  children: ReactNode;
}

/** Fields that have an answer already, behind that answer: drawn after what is in sight. */
export function Rest({ said, open, children }: RestProps) {
  const ref = useRef<HTMLDetailsElement>(null);
  useEffect(() => {
    if (open && ref.current) ref.current.open = true;
  }, [open]);
  return (
    <details ref={ref} className={parts.fold}>
      <summary>{said}</summary>
      <div className={parts.folded}>
        <Later>{children}</Later>
      </div>
    </details>
  );
}
