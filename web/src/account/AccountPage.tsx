import { Button, Group, PasswordInput, Table, Text } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { api, unwrap } from '../api/client';
import { type Account, accountQuery, sessionQuery } from '../api/queries';
import { Dialog } from '../ui/Dialog';
import { sayDone } from '../ui/notes';
import { Page, Trouble, Waiting } from '../ui/Page';
import parts from '../ui/Parts.module.css';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { WideTable } from '../ui/WideTable';
import classes from './Account.module.css';
import { dayOf } from './dayOf';
import { PasswordDialog } from './PasswordDialog';

const MIB = 2 ** 20;
const KEPT: Record<Account['kept'][number]['name'], [string, (value: number) => string]> = {
  tests: ['Tests', (value) => value.toLocaleString('en-GB')],
  entries: ['Entries', (value) => value.toLocaleString('en-GB')],
  sample_bytes: ['Samples', mebibytes],
  photo_bytes: ['Pictures', mebibytes],
};

function mebibytes(value: number): string {
  return `${(value / MIB).toLocaleString('en-GB', { maximumFractionDigits: 1 })} MiB`;
}

/** Where the account is open, how much it keeps, and how it ends. */
export function AccountPage() {
  const account = useQuery(accountQuery);
  const queryClient = useQueryClient();
  const [open, setOpen] = useState<'password' | 'leaving' | 'emptying' | null>(null);
  const keep = (found: Account) => {
    queryClient.setQueryData(accountQuery.queryKey, found);
    queryClient.invalidateQueries({ queryKey: sessionQuery.queryKey });
  };
  const out = useMutation({
    mutationFn: async (session_id: string) =>
      unwrap(
        await api.DELETE('/api/account/sessions/{session_id}', {
          params: { path: { session_id } },
        }),
      ),
    onSuccess: () => {
      sayDone('Signed out there.');
      return queryClient.invalidateQueries({ queryKey: accountQuery.queryKey });
    },
  });
  const stay = useMutation({
    mutationFn: async () => unwrap(await api.DELETE('/api/account/leaving')),
    onSuccess: (found) => {
      keep(found);
      sayDone('Your account stays.');
    },
  });
  if (account.isPending) return <Waiting rows={4} height={60} />;
  if (account.error)
    return <Trouble whole error={account.error} onRetry={() => account.refetch()} />;
  const { username, since, demo, sessions, kept, removed, goes_at } = account.data;
  return (
    <Page name="Account" title={demo ? 'The demo’s account.' : `The account ${username}.`}>
      <div className={classes.column}>
        {goes_at !== null && (
          <div role="alert" className={classes.going}>
            <Text>
              This account and everything in it will be deleted on <b>{dayOf(goes_at)}</b>.
            </Text>
            <Button variant="filled" loading={stay.isPending} onClick={() => stay.mutate()}>
              Keep the account
            </Button>
          </div>
        )}
        <section aria-label="Signed-in devices">
          <h2>Signed-in devices</h2>
          <Text>Somewhere you don’t know? Sign it out there, then change your password.</Text>
          <ul className={classes.sessions}>
            {sessions.map((session) => (
              <li key={session.id}>
                <div>
                  <b>{session.kind === 'phone' ? 'A phone' : 'A computer'}</b>
                  {session.here && ', this one'}
                  <div className={classes.quiet}>
                    signed in since {dayOf(session.made_at)}, used {dayOf(session.seen_at)}
                  </div>
                  <div className={classes.quiet}>{session.agent}</div>
                </div>
                {!session.here && (
                  <Button
                    size="compact-sm"
                    aria-label={`Sign out there, signed in since ${dayOf(session.made_at)}`}
                    loading={out.isPending && out.variables === session.id}
                    onClick={() => out.mutate(session.id)}
                  >
                    Sign out there
                  </Button>
                )}
              </li>
            ))}
          </ul>
          <Refusal error={out.error} />
          {!demo && <Button onClick={() => setOpen('password')}>Password</Button>}
        </section>
        <section aria-label="What it holds">
          <h2>What it holds</h2>
          <WideTable label="What the account holds">
            <Table.Thead>
              <Table.Tr>
                <Table.Th className={parts.words}>What</Table.Th>
                <Table.Th>Used</Table.Th>
                <Table.Th>At most</Table.Th>
              </Table.Tr>
            </Table.Thead>
            <Table.Tbody>
              {kept.map(({ name, used, most }) => {
                const [label, text] = KEPT[name];
                return (
                  <Table.Tr key={name}>
                    <Table.Th scope="row" className={parts.words}>
                      {label}
                    </Table.Th>
                    <Table.Td>{text(used)}</Table.Td>
                    <Table.Td>{text(most)}</Table.Td>
                  </Table.Tr>
                );
              })}
            </Table.Tbody>
          </WideTable>
          <Text className={classes.quiet}>
            An account since {new Date(since).toLocaleDateString('en-GB', { dateStyle: 'long' })}.
            What you removed counts until it’s gone for good, after thirty days or when you empty
            it.
          </Text>
          {removed > 0 && (
            <Button onClick={() => setOpen('emptying')}>
              Empty the removed ({removed.toLocaleString('en-GB')})
            </Button>
          )}
        </section>
        {!demo && goes_at === null && (
          <section aria-label="Delete the account">
            <h2>Delete the account</h2>
            <Text>
              Export what you want to keep first: the Logbook has each test as a bundle. The account
              is deleted a week later, with everything in it; until then you can keep it after all.
            </Text>
            <Button color="red" onClick={() => setOpen('leaving')}>
              Delete the account
            </Button>
          </section>
        )}
      </div>
      {open === 'password' && <PasswordDialog onClose={() => setOpen(null)} />}
      {open === 'leaving' && <LeaveDialog onDone={keep} onClose={() => setOpen(null)} />}
      {open === 'emptying' && (
        <EmptyDialog removed={removed} onDone={keep} onClose={() => setOpen(null)} />
      )}
    </Page>
  );
}

