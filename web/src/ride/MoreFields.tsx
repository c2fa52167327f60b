import { ENTRY_FIELDS } from '../entries/fields';
import { say } from '../words/en/ride.ftl';
import classes from './Pad.module.css';

interface MoreFieldsProps {
  steps: readonly string[];
  note: string;
  onNote: (note: string) => void;
  /** Lead through a reading at rest and one while it pulls; null where it pulls no more. */
  onGuide: (() => void) | null;
  onAdd: (name: string) => void;
}

/** Everything else that an entry can hold. */
export function MoreFields({ steps, note, onNote, onGuide, onAdd }: MoreFieldsProps) {
  const rest = ENTRY_FIELDS.filter(
    (field) => !steps.includes(field.name) && field.name !== 'voltage_load_v',
  );
  return (
    <div className={classes.more}>
      <label className={classes.note}>
        {say('note')}
        <textarea
          rows={2}
          maxLength={2000}
          value={note}
          onChange={(event) => onNote(event.currentTarget.value)}
        />
      </label>
      {onGuide && (
        <button type="button" className={classes.choice} onClick={onGuide}>
          {say('measure-resistance-resting-then-full')}
        </button>
      )}
      <fieldset className={classes.counts} aria-label={say('another-reading')}>
        {rest.map((field) => (
          <button
            key={field.name}
            type="button"
            className={classes.choice}
            onClick={() => onAdd(field.name)}
          >
            {field.label}
          </button>
        ))}
      </fieldset>
    </div>
  );
}
