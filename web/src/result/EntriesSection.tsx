import { useState } from 'react';
import type { Entry, TestDetail, Units } from '../api/queries';
import { EntryDialog } from '../entries/EntryDialog';
import { EntryGrid } from '../entries/EntryGrid';
import { useRemoveEntry } from '../entries/useRemoveEntry';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';

interface EntriesSectionProps {
  test: TestDetail;
  units: Units;
}

/** What was written down: each line can be changed, and says so once it was. */
export function EntriesSection({ test, units }: EntriesSectionProps) {
  const [editing, setEditing] = useState<Entry | 'new' | null>(null);
  const remove = useRemoveEntry(test.id);
  const last = test.entries.at(-1)?.time_s ?? 0;
  return (
    <section className={classes.section} aria-label={say('entries')} data-part>
      <div className={classes.sectionHead}>
        <h2>{say('entries')}</h2>
        <button type="button" className={classes.link} onClick={() => setEditing('new')}>
          {say('add-an-entry')}
        </button>
      </div>
      {remove.error && <p role="alert">{remove.error.message}</p>}
      {test.entries.length === 0 ? (
        <p className={classes.note}>{say('no-entries-by-hand-the')}</p>
      ) : (
        <EntryGrid
          test={test}
          units={units}
          onChange={setEditing}
          onRemove={(entry) => remove.mutate(entry)}
        />
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
