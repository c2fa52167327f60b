import { type ReactNode, useId, useState } from 'react';
import classes from '../ui/Desk.module.css';
import { say } from '../words/en/trip.ftl';

interface AnswerProps {
  label: string;
  /**
   * The answer in a few words: on a phone it stays on top of the form and opens the rest. Without one
   * the answer comes below the form.
   */
  line?: ReactNode;
  children: ReactNode;
}

/** What a form comes to: beside it, or on a phone behind a line above it that never leaves. */
export function Answer({ label, line, children }: AnswerProps) {
  const [open, setOpen] = useState(false);
  const id = useId();
  return (
    <div className={line === undefined ? classes.beside : `${classes.beside} ${classes.lined}`}>
      {line !== undefined && (
        <button
          type="button"
          className={classes.line}
          aria-expanded={open}
          aria-controls={id}
          onClick={() => setOpen(!open)}
        >
          <span aria-live="polite">{line}</span>
          <b>{open ? say('close') : say('open')}</b>
        </button>
      )}
      <section
        id={id}
        className={classes.answer}
        data-open={open || undefined}
        aria-label={label}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls is scrolled by key only with the focus on it
        tabIndex={0}
      >
        {children}
      </section>
    </div>
  );
}
