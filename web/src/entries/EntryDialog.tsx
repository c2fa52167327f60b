import { Button, Group, Select, SimpleGrid, Textarea, TextInput } from '@mantine/core';
import { type FormEvent, useState } from 'react';
import type { Entry, EntryKind, Units } from '../api/queries';
import { choicesOf, KIND_WORDS } from '../format/words';
import { Dialog } from '../ui/Dialog';
import { sayDone } from '../ui/notes';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { say } from '../words/en/entries.ftl';
import { EntryFields } from './EntryFields';
import { EntryPhoto } from './EntryPhoto';
import {
  bodyOf,
  ENTRY_FIELDS,
  type EntryBody,
  readingOf,
  type Typed,
  typedOf,
  wholeBody,
} from './fields';
import { usePutEntry } from './usePutEntry';

interface EntryDialogProps {
  testId: string;
  entry: Entry | null;
  /** When a new entry is put unless said otherwise [s]. */
  afterS: number;
  units: Units;
  onClose: () => void;
}

/** Add an entry at the bench, or change one; what it said before is kept. */
export function EntryDialog({ testId, entry, afterS, units, onClose }: EntryDialogProps) {
  const [entryId] = useState(() => entry?.id ?? crypto.randomUUID());
  const form = useFields(() => ({
    kind: (entry?.kind ?? 'settle') as EntryKind,
    minutes: ((entry?.time_s ?? afterS) / 60).toFixed(2),
    typed: entry ? typedOf(entry, units) : ({} as Typed),
    note: entry?.note ?? '',
    what: entry?.what ?? '',
    place: entry?.place ?? '',
    mode: entry?.mode ?? '',
  }));
  const { kind, minutes, typed, note, what, place, mode } = form.values;
  const put = usePutEntry(testId);
  const time = Number(minutes.replace(',', '.')) * 60;
  function store(event: FormEvent) {
    event.preventDefault();
    form.settle();
    const body = {
      ...bodyOf(typed, { time_s: time, kind, note }, units),
      what: (what || null) as EntryBody['what'],
      place: place.trim() || null,
      mode: mode.trim() || null,
    };
    put.mutate(
      { entryId, body: keepExact(body, entry, typed, units, time) },
      {
        onError: form.refuse,
        onSuccess: (stored) => {
          sayDone(stored.questions[0] ?? say('entry-saved'));
          onClose();
        },
      },
    );
  }
  return (
    <Dialog
      onClose={onClose}
      title={entry ? say('change-an-entry') : say('add-an-entry')}
      size="lg"
    >
      <form onSubmit={store}>
        {entry?.photo && <EntryPhoto testId={testId} name={entry.photo} />}
        <SimpleGrid cols={{ base: 1, xs: 2, sm: 3 }} spacing="sm">
          <Select
            label={say('kind')}
            description={say('what-happened')}
            data={Object.entries(KIND_WORDS).map(([value, label]) => ({ value, label }))}
            {...form.field('kind')}
            allowDeselect={false}
          />
          <TextInput
            label={say('time')}
            description={say('minutes-since-the-start')}
            inputMode="decimal"
            {...form.field('minutes')}
            error={Number.isFinite(time) ? form.errors.time_s : say('write-it-like-42-5')}
          />
          <Select
            label={say('event')}
            description={say('what-it-was')}
            data={[{ value: '', label: say('not-noted-choice') }, ...choicesOf('event')]}
            {...form.field('what')}
            allowDeselect={false}
          />
          <TextInput
            label={say('place')}
            description={say('the-same-name-is-the')}
            {...form.field('place')}
          />
          <TextInput
            label={say('mode')}
            description={say('as-the-display-calls-it')}
            {...form.field('mode')}
          />
          <EntryFields fields={ENTRY_FIELDS} form={form} units={units} />
        </SimpleGrid>
        <Textarea mt="sm" label={say('note')} autosize {...form.field('note')} />
        <Refusal error={form.trouble} />
        <Group mt="md" justify="flex-end">
          <Button onClick={onClose}>{say('cancel')}</Button>
          <Button
            type="submit"
            variant="filled"
            loading={put.isPending}
            disabled={!Number.isFinite(time)}
          >
            {say('save')}
          </Button>
        </Group>
      </form>
    </Dialog>
  );
}

/** Fields left untouched go back bit for bit, not as the rounded figure that was shown. */
function keepExact(
  body: EntryBody,
  entry: Entry | null,
  typed: Typed,
  units: Units,
  time: number,
): EntryBody {
  if (entry === null) return body;
  const shown = typedOf(entry, units);
  const untouched = ENTRY_FIELDS.filter((field) => typed[field.name] === shown[field.name]);
  const exact = untouched.map((field) => [field.name, readingOf(entry, field.name)]);
  // What no field of this form holds stays as it was.
  const { kind, time_s, note } = body;
  const typedOver = Object.fromEntries(ENTRY_FIELDS.map((field) => [field.name, null]));
  const read = Object.fromEntries(Object.entries(body).filter(([name]) => name in typedOver));
  const kept = {
    ...wholeBody(entry),
    from_changes: entry.changes,
    ...typedOver,
    ...read,
    ...Object.fromEntries(exact),
    what: body.what ?? null,
    place: body.place ?? null,
    mode: body.mode ?? null,
    kind,
    time_s,
    note,
  };
  if (Math.abs(time - entry.time_s) < 0.31) kept.time_s = entry.time_s;
  return kept;
}
