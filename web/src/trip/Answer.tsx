import type { ReactNode } from 'react';
import classes from '../ui/Desk.module.css';

interface AnswerProps {
  label: string;
  children: ReactNode;
  /** On a phone the answer comes before the form. */
  first?: boolean;
}

/** What a form comes to, beside it; it scrolls by itself, so it can be reached by key. */
export function Answer({ label, children, first = false }: AnswerProps) {
  return (
    <section
      className={first ? `${classes.answer} ${classes.first}` : classes.answer}
      aria-label={label}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls is scrolled by key only with the focus on it
      tabIndex={0}
    >
      {children}
    </section>
  );
}
