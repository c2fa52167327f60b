import { Button, Group, Table, TextInput } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { api, type Schemas, unwrap } from '../api/client';
import { assumptionsQuery } from '../api/queries';
import { withUnit } from '../format/number';
import { Dialog } from '../ui/Dialog';
import { sayDone } from '../ui/notes';
import { Trouble, Waiting } from '../ui/Page';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { say } from '../words/en/method.ftl';
import classes from './Method.module.css';

type Assumption = Schemas['AssumptionOut'];

/** What is taken where nobody says, each to be changed for this account. */
export function Assumptions() {
  const found = useQuery(assumptionsQuery);
  const [changing, setChanging] = useState<Assumption | null>(null);
  if (found.isPending) return <Waiting rows={6} height={30} />;
  if (found.data === undefined) {
    return <Trouble error={found.error} onRetry={() => found.refetch()} />;
  }
  return (
    <div className={classes.table}>
      <Table>
        <Table.Thead>
          <Table.Tr>
            <Table.Th>{say('what')}</Table.Th>
            <Table.Th className={classes.figure}>{say('value-u')}</Table.Th>
            <Table.Th>{say('where-it-matters')}</Table.Th>
            <Table.Th>{say('source')}</Table.Th>
            <Table.Th>
              <span className="visually-hidden">{say('change-here')}</span>
            </Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {found.data.map((item) => (
            <Table.Tr key={item.name}>
              <Table.Td>{item.label}</Table.Td>
              <Table.Td className={`${classes.figure} ${item.changed ? classes.changed : ''}`}>
                {shown(item)}
                {item.changed && <div>{say('yours-usually-usual', { usual: usual(item) })}</div>}
              </Table.Td>
              <Table.Td>{item.matters}</Table.Td>
              <Table.Td>{item.source}</Table.Td>
              <Table.Td>
                <Button
                  size="compact-sm"
                  aria-label={say('change-item', { item: item.label })}
                  onClick={() => setChanging(item)}
                >
                  {say('change')}
                </Button>
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
      {changing && (
        <AssumptionDialog key={changing.name} item={changing} onClose={() => setChanging(null)} />
      )}
    </div>
  );
}

function text(value: number): string {
  return String(Number(value.toPrecision(4)));
}

function withSpread(value: number, std: number, unit: string): string {
  return withUnit(`${text(value)}${std > 0 ? ` ±${text(std)}` : ''}`, unit);
}

const shown = (item: Assumption) => withSpread(item.value, item.std, item.unit);
const usual = (item: Assumption) => withSpread(item.default, item.default_std, item.unit);

function AssumptionDialog({ item, onClose }: { item: Assumption; onClose: () => void }) {
  const queryClient = useQueryClient();
  const form = useFields(() => ({ value: text(item.value), std: text(item.std) }));
  const params = { path: { name: item.name } };
  // Results and forecasts rest on it: everything is asked for anew.
  const done = async (message: string) => {
    await queryClient.invalidateQueries();
    sayDone(message);
    onClose();
  };
  const store = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.PUT('/api/assumptions/{name}', {
          params,
          body: { value: numeric(form.values.value), std: numeric(form.values.std) } as never,
        }),
      ),
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: () => done(say('yours-from-now-on-results', { item: item.label })),
  });
  const forget = useMutation({
    mutationFn: async () => unwrap(await api.DELETE('/api/assumptions/{name}', { params })),
    onError: form.refuse,
    onSuccess: () => done(say('as-usual-again', { item: item.label })),
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    store.mutate();
  }
  const unit = item.unit ? <span aria-hidden="true">{item.unit}</span> : undefined;
  const input = (name: 'value' | 'std') => {
    const field = form.field(name);
    return {
      ...field,
      rightSection: unit,
      rightSectionWidth: 52,
      inputMode: 'decimal' as const,
      onChange: (event: React.ChangeEvent<HTMLInputElement>) =>
        field.onChange(event.currentTarget.value),
    };
  };
  return (
    <Dialog onClose={onClose} title={item.label}>
      <form onSubmit={submit} noValidate>
        <p className={classes.soft}>
          {say('it-matters-for-usually', {
            matters: item.matters,
            usual: usual(item),
            source: item.source,
          })}
        </p>
        <Group grow align="start">
          <TextInput label={say('value')} {...input('value')} />
          <TextInput label={say('standard-uncertainty-u')} {...input('std')} />
        </Group>
        <Refusal error={form.trouble} />
        <Group justify="space-between" mt="md">
          {item.changed ? (
            <Button variant="subtle" onClick={() => forget.mutate()} loading={forget.isPending}>
              {say('as-usual')}
            </Button>
          ) : (
            <span />
          )}
          <Group>
            <Button onClick={onClose}>{say('cancel')}</Button>
            <Button type="submit" variant="filled" loading={store.isPending}>
              {say('save')}
            </Button>
          </Group>
        </Group>
      </form>
    </Dialog>
  );
}

/** A number as typed; what is none goes as it stands, and the server says so beside its field. */
function numeric(typed: string): number | string {
  const value = Number(typed.trim().replace(',', '.').replace('−', '-'));
  return typed.trim() === '' || Number.isNaN(value) ? typed : value;
}
