import { type ReactNode, useEffect, useRef } from 'react';
import parts from './Parts.module.css';

interface FoldProps {
  title: string;
  /** Open when the page opens. */
  open?: boolean;
  children: ReactNode;
}

/** A part of a page behind its heading: closed until somebody wants it, and open on paper. */
export function Fold({ title, open = false, children }: FoldProps) {
  const ref = useRef<HTMLDetailsElement>(null);
  useEffect(() => {
    const onPaper = () => {
      if (ref.current) ref.current.open = true;
    };
    window.addEventListener('beforeprint', onPaper);
    return () => window.removeEventListener('beforeprint', onPaper);
  }, []);
  return (
    <details ref={ref} open={open} className={parts.fold}>
      <summary>
        <h2>{title}</h2>
      </summary>
      <section aria-label={title}>{children}</section>
    </details>
  );
}
