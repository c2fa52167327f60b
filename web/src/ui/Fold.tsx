import type { ReactNode } from 'react';
import parts from './Parts.module.css';
import { useUnfolded } from './useUnfolded';

interface FoldProps {
  title: string;
  /** Open when the page opens. */
  open?: boolean;
  children: ReactNode;
}

/** A part of a page behind its heading: closed until somebody wants it, and open on paper. */
export function Fold({ title, open = false, children }: FoldProps) {
  const { ref, wanted, onToggle } = useUnfolded(open);
  return (
    <details ref={ref} open={open} onToggle={onToggle} className={parts.fold}>
      <summary>
        <h2>{title}</h2>
      </summary>
      <section aria-label={title}>{wanted && children}</section>
    </details>
  );
}
