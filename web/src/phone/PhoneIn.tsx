import { Button, Group, Text, TextInput } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, rememberCsrfToken, unwrap } from '../api/client';
import { sessionQuery } from '../api/queries';
import { Mark } from '../ui/Mark';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { useTitle } from '../ui/useTitle';
import classes from './Phone.module.css';

/**
 * Signs this phone in by the code that the laptop shows. Whoever follows a link is told first whose account
 * it opens: it may have been sent by somebody who wants their rides.
 */
export function PhoneIn() {
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  const [scanned] = useState(() => window.location.hash.slice(1));
  const before = useQuery(sessionQuery).data?.username ?? null;
  const form = useFields({ code: scanned });
  useTitle('Sign this phone in');
  const whose = useMutation({
    mutationFn: async () =>
      unwrap(await api.POST('/api/session/phone/whose', { body: { code: form.values.code } })),
    onMutate: form.settle,
    onError: form.refuse,
  });
  const enter = useMutation({
    mutationFn: async () =>
      unwrap(await api.POST('/api/session/phone', { body: { code: form.values.code } })),
    onMutate: form.settle,
    onError: (error) => {
      whose.reset();
      form.refuse(error);
    },
    onSuccess: async (session) => {
      rememberCsrfToken(session.csrf_token);
      if (before !== null && before !== session.username) {
        const { leave } = await import('../roadside/leaving');
        await leave(true);
        queryClient.clear();
      }
      queryClient.setQueryData(sessionQuery.queryKey, session);
      navigate('/ride', { replace: true });
    },
  });
  const { mutate: ask } = whose;
  useEffect(() => {
    if (scanned === '') return;
    // It need not stand in the address, and in what the browser remembers of it, any longer.
    window.history.replaceState(null, '', window.location.pathname);
    ask();
  }, [scanned, ask]);
  function submit(event: FormEvent) {
    event.preventDefault();
    whose.mutate();
  }
  if (whose.data) {
    const { username } = whose.data;
    return (
      <main className={classes.enter}>
        <Mark />
        <h1>Sign in as {username}?</h1>
        <Text>
          What you log on this phone goes to the account <b>{username}</b> from then on. Go on only
          if that is yours.
        </Text>
        {before !== null && before !== username && (
          <Text>
            You are signed in here as <b>{before}</b>; that ends.
          </Text>
        )}
        <Group>
          <Button
            variant="filled"
            size="lg"
            loading={enter.isPending}
            onClick={() => enter.mutate()}
          >
            Sign in as {username}
          </Button>
          <Button size="lg" onClick={() => navigate('/', { replace: true })}>
            No
          </Button>
        </Group>
      </main>
    );
  }
  return (
    <main className={classes.enter}>
      <Mark />
      <h1>Sign this phone in.</h1>
      <Text>On the laptop: More, Use it on your phone, Show a code.</Text>
      <form className={classes.column} onSubmit={submit}>
        <TextInput
          label="The code"
          size="lg"
          autoComplete="one-time-code"
          autoCapitalize="characters"
          maxLength={20}
          {...form.field('code')}
          required
        />
        <Refusal error={form.trouble} />
        <Button type="submit" variant="filled" size="lg" loading={whose.isPending}>
          Go on
        </Button>
      </form>
    </main>
  );
}
