import type { Entry, Units } from '../api/queries';
import { shownWithUnit } from '../format/fields';
import classes from '../result/Result.module.css';
import { ENTRY_FIELDS, readingOf } from './fields';

/** What an entry said before each change. */
export function History({ entry, units }: { entry: Entry; units: Units }) {
  if (entry.changes === 0) return null;
  return (
    <details>
      <summary className={classes.note}>
        changed {entry.changes === 1 ? 'once' : `${entry.changes} times`}
      </summary>
      <ul className={classes.warnings}>
        {entry.earlier.map((before) => (
          <li key={String(before.replaced_at)}>
            before {new Date(String(before.replaced_at)).toLocaleString('en-GB')}:{' '}
            {said(before, units)}
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
  return parts.join(', ') || 'no reading';
}
