import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { ApiError } from '../api/client';
import type { Entry, Units } from '../api/queries';
import { type FormField, sentOf, shownText, typedText } from '../format/fields';
import { sayDone } from '../ui/notes';
import { say } from '../words/en/entries.ftl';
import classes from './EntryGrid.module.css';
import { readingOf, wholeBody } from './fields';
import { usePutEntry } from './usePutEntry';

export interface Move {
  rows: number;
  columns: number;
}

interface EntryCellProps {
  testId: string;
  entry: Entry;
  field: FormField;
  units: Units;
  place: { row: number; column: number };
  focusable: boolean;
  onFocus: () => void;
  onMove: (move: Move) => void;
}

const ARROWS: Record<string, Move> = {
  ArrowUp: { rows: -1, columns: 0 },
  ArrowDown: { rows: 1, columns: 0 },
  ArrowLeft: { rows: 0, columns: -1 },
  ArrowRight: { rows: 0, columns: 1 },
};

/** One reading: shown, or being written. What is refused stays in the cell with its reason. */
export function EntryCell(props: EntryCellProps) {
  const { testId, entry, field, units, place, focusable, onFocus, onMove } = props;
  const stored = readingOf(entry, field.name) as number | null;
  const [typed, setTyped] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  // Leaving by key moves the focus, and that must not store once more what was left or thrown away.
  const left = useRef(false);
  const put = usePutEntry(testId);
  const asked = entry.questions.some((question) => question.field === field.name);
  const writing = typed !== null;
  useEffect(() => {
    const box = input.current;
    if (!writing || box === null) return;
    left.current = false;
    box.focus();
    // What is typed on goes behind what began it.
    box.setSelectionRange(box.value.length, box.value.length);
  }, [writing]);

  function store(move: Move | null) {
    if (typed === null) return;
    const leave = () => {
      left.current = true;
      setTyped(null);
      if (move) onMove(move);
    };
    if (typed === typedText(field, stored, units)) {
      leave();
      return;
    }
    const changed = { [field.name]: sentOf(field, typed, units), from_changes: entry.changes };
    const body = { ...wholeBody(entry), ...changed };
    put.mutate(
      { entryId: entry.id, body: body as never },
      {
        onSuccess: (answer) => {
          if (answer.questions[0]) sayDone(answer.questions[0]);
          leave();
        },
      },
    );
  }
  function onKeyShown(event: KeyboardEvent) {
    const move = ARROWS[event.key];
    if (move) {
      event.preventDefault();
      onMove(move);
    } else if (event.key === 'Enter' || event.key === 'F2') {
      event.preventDefault();
      setTyped(typedText(field, stored, units));
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      setTyped('');
    } else if (/^[\d.,+-]$/.test(event.key) && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      setTyped(event.key);
    }
  }
  function onKeyWritten(event: KeyboardEvent) {
    event.stopPropagation();
    if (event.key === 'Escape') {
      left.current = true;
      put.reset();
      setTyped(null);
      onMove({ rows: 0, columns: 0 });
    } else if (event.key === 'Enter') {
      event.preventDefault();
      store({ rows: 1, columns: 0 });
    } else if (event.key === 'Tab') {
      event.preventDefault();
      store({ rows: 0, columns: event.shiftKey ? -1 : 1 });
    }
  }
  const fault =
    put.error instanceof ApiError ? (put.error.fields[field.name] ?? put.error.message) : null;
  return (
    <td
      // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: the ARIA grid pattern on a table
      role="gridcell"
      data-row={place.row}
      data-column={place.column}
      data-questioned={asked || undefined}
      tabIndex={writing ? -1 : focusable ? 0 : -1}
      onFocus={writing ? undefined : onFocus}
      onDoubleClick={() => setTyped(typedText(field, stored, units))}
      onKeyDown={writing ? undefined : onKeyShown}
      className={classes.cell}
    >
      {writing ? (
        <>
          <input
            ref={input}
            aria-label={field.label}
            aria-invalid={fault !== null}
            value={typed}
            inputMode="decimal"
            disabled={put.isPending}
            onChange={(event) => setTyped(event.currentTarget.value)}
            onKeyDown={onKeyWritten}
            onBlur={() => {
              if (!left.current && !put.isPending && fault === null) store(null);
            }}
          />
          {fault !== null && <span role="alert">{fault}</span>}
        </>
      ) : stored === null ? (
        <span className={classes.empty}>–</span>
      ) : (
        <>
          {shownText(field, stored, units)}
          {asked && <b title={say('may-be-mistyped')}> ?</b>}
        </>
      )}
    </td>
  );
}
