import type { Entry, Units } from '../api/queries';
import { shownWithUnit } from '../format/fields';
import classes from '../result/Result.module.css';
import { say } from '../words/en/entries.ftl';
import { LOCALE } from '../words/locale';
import { ENTRY_FIELDS, readingOf } from './fields';

/** What an entry said before each change. */
export function History({ entry, units }: { entry: Entry; units: Units }) {
  if (entry.changes === 0) return null;
  return (
    <details>
      <summary className={classes.note}>
        {say('changed-changes', { changes: entry.changes })}
      </summary>
      <ul className={classes.warnings}>
        {entry.earlier.map((before) => (
          <li key={String(before.replaced_at)}>
            {say('before-what-said', {
              what: new Date(String(before.replaced_at)).toLocaleString(LOCALE),
              said: said(before, units),
            })}
          </li>
        ))}
      </ul>
    </details>
  );
}

function said(before: Record<string, unknown>, units: Units): string {
  const parts = ENTRY_FIELDS.flatMap((field) => {
    const value = readingOf(before, field.name);
    return value === null
      ? []
      : [`${field.label.toLowerCase()} ${shownWithUnit(field, value, units)}`];
  });
  return parts.join(', ') || say('no-reading');
}
