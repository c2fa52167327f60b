import { useState } from 'react';
import type { Entry, TestDetail, Units } from '../api/queries';
import { EntryDialog } from '../entries/EntryDialog';
import { ENTRY_FIELDS, readingOf } from '../entries/fields';
import { useRemoveEntry } from '../entries/useRemoveEntry';
import { shownText, unitOf } from '../format/fields';
import { clock, elapsed } from '../format/units';
import { KIND_WORDS } from '../format/words';
import { History } from './History';
import classes from './Result.module.css';

interface EntriesSectionProps {
  test: TestDetail;
  units: Units;
}

/** What was written down: each line can be changed, and says so once it was. */
export function EntriesSection({ test, units }: EntriesSectionProps) {
  const [editing, setEditing] = useState<Entry | 'new' | null>(null);
  const remove = useRemoveEntry(test.id);
  const fields = ENTRY_FIELDS.filter((field) =>
    test.entries.some((entry) => readingOf(entry, field.name) !== null),
  );
  const last = test.entries.at(-1)?.time_s ?? 0;
  return (
    <section className={classes.section} aria-label="Entries">
      <div className={classes.sectionHead}>
        <h2>Entries</h2>
        <button type="button" className={classes.link} onClick={() => setEditing('new')}>
          Add an entry
        </button>
      </div>
      {remove.error && <p role="alert">{remove.error.message}</p>}
      {test.entries.length === 0 ? (
        <p className={classes.note}>Nothing was written down by hand; the logger has it all.</p>
      ) : (
        <div className={classes.entries}>
          <table>
            <thead>
              <tr>
                <th className={classes.words}>clock</th>
                <th className={classes.words}>what</th>
                {fields.map((field) => (
                  <th key={field.name}>
                    {field.label}
                    {unitOf(field, units) && `, ${unitOf(field, units)}`}
                  </th>
                ))}
                <th className={classes.words}>note</th>
                <th className={classes.words}>
                  <span className="visually-hidden">what can be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {test.entries.map((entry) => (
                <tr key={entry.id}>
                  <td className={classes.words} title={`${elapsed(entry.time_s)} from the start`}>
                    {clock(test.started_at, entry.time_s)}
                  </td>
                  <td className={classes.words}>{KIND_WORDS[entry.kind]}</td>
                  {fields.map((field) => {
                    const value = readingOf(entry, field.name);
                    return (
                      <td key={field.name}>
                        {value === null ? '' : shownText(field, value, units)}
                      </td>
                    );
                  })}
                  <td className={`${classes.words} ${classes.noteCell}`}>
                    {entry.note}
                    <History entry={entry} units={units} />
                  </td>
                  <td>
                    <button
                      type="button"
                      className={classes.link}
                      aria-label={`Change the entry at ${clock(test.started_at, entry.time_s)}`}
                      onClick={() => setEditing(entry)}
                    >
                      Change
                    </button>{' '}
                    <button
                      type="button"
                      className={classes.link}
                      aria-label={`Remove the entry at ${clock(test.started_at, entry.time_s)}`}
                      onClick={() => remove.mutate(entry)}
                    >
                      Remove
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {editing !== null && (
        <EntryDialog
          key={editing === 'new' ? 'new' : editing.id}
          testId={test.id}
          entry={editing === 'new' ? null : editing}
          afterS={last + 600}
          units={units}
          onClose={() => setEditing(null)}
        />
      )}
    </section>
  );
}
