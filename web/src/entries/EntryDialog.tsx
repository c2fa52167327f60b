import { Button, Group, Select, SimpleGrid, Textarea, TextInput } from '@mantine/core';
import { type FormEvent, useState } from 'react';
import type { Entry, EntryKind, Units } from '../api/queries';
import { KIND_WORDS } from '../format/words';
import { Dialog } from '../ui/Dialog';
import { sayDone } from '../ui/notes';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { EntryFields } from './EntryFields';
import { bodyOf, ENTRY_FIELDS, readingOf, type Typed, typedOf } from './fields';
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
  }));
  const { kind, minutes, typed, note } = form.values;
  const put = usePutEntry(testId);
  const time = Number(minutes.replace(',', '.')) * 60;
  function store(event: FormEvent) {
    event.preventDefault();
    form.settle();
    const body = bodyOf(typed, { time_s: time, kind, note }, units);
    put.mutate(
      { entryId, body: keepExact(body, entry, typed, units, time) },
      {
        onError: form.refuse,
        onSuccess: (stored) => {
          sayDone(stored.questions[0] ?? 'The entry is stored.');
          onClose();
        },
      },
    );
  }
  return (
    <Dialog onClose={onClose} title={entry ? 'Change an entry' : 'Add an entry'} size="lg">
      <form onSubmit={store}>
        <SimpleGrid cols={{ base: 1, xs: 2, sm: 3 }} spacing="sm">
          <Select
            label="Kind"
            description="What happened"
            data={Object.entries(KIND_WORDS).map(([value, label]) => ({ value, label }))}
            {...form.field('kind')}
            allowDeselect={false}
          />
          <TextInput
            label="Time"
            description="Minutes since the start"
            inputMode="decimal"
            {...form.field('minutes')}
            error={Number.isFinite(time) ? form.errors.time_s : 'write it like 42.5'}
          />
          <EntryFields fields={ENTRY_FIELDS} form={form} units={units} />
        </SimpleGrid>
        <Textarea mt="sm" label="Note" autosize {...form.field('note')} />
        <Refusal error={form.trouble} />
        <Group mt="md" justify="flex-end">
          <Button onClick={onClose}>Cancel</Button>
          <Button
            type="submit"
            variant="filled"
            loading={put.isPending}
            disabled={!Number.isFinite(time)}
          >
            Store
          </Button>
        </Group>
      </form>
    </Dialog>
  );
}

/** Fields left untouched go back bit for bit, not as the rounded figure that was shown. */
function keepExact(
  body: ReturnType<typeof bodyOf>,
  entry: Entry | null,
  typed: Typed,
  units: Units,
  time: number,
): ReturnType<typeof bodyOf> {
  if (entry === null) return body;
  const shown = typedOf(entry, units);
  const untouched = ENTRY_FIELDS.filter((field) => typed[field.name] === shown[field.name]);
  const exact = untouched.map((field) => [field.name, readingOf(entry, field.name)]);
  const kept = { ...body, mode: entry.mode, ...Object.fromEntries(exact) };
  if (Math.abs(time - entry.time_s) < 0.31) kept.time_s = entry.time_s;
  return kept;
}
