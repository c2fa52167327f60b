import { Button, Group } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { ApiError, api, unwrap } from '../api/client';
import { TESTS_KEY, testQuery, type Units } from '../api/queries';
import { Dialog } from '../ui/Dialog';
import { sayDone } from '../ui/notes';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { say } from '../words/en/sheet.ftl';
import { PackSaid } from './PackSaid';
import classes from './Sheet.module.css';
import { SheetItemInput } from './SheetItemInput';
import {
  differenceOf,
  itemsOf,
  labelOfPart,
  type PartName,
  type Sheet,
  sentValue,
  typedValue,
  type Values,
  valuesOf,
} from './sheet';

interface SheetDialogProps {
  testId: string;
  part: PartName;
  sheet: Sheet;
  units: Units;
  onClose: () => void;
}

type Typed = Record<string, string | string[]>;

/** One part of the sheet: what was said, to be corrected; the result follows, and what stood is kept. */
export default function SheetDialog({ testId, part, sheet, units, onClose }: SheetDialogProps) {
  const queryClient = useQueryClient();
  const items = itemsOf(part);
  // What it was read from: a change that came meanwhile is told, not written over.
  const [read, setRead] = useState({ base: sheet.changes, values: valuesOf(sheet, part) });
  const form = useFields<{ typed: Typed }>(() => ({
    typed: typedPart(part, valuesOf(sheet, part), units),
  }));
  const { typed } = form.values;
  const [overtaken, setOvertaken] = useState<string | null>(null);
  const latest = useQuery({ ...testQuery(testId), enabled: overtaken !== null }).data?.sheet;
  const sent: Values = Object.fromEntries(
    items.map((item) => [
      item.name,
      sentValue(item, typed[item.name] ?? '', read.values[item.name], units),
    ]),
  );
  const store = useMutation({
    mutationFn: async (base: number) =>
      unwrap(
        await api.PUT('/api/tests/{test_id}/sheet', {
          params: { path: { test_id: testId } },
          // The part's fields are the schema's by name; the server checks each and answers beside it.
          body: { base, [part]: sent } as never,
        }),
      ),
    onMutate: form.settle,
    onError: (error: Error) => {
      if (error instanceof ApiError && error.status === 409) {
        setOvertaken(error.message);
        queryClient.invalidateQueries({ queryKey: [...TESTS_KEY, testId] });
        return;
      }
      form.refuse(withoutPart(error, part));
    },
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: TESTS_KEY });
      sayDone(say('saved-the-result-follows', { label_of_part: labelOfPart(part) }));
      onClose();
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    store.mutate(read.base);
  }
  return (
    <Dialog onClose={onClose} title={labelOfPart(part)} size="lg">
      <form onSubmit={submit} noValidate>
        {part === 'pack' && (
          <PackSaid
            onUnderstood={(said) => {
              const known = Object.fromEntries(
                items
                  .filter((item) => said[item.name] !== undefined)
                  .map((item) => [item.name, typedValue(item, said[item.name], units)]),
              );
              form.change({ typed: { ...typed, ...known } });
            }}
          />
        )}
        <div className={classes.fields}>
          {items.map((item) => (
            <SheetItemInput
              key={item.name}
              item={item}
              typed={typed[item.name] ?? ''}
              error={errorOf(form.errors, item.name)}
              units={units}
              onType={(value) => form.change({ typed: { ...typed, [item.name]: value } })}
            />
          ))}
        </div>
        {overtaken !== null && (
          <div role="alert" className={classes.overtaken}>
            <p>{overtaken}</p>
            {latest && (
              <ul>
                {differenceOf(part, valuesOf(latest, part), sent, units).map((row) => (
                  <li key={row.label}>
                    {say('row-there-before-here-after', {
                      row: row.label,
                      before: row.before,
                      after: row.after,
                    })}
                  </li>
                ))}
              </ul>
            )}
            <Group gap="xs">
              <Button
                onClick={() => {
                  if (!latest) return;
                  setRead({ base: latest.changes, values: valuesOf(latest, part) });
                  form.change({ typed: typedPart(part, valuesOf(latest, part), units) });
                  setOvertaken(null);
                }}
              >
                {say('take-theirs')}
              </Button>
              <Button onClick={() => latest && store.mutate(latest.changes)}>
                {say('save-mine-over-it')}
              </Button>
            </Group>
          </div>
        )}
        <Refusal error={form.trouble} />
        <Group mt="md" justify="flex-end">
          <Button onClick={onClose}>{say('cancel')}</Button>
          <Button type="submit" variant="filled" loading={store.isPending}>
            {say('save')}
          </Button>
        </Group>
      </form>
    </Dialog>
  );
}

function typedPart(part: PartName, values: Values, units: Units): Typed {
  return Object.fromEntries(
    itemsOf(part).map((item) => [item.name, typedValue(item, values[item.name], units)]),
  );
}

/** The server names a field by its part; the form knows only its own. */
function withoutPart(error: Error, part: PartName): Error {
  if (!(error instanceof ApiError)) return error;
  const fields = Object.fromEntries(
    Object.entries(error.fields).map(([name, text]) => [name.replace(`${part}.`, ''), text]),
  );
  return new ApiError(error.status, { ...error.problem, fields });
}

/** A fault of a field, or of a row of it. */
function errorOf(errors: Record<string, string>, name: string): string | undefined {
  return errors[name] ?? Object.entries(errors).find(([key]) => key.startsWith(`${name}.`))?.[1];
}
