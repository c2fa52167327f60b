import { Textarea } from '@mantine/core';
import { type FormEvent, useState } from 'react';
import type { EntryKind, TestDetail, Units } from '../api/queries';
import { EntryFields } from '../entries/EntryFields';
import { bodyOf, ENTRY_FIELDS, type Typed } from '../entries/fields';
import { isListOfWords, remember, remembered } from '../ui/remembered';
import { useFields } from '../ui/useFields';
import classes from './Ride.module.css';
import type { Noting } from './useNote';

interface EntrySheetProps {
  kind: EntryKind;
  test: TestDetail;
  units: Units;
  noting: Noting;
  onClose: () => void;
}

const USUAL = ['voltage_rest_v', 'voltage_load_v', 'charge_ah', 'trip_m', 'gauge'];
const EVENTS = ['turn', 'swap', 'settle', 'event'] as const;
const EVENT_WORDS: Record<(typeof EVENTS)[number], string> = {
  turn: 'Turned round',
  swap: 'Swapped the pack',
  settle: 'Pack has settled',
  event: 'Something else',
};

/** What the display shows now, field by field in the order of last time; each can be skipped. */
export function EntrySheet({ kind: opened, test, units, noting, onClose }: EntrySheetProps) {
  const memory = `limpet-fields-${test.vehicle_name}-${test.pack_name}`;
  const [entryId] = useState(() => crypto.randomUUID());
  const form = useFields({ kind: opened as EntryKind, typed: {} as Typed, note: '' });
  const { kind, typed, note } = form.values;
  const [all, setAll] = useState(false);
  const [usual] = useState<string[]>(() => {
    const known = new Set<string>(ENTRY_FIELDS.map((field) => field.name));
    const stored = remembered(memory, isListOfWords)?.filter((name) => known.has(name));
    return stored && stored.length > 0 ? stored : USUAL;
  });
  const fields = all ? ENTRY_FIELDS : ENTRY_FIELDS.filter((field) => usual.includes(field.name));
  async function store(event: FormEvent) {
    event.preventDefault();
    const body = bodyOf(typed, { time_s: noting.now(), kind, note }, units);
    form.settle();
    try {
      await noting.put(entryId, body);
    } catch (error) {
      // The refusal stands beside its field; the sheet stays open with what was typed.
      if (error instanceof Error) form.refuse(error);
      return;
    }
    const used = ENTRY_FIELDS.filter((field) => typed[field.name]?.trim()).map((f) => f.name);
    if (used.length > 1) remember(memory, used);
    onClose();
  }
  return (
    <form className={classes.sheet} onSubmit={store}>
      <h2>
        {opened === 'start' ? 'Before the first metre' : opened === 'event' ? 'Event' : 'Entry'}
      </h2>
      {opened === 'event' && (
        <div className={classes.choices}>
          {EVENTS.map((item) => (
            <button
              key={item}
              type="button"
              className={classes.choice}
              aria-pressed={kind === item}
              onClick={() => form.change({ kind: item })}
            >
              {EVENT_WORDS[item]}
            </button>
          ))}
        </div>
      )}
      <EntryFields fields={fields} form={form} units={units} size="lg" />
      <Textarea label="Note" autosize {...form.field('note')} />
      {form.trouble && (
        <p className={classes.question} role="alert">
          {form.trouble.message}
        </p>
      )}
      {!all && (
        <button type="button" className={classes.choice} onClick={() => setAll(true)}>
          More fields
        </button>
      )}
      <div className={classes.row}>
        <button type="button" className={classes.action} onClick={onClose}>
          Back
        </button>
        <button
          type="submit"
          className={`${classes.action}`}
          style={{ background: '#000', color: '#fff' }}
          disabled={noting.pending}
        >
          Store
        </button>
      </div>
    </form>
  );
}
