import { Button, Group, PasswordInput, Stack, Text } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { ApiError, api, rememberCsrfToken, unwrap } from '../api/client';
import { type Session, sessionQuery } from '../api/queries';
import { Dialog } from '../ui/Dialog';
import { sayDone } from '../ui/notes';

/** Change the password, or sign out wherever else this account is open. */
export function PasswordDialog({ onClose }: { onClose: () => void }) {
  const queryClient = useQueryClient();
  const [current, setCurrent] = useState('');
  const [wanted, setWanted] = useState('');
  const done = (words: string) => (session: Session) => {
    rememberCsrfToken(session.csrf_token);
    queryClient.setQueryData(sessionQuery.queryKey, session);
    sayDone(words);
    onClose();
  };
  const change = useMutation({
    mutationFn: async () => unwrap(await api.PUT('/api/password', { body: { current, wanted } })),
    onSuccess: done('The password is changed; other sessions are signed out.'),
  });
  const elsewhere = useMutation({
    mutationFn: async () =>
      unwrap(await api.POST('/api/password/elsewhere', { body: { current } })),
    onSuccess: done('Every other session is signed out.'),
  });
  const error = change.error ?? elsewhere.error;
  const fields = error instanceof ApiError ? error.fields : {};
  return (
    <Dialog title="Password" onClose={onClose}>
      <form
        noValidate
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          elsewhere.reset();
          change.mutate();
        }}
      >
        <Stack>
          <PasswordInput
            label="Your password now"
            autoComplete="current-password"
            value={current}
            onChange={(event) => setCurrent(event.currentTarget.value)}
            error={fields.current}
            required
          />
          <PasswordInput
            label="The new one"
            description="Eight characters or more, not only digits"
            autoComplete="new-password"
            value={wanted}
            onChange={(event) => setWanted(event.currentTarget.value)}
            error={fields.wanted}
          />
          {error && Object.keys(fields).length === 0 && (
            <Text role="alert" c="var(--buoy)">
              {error.message}
            </Text>
          )}
          <Group justify="space-between">
            <Button
              variant="subtle"
              loading={elsewhere.isPending}
              disabled={current === ''}
              onClick={() => {
                change.reset();
                elsewhere.mutate();
              }}
            >
              Sign out elsewhere
            </Button>
            <Button
              type="submit"
              variant="filled"
              loading={change.isPending}
              disabled={current === '' || wanted === ''}
            >
              Change it
            </Button>
          </Group>
        </Stack>
      </form>
    </Dialog>
  );
}
