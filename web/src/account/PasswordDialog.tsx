import { Button, Group, PasswordInput, Stack } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { FormEvent } from 'react';
import { api, rememberCsrfToken, unwrap } from '../api/client';
import { type Session, sessionQuery } from '../api/queries';
import { Dialog } from '../ui/Dialog';
import { sayDone } from '../ui/notes';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { say } from '../words/en/account.ftl';

/** Change the password, or sign out wherever else this account is open. */
export function PasswordDialog({ onClose }: { onClose: () => void }) {
  const queryClient = useQueryClient();
  const form = useFields({ current: '', wanted: '' });
  const { current, wanted } = form.values;
  const done = (words: string) => (session: Session) => {
    rememberCsrfToken(session.csrf_token);
    queryClient.setQueryData(sessionQuery.queryKey, session);
    sayDone(words);
    onClose();
  };
  const change = useMutation({
    mutationFn: async () => unwrap(await api.PUT('/api/password', { body: { current, wanted } })),
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: done(say('password-changed-other-devices-are')),
  });
  const elsewhere = useMutation({
    mutationFn: async () =>
      unwrap(await api.POST('/api/password/elsewhere', { body: { current } })),
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: done(say('every-other-session-is-signed')),
  });
  return (
    <Dialog title={say('password')} onClose={onClose}>
      <form
        noValidate
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <Stack>
          <PasswordInput
            label={say('your-current-password')}
            autoComplete="current-password"
            {...form.field('current')}
            required
          />
          <PasswordInput
            label={say('the-new-password')}
            description={say('eight-characters-or-more-not')}
            autoComplete="new-password"
            {...form.field('wanted')}
          />
          <Refusal error={form.trouble} />
          <Group justify="space-between">
            <Button
              variant="subtle"
              loading={elsewhere.isPending}
              disabled={current === ''}
              onClick={() => elsewhere.mutate()}
            >
              {say('sign-out-elsewhere')}
            </Button>
            <Button
              type="submit"
              variant="filled"
              loading={change.isPending}
              disabled={current === '' || wanted === ''}
            >
              {say('change')}
            </Button>
          </Group>
        </Stack>
      </form>
    </Dialog>
  );
}
