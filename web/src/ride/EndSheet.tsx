import { useState } from 'react';
import type { Units } from '../api/queries';
import { bodyOf, ENTRY_FIELDS, type Typed } from '../entries/fields';
import { END_REASONS } from '../format/words';
import { endRide, noteEntry } from '../roadside/acts';
import { readingsOf } from '../roadside/entry';
import type { Ride } from '../roadside/ride';
import { closeTrack } from '../roadside/track';
import { FieldInput } from '../ui/FieldInput';
import { say } from '../words/en/ride.ftl';
import { draftOf, keepDraft } from './draft';
import classes from './Pad.module.css';
import { SettleTimer } from './SettleTimer';
import { SheetFoot } from './SheetFoot';
import { sinceStart } from './useTime';

interface EndSheetProps {
  ride: Ride;
  units: Units;
  onEnded: () => void;
  onClose: () => void;
}

const LAST = ['voltage_rest_v', 'charge_ah', 'energy_wh', 'trip_m', 'laps', 'gauge'];
const REASON = 'reason';

/** What stopped you, the last readings, and the ride is ended; it can be resumed. */
export function EndSheet({ ride, units, onEnded, onClose }: EndSheetProps) {
  const [entryId] = useState(() => crypto.randomUUID());
  const [typed, setTyped] = useState<Typed>(() => draftOf(ride.id, 'end'));
  const [all, setAll] = useState(false);
  const [busy, setBusy] = useState(false);
  const type = (name: string, text: string) =>
    setTyped((before) => {
      const after = { ...before, [name]: text };
      keepDraft(ride.id, 'end', after);
      return after;
    });
  const reason = END_REASONS.find((item) => item.value === typed[REASON])?.value ?? 'home';
  const fields = all ? ENTRY_FIELDS : ENTRY_FIELDS.filter((field) => LAST.includes(field.name));

  async function end() {
    setBusy(true);
    const said = {
      time_s: sinceStart(ride.started_at),
      kind: 'end' as const,
      note: typed.note ?? '',
    };
    const body = bodyOf(typed, said, units);
    await noteEntry(ride.id, entryId, body, readingsOf(body, units));
    await closeTrack(ride.id);
    await endRide(ride.id, reason, '');
    keepDraft(ride.id, 'end', {});
    onEnded();
  }

  return (
    <div className={classes.pad}>
      <fieldset className={classes.events} aria-label={say('what-stopped-you')}>
        {END_REASONS.map((item) => (
          <button
            key={item.value}
            type="button"
            className={classes.choice}
            aria-pressed={reason === item.value}
            onClick={() => type(REASON, item.value)}
          >
            {item.label}
          </button>
        ))}
      </fieldset>
      <SettleTimer />
      <div className={classes.fields}>
        {fields.map((field) => (
          <FieldInput
            key={field.name}
            field={field}
            units={units}
            size="lg"
            inputWrapperOrder={['label', 'description', 'input', 'error']}
            typed={typed[field.name] ?? ''}
            onType={(text) => type(field.name, text)}
          />
        ))}
        <label className={classes.note}>
          {say('note')}
          <textarea
            rows={2}
            maxLength={2000}
            value={typed.note ?? ''}
            onChange={(event) => type('note', event.currentTarget.value)}
          />
        </label>
        {!all && (
          <button type="button" className={classes.choice} onClick={() => setAll(true)}>
            {say('more-fields')}
          </button>
        )}
      </div>
      <SheetFoot
        onBack={onClose}
        store={{ label: say('end-the-ride'), disabled: busy, onStore: end }}
      />
    </div>
  );
}