interface AskedProps {
  onDone: (found: Account) => void;
  onClose: () => void;
}

function LeaveDialog({ onDone, onClose }: AskedProps) {
  const form = useFields({ current: '' });
  const leave = useMutation({
    mutationFn: async () =>
      unwrap(await api.POST('/api/account/leaving', { body: { current: form.values.current } })),
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: (found) => {
      onDone(found);
      onClose();
    },
  });
  return (
    <Dialog title="Delete the account?" onClose={onClose}>
      <form
        noValidate
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          leave.mutate();
        }}
      >
        <Text pb="sm">
          Every test, plan and piece of kit goes with it in a week, and it’s signed out everywhere
          else now.
        </Text>
        <PasswordInput
          label="Your password"
          autoComplete="current-password"
          {...form.field('current')}
          required
        />
        <Refusal error={form.trouble} />
        <Group justify="flex-end" pt="md">
          <Button variant="filled" onClick={onClose}>
            Keep it
          </Button>
          <Button type="submit" color="red" loading={leave.isPending}>
            Delete in a week
          </Button>
        </Group>
      </form>
    </Dialog>
  );
}

function EmptyDialog({ removed, onDone, onClose }: AskedProps & { removed: number }) {
  const empty = useMutation({
    mutationFn: async () => unwrap(await api.DELETE('/api/account/removed')),
    onSuccess: (found) => {
      onDone(found);
      sayDone('What you removed is gone for good.');
      onClose();
    },
  });
  const things = removed === 1 ? '1 thing' : `${removed.toLocaleString('en-GB')} things`;
  return (
    <Dialog title="Empty the removed?" onClose={onClose}>
      <Text pb="sm">{things} that you removed can’t be brought back after this.</Text>
      <Refusal error={empty.error} />
      <Group justify="flex-end">
        <Button variant="filled" onClick={onClose}>
          Leave it
        </Button>
        <Button color="red" loading={empty.isPending} onClick={() => empty.mutate()}>
          Empty it
        </Button>
      </Group>
    </Dialog>
  );
}
