import { useState } from 'react';
import type { Units } from '../api/queries';
import type { EntryBody } from '../entries/fields';
import { sentOf, unitOf } from '../format/fields';
import { noteEntry } from '../roadside/acts';
import { readingsOf } from '../roadside/entry';
import type { Ride } from '../roadside/ride';
import { say } from '../words/en/ride.ftl';
import { EVENTS, numberOf, type RideEvent } from './events';
import { Keys, typedAfter } from './Keys';
import classes from './Pad.module.css';
import { SheetFoot } from './SheetFoot';
import { sinceStart } from './useTime';
import { knownWords } from './words';

interface EventSheetProps {
  ride: Ride;
  units: Units;
  onClose: () => void;
}

/** What happened: one key each; a few ask for a figure or a name. */
export function EventSheet({ ride, units, onClose }: EventSheetProps) {
  const [event, setEvent] = useState<RideEvent | null>(null);

  async function note(happened: RideEvent, more: Partial<EntryBody> = {}) {
    const entryId = crypto.randomUUID();
    const body = {
      kind: happened.kind,
      what: happened.what ?? null,
      time_s: sinceStart(ride.started_at),
      ...more,
    } as EntryBody;
    await noteEntry(ride.id, entryId, body, readingsOf(body, units));
    onClose();
  }

  if (event === null) {
    return (
      <div className={classes.pad}>
        <fieldset className={classes.events} aria-label={say('what-happened')}>
          {EVENTS.map((one) => (
            <button
              key={one.name}
              type="button"
              className={classes.choice}
              onClick={() => {
                if (one.number === undefined && one.word === undefined && one.name !== 'other') {
                  note(one);
                } else setEvent(one);
              }}
            >
              {one.label}
              {one.about && <small>{one.about}</small>}
            </button>
          ))}
        </fieldset>
        <SheetFoot onBack={onClose} />
      </div>
    );
  }
  return event.number === undefined ? (
    <AskWord
      ride={ride}
      event={event}
      onSaid={(more) => note(event, more)}
      onBack={() => setEvent(null)}
    />
  ) : (
    <AskNumber
      event={event}
      units={units}
      onSaid={(more) => note(event, more)}
      onBack={() => setEvent(null)}
    />
  );
}

interface AskProps {
  event: RideEvent;
  onSaid: (more: Partial<EntryBody>) => void;
  onBack: () => void;
}

const COMPASS = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'];

/** The figure of an event. */
function AskNumber({ event, units, onSaid, onBack }: AskProps & { units: Units }) {
  const [text, setText] = useState('');
  const [from, setFrom] = useState<number | null>(null);
  const field = numberOf(event);
  if (field === null) return null;
  const unit = event.number === 'charged_s' ? 'min' : unitOf(field, units);
  const sent = event.number === 'charged_s' ? Number(text) * 60 : sentOf(field, text, units);
  const more = { [field.name]: sent, ...(from === null ? {} : { wind_from_deg: from }) };
  return (
    <div className={classes.pad}>
      <div className={classes.field}>
        <output className={classes.display} aria-label={event.label}>
          {text || ' '}
          <small> {unit}</small>
        </output>
        <p className={classes.hint}>
          {event.label}: {event.about}
        </p>
        {event.name === 'wind' && (
          <fieldset className={classes.compass} aria-label={say('where-it-comes-from')}>
            {COMPASS.map((point, index) => (
              <button
                key={point}
                type="button"
                className={classes.choice}
                aria-pressed={from === index * 45}
                onClick={() => setFrom(index * 45)}
              >
                {point}
              </button>
            ))}
          </fieldset>
        )}
        <Keys onKey={(key) => setText((before) => typedAfter(before, key))} minus={false} />
      </div>
      <SheetFoot
        onBack={onBack}
        store={{
          disabled: text === '' || text === '.',
          onStore: () => onSaid(more as Partial<EntryBody>),
        }}
      />
    </div>
  );
}

/** The name of a place or a mode, or what happened in words: those known so far are one tap. */
function AskWord({ ride, event, onSaid, onBack }: AskProps & { ride: Ride }) {
  const [text, setText] = useState('');
  const known = event.word ? knownWords(ride, event.word) : [];
  const said = (word: string) => onSaid(event.word ? { [event.word]: word } : { note: word });
  return (
    <div className={classes.pad}>
      <div className={classes.more}>
        <label className={classes.note}>
          {event.word ? say('event-its-name', { event: event.label }) : event.label}
          <textarea
            rows={event.word ? 1 : 3}
            maxLength={event.word ? 100 : 2000}
            value={text}
            onChange={(change) => setText(change.currentTarget.value)}
          />
        </label>
        {known.length > 0 && (
          <fieldset className={classes.events} aria-label={say('named-before')}>
            {known.map((word) => (
              <button
                key={word}
                type="button"
                className={classes.choice}
                onClick={() => said(word)}
              >
                {word}
              </button>
            ))}
          </fieldset>
        )}
      </div>
      <SheetFoot
        onBack={onBack}
        store={{ disabled: text.trim() === '', onStore: () => said(text.trim()) }}
      />
    </div>
  );
}
