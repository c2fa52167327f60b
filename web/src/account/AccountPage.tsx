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
import { say } from '../words/en/account.ftl';
import { LOCALE } from '../words/locale';
import { Shown } from '../words/Shown';
import classes from './Account.module.css';
import { dayOf } from './dayOf';
import { LastBackup } from './LastBackup';
import { PasswordDialog } from './PasswordDialog';

const MIB = 2 ** 20;
const KEPT: Record<Account['kept'][number]['name'], [string, (value: number) => string]> = {
  tests: [say('tests'), (value) => value.toLocaleString(LOCALE)],
  entries: [say('entries'), (value) => value.toLocaleString(LOCALE)],
  sample_bytes: [say('samples'), mebibytes],
  photo_bytes: [say('pictures'), mebibytes],
};

function mebibytes(value: number): string {
  return `${(value / MIB).toLocaleString(LOCALE, { maximumFractionDigits: 1 })} MiB`;
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
      sayDone(say('signed-out-there'));
      return queryClient.invalidateQueries({ queryKey: accountQuery.queryKey });
    },
  });
  const stay = useMutation({
    mutationFn: async () => unwrap(await api.DELETE('/api/account/leaving')),
    onSuccess: (found) => {
      keep(found);
      sayDone(say('your-account-stays'));
    },
  });
  if (account.isPending) return <Waiting rows={4} height={60} />;
  if (account.error)
    return <Trouble whole error={account.error} onRetry={() => account.refetch()} />;
  const { username, since, demo, sessions, kept, removed, goes_at } = account.data;
  return (
    <Page
      name={say('account')}
      title={demo ? say('the-demos-account') : say('the-account-username', { username })}
    >
      <div className={classes.column}>
        {goes_at !== null && (
          <div role="alert" className={classes.going}>
            <Text>
              <Shown
                say={say}
                id="this-account-and-everything-in"
                values={{ goes_at: dayOf(goes_at) }}
                parts={{ b: <b /> }}
              />
            </Text>
            <Button variant="filled" loading={stay.isPending} onClick={() => stay.mutate()}>
              {say('keep-the-account')}
            </Button>
          </div>
        )}
        <section aria-label={say('signed-in-devices')}>
          <h2>{say('signed-in-devices')}</h2>
          <Text>{say('somewhere-you-dont-know-sign')}</Text>
          <ul className={classes.sessions}>
            {sessions.map((session) => (
              <li key={session.id}>
                <div>
                  <b>{session.kind === 'phone' ? say('a-phone') : say('a-computer')}</b>
                  {session.here && say('this-one')}
                  <div className={classes.quiet}>
                    {say('signed-in-since-used', {
                      made_at: dayOf(session.made_at),
                      seen_at: dayOf(session.seen_at),
                    })}
                  </div>
                  <div className={classes.quiet}>{session.agent}</div>
                </div>
                {!session.here && (
                  <Button
                    size="compact-sm"
                    aria-label={say('sign-out-there-signed-in', {
                      made_at: dayOf(session.made_at),
                    })}
                    loading={out.isPending && out.variables === session.id}
                    onClick={() => out.mutate(session.id)}
                  >
                    {say('sign-out-there')}
                  </Button>
                )}
              </li>
            ))}
          </ul>
          <Refusal error={out.error} />
          {!demo && <Button onClick={() => setOpen('password')}>{say('password')}</Button>}
        </section>
        <section aria-label={say('what-it-holds')}>
          <h2>{say('what-it-holds')}</h2>
          <WideTable label={say('what-the-account-holds')}>
            <Table.Thead>
              <Table.Tr>
                <Table.Th className={parts.words}>{say('what-here')}</Table.Th>
                <Table.Th>{say('used')}</Table.Th>
                <Table.Th>{say('at-most')}</Table.Th>
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
            {say('an-account-since-what-you', {
              since: new Date(since).toLocaleDateString(LOCALE, {
                dateStyle: 'long',
              }),
            })}
          </Text>
          <Button component="a" href="/api/imports/account.zip" download mr="sm">
            {say('export-all-of-it')}
          </Button>
          <LastBackup />
          {removed > 0 && (
            <Button onClick={() => setOpen('emptying')}>
              {say('empty-the-removed', { removed })}
            </Button>
          )}
        </section>
        {!demo && goes_at === null && (
          <section aria-label={say('delete-the-account')}>
            <h2>{say('delete-the-account')}</h2>
            <Text>{say('export-what-you-want-to')}</Text>
            <Button color="red" onClick={() => setOpen('leaving')}>
              {say('delete-the-account')}
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
    <Dialog title={say('delete-the-account-asked')} onClose={onClose}>
      <form
        noValidate
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          leave.mutate();
        }}
      >
        <Text pb="sm">{say('every-test-plan-and-piece')}</Text>
        <PasswordInput
          label={say('your-password')}
          autoComplete="current-password"
          {...form.field('current')}
          required
        />
        <Refusal error={form.trouble} />
        <Group justify="flex-end" pt="md">
          <Button variant="filled" onClick={onClose}>
            {say('keep-it')}
          </Button>
          <Button type="submit" color="red" loading={leave.isPending}>
            {say('delete-in-a-week')}
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
      sayDone(say('what-you-removed-is-gone'));
      onClose();
    },
  });

  return (
    <Dialog title={say('empty-the-removed-asked')} onClose={onClose}>
      <Text pb="sm">{say('that-you-removed-cant-be', { removed })}</Text>
      <Refusal error={empty.error} />
      <Group justify="flex-end">
        <Button variant="filled" onClick={onClose}>
          {say('leave-it')}
        </Button>
        <Button color="red" loading={empty.isPending} onClick={() => empty.mutate()}>
          {say('empty-it')}
        </Button>
      </Group>
    </Dialog>
  );
}
