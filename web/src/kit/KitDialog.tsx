import { Select, TextInput } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { type Pack, type Rider, TESTS_KEY, type Units, type Vehicle } from '../api/queries';
import { limpHint } from '../format/limp';
import { PackSaid } from '../sheet/PackSaid';
import { Dialog } from '../ui/Dialog';
import { DialogFoot } from '../ui/DialogFoot';
import { FieldInput } from '../ui/FieldInput';
import { sayDone } from '../ui/notes';
import { Refusal } from '../ui/Refusal';
import { useFields, type WithTyped } from '../ui/useFields';
import { useRemoval } from '../ui/useRemoval';
import { say } from '../words/en/kit.ftl';
import { CopiesOffer } from './CopiesOffer';
import classes from './Kit.module.css';
import { type Copy, copiesQuery } from './lives';
import {
  kitBody,
  kitText,
  removeKit,
  restoreKit,
  SHELF_QUERIES,
  type Shelf,
  storeKit,
} from './shelves';

interface KitDialogProps {
  shelf: Shelf;
  item: Vehicle | Pack | Rider | null;
  units: Units;
  onClose: () => void;
  /** Where it was removed; else as on closing. */
  onRemoved?: () => void;
}

/** Add a piece of kit or change it; what is wrong stands beside its field. */
export function KitDialog({ shelf, item, units, onClose, onRemoved = onClose }: KitDialogProps) {
  const queryClient = useQueryClient();
  const [id] = useState(() => item?.id ?? crypto.randomUUID());
  const form = useFields<WithTyped>(() => ({ typed: startOf(shelf, item, units) }));
  const { typed } = form.values;
  const type = (name: string, text: string) => form.change({ typed: { ...typed, [name]: text } });
  const { queryKey } = SHELF_QUERIES[shelf.name];
  const one = ONE[shelf.name];
  const [copies, setCopies] = useState<Copy[]>([]);
  const store = useMutation({
    mutationFn: () => storeKit(shelf, id, kitBody(shelf, typed, units)),
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: async (stored) => {
      // The list shows what was stored before the dialog that stored it is gone.
      await queryClient.invalidateQueries({ queryKey });
      await queryClient.invalidateQueries({ queryKey: [...TESTS_KEY, 'life', shelf.name, id] });
      // Tests keep what they were ridden with: whether they are to follow is asked.
      const found = item === null ? [] : await queryClient.fetchQuery(copiesQuery(one, id));
      const fresh = item === null ? [] : changedBetween(item, stored);
      const asked = found.filter((copy) => copy.differs.some(({ field }) => fresh.includes(field)));
      sayDone(say('stored-is-saved', { stored: stored.name }));
      if (asked.length > 0) setCopies(asked);
      else onClose();
    },
  });
  const remove = useRemoval({
    what: item?.name ?? shelf.one,
    remove: () => removeKit(shelf, id),
    restore: () => restoreKit(shelf, id),
    lists: [queryKey],
    onDone: onRemoved,
  });
  const { errors } = form;
  function submit(event: FormEvent) {
    event.preventDefault();
    store.mutate();
  }
  if (copies.length > 0) {
    return (
      <Dialog onClose={onClose} title={say('correct-in-its-tests', { item: item?.name })} size="lg">
        <CopiesOffer
          shelf={one}
          itemId={id}
          name={typed.name ?? ''}
          copies={copies}
          units={units}
          onClose={onClose}
        />
      </Dialog>
    );
  }
  return (
    <Dialog
      onClose={onClose}
      title={item ? say('change-item', { item: item.name }) : say('add-a-one', { one: shelf.one })}
      size="lg"
    >
      <form className={classes.form} onSubmit={submit} noValidate>
        {shelf.name === 'packs' && (
          <PackSaid
            onUnderstood={(said) => {
              const known = kitText(shelf, { ...said, taken: [] } as unknown as Pack, units);
              const named = Object.keys(said).map((name) => [name, known[name] ?? '']);
              form.change({ typed: { ...typed, ...Object.fromEntries(named) } });
            }}
          />
        )}
        <div className={classes.two}>
          {shelf.fields.map((field) =>
            field.choices ? (
              <Select
                key={field.name}
                label={field.label}
                data={[...field.choices]}
                value={typed[field.name] ?? ''}
                onChange={(value) => type(field.name, value ?? '')}
                error={errors[field.name]}
                withAsterisk={field.required}
              />
            ) : field.number ? (
              <FieldInput key={field.name} {...form.number(field.number, units)} />
            ) : (
              <TextInput
                key={field.name}
                label={field.label}
                description={field.table ? limpHint(units) : field.hint}
                inputWrapperOrder={['label', 'input', 'description', 'error']}
                value={typed[field.name] ?? ''}
                onChange={(event) => type(field.name, event.currentTarget.value)}
                error={errors[field.name] ?? within(errors, field.name)}
                withAsterisk={field.required}
                inputMode={field.whole ? 'numeric' : undefined}
              />
            ),
          )}
        </div>
        <Refusal error={remove.error ?? form.trouble} />
        <DialogFoot remove={item && remove} storing={store.isPending} onClose={onClose} />
      </form>
    </Dialog>
  );
}

/** The fields that a change has changed. */
function changedBetween(before: object, after: object): string[] {
  const old = new Map(Object.entries(before));
  return Object.entries(after)
    .filter(([name, value]) => JSON.stringify(old.get(name)) !== JSON.stringify(value))
    .map(([name]) => name);
}

const ONE = { vehicles: 'vehicle', packs: 'pack', riders: 'rider' } as const;

/** What is wrong with a part of a field, such as a row of the limp table. */
function within(errors: Record<string, string>, name: string): string | undefined {
  return Object.entries(errors).find(([key]) => key.startsWith(`${name}.`))?.[1];
}

/** The fields as they stand. */
function startOf(shelf: Shelf, item: KitDialogProps['item'], units: Units): Record<string, string> {
  if (item === null) return shelf.name === 'vehicles' ? { kind: 'bicycle' } : {};
  return kitText(shelf, item, units);
}
