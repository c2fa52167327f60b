import { useRef, useState } from 'react';
import type { Entry, TestDetail, Units } from '../api/queries';
import { unitOf } from '../format/fields';
import { clock, elapsed } from '../format/units';
import { KIND_WORDS } from '../format/words';
import { Explained } from '../ui/Explained';
import { say } from '../words/en/entries.ftl';
import { EntryCell, type Move } from './EntryCell';
import classes from './EntryGrid.module.css';
import { PhotoLink } from './EntryPhoto';
import { ENTRY_FIELDS, readingOf } from './fields';
import { History } from './History';
import { useConfirm } from './useConfirm';

interface EntryGridProps {
  test: TestDetail;
  units: Units;
  onChange: (entry: Entry) => void;
  onRemove: (entry: Entry) => void;
}

interface Place {
  row: number;
  column: number;
}

/**
 * Entries as rows of a sheet: arrows go about, Enter or a figure begins to write, Enter stores and goes
 * down, Tab stores and goes on, Escape leaves it as it was. What may be a slip is asked beside its cell.
 */
export function EntryGrid({ test, units, onChange, onRemove }: EntryGridProps) {
  const table = useRef<HTMLTableElement>(null);
  const [at, setAt] = useState<Place>({ row: 0, column: 0 });
  const confirm = useConfirm(test.id);
  const fields = ENTRY_FIELDS.filter((field) =>
    test.entries.some((entry) => readingOf(entry, field.name) !== null),
  );
  const go = (to: Place) => {
    const row = Math.min(Math.max(to.row, 0), test.entries.length - 1);
    const column = Math.min(Math.max(to.column, 0), fields.length - 1);
    setAt({ row, column });
    table.current
      ?.querySelector<HTMLElement>(`[data-row="${row}"][data-column="${column}"]`)
      ?.focus();
  };
  return (
    <div className={classes.wrap}>
      {/* biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: the ARIA grid pattern on a table */}
      <table ref={table} role="grid" aria-label={say('entries')}>
        <thead>
          <tr>
            <th className={classes.words}>{say('clock')}</th>
            <th className={classes.words}>{say('what')}</th>
            {fields.map((field) => (
              <th key={field.name}>
                <Explained text={field.label} />
                {unitOf(field, units) && `, ${unitOf(field, units)}`}
              </th>
            ))}
            <th className={classes.words}>{say('note-column')}</th>
            <th className={classes.words}>
              <span className="visually-hidden">{say('what-can-be-done')}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {test.entries.map((entry, row) => (
            <tr key={entry.id} data-asked={entry.questions.length > 0 || undefined}>
              <td
                className={classes.words}
                title={say('from-the-start', { time_s: elapsed(entry.time_s) })}
              >
                {clock(test.started_at, entry.time_s)}
              </td>
              <td className={classes.words}>{KIND_WORDS[entry.kind]}</td>
              {fields.map((field, column) => (
                <EntryCell
                  key={field.name}
                  testId={test.id}
                  entry={entry}
                  field={field}
                  units={units}
                  place={{ row, column }}
                  focusable={at.row === row && at.column === column}
                  onFocus={() => setAt({ row, column })}
                  onMove={(move: Move) =>
                    go({ row: row + move.rows, column: column + move.columns })
                  }
                />
              ))}
              <td className={`${classes.words} ${classes.note}`}>
                {entry.photo && <PhotoLink testId={test.id} name={entry.photo} />}
                {entry.note}
                {entry.questions.map((question) => (
                  <p key={question.notice.message} className={classes.asked}>
                    {question.notice.message}{' '}
                    <button
                      type="button"
                      className={classes.link}
                      disabled={confirm.isPending}
                      onClick={() => confirm.mutate(entry)}
                    >
                      {say('thats-right')}
                    </button>
                  </p>
                ))}
                <History entry={entry} units={units} />
              </td>
              <td>
                <button
                  type="button"
                  className={classes.link}
                  aria-label={say('change-the-entry-at', {
                    started_at: clock(test.started_at, entry.time_s),
                  })}
                  onClick={() => onChange(entry)}
                >
                  {say('change')}
                </button>{' '}
                <button
                  type="button"
                  className={classes.link}
                  aria-label={say('remove-the-entry-at', {
                    started_at: clock(test.started_at, entry.time_s),
                  })}
                  onClick={() => onRemove(entry)}
                >
                  {say('remove')}
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {confirm.error && <p role="alert">{confirm.error.message}</p>}
    </div>
  );
}
