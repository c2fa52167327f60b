import type { ReactNode } from 'react';
import parts from '../ui/Parts.module.css';
import { useUnfolded } from '../ui/useUnfolded';

interface RestProps {
  /** What the fields inside come to, in words. */
  said: string;
  /** Whether something inside is refused: then it opens by itself. */
  open: boolean;
  children: ReactNode;
}

/** Fields that have an answer already, behind that answer. */
export function Rest({ said, open, children }: RestProps) {
  const { ref, wanted, onToggle } = useUnfolded(open, false);
  return (
    <details ref={ref} onToggle={onToggle} className={parts.fold}>
      <summary>{said}</summary>
      <div className={parts.folded}>{wanted && children}</div>
    </details>
  );
}
