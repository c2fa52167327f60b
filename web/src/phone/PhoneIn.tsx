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
import { say } from '../words/en/phone.ftl';
import { Shown } from '../words/Shown';
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
  useTitle(say('sign-this-phone-in'));
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
        <h1>{say('sign-in-as', { username })}</h1>
        <Text>
          <Shown say={say} id="what-you-log-on-this" values={{ username }} parts={{ b: <b /> }} />
        </Text>
        {before !== null && before !== username && (
          <Text>
            <Shown say={say} id="you-are-signed-in-here" values={{ before }} parts={{ b: <b /> }} />
          </Text>
        )}
        <Group>
          <Button
            variant="filled"
            size="lg"
            loading={enter.isPending}
            onClick={() => enter.mutate()}
          >
            {say('sign-in-as-act', { username })}
          </Button>
          <Button size="lg" onClick={() => navigate('/', { replace: true })}>
            {say('no')}
          </Button>
        </Group>
      </main>
    );
  }
  return (
    <main className={classes.enter}>
      <Mark />
      <h1>{say('sign-this-phone-in-title')}</h1>
      <Text>{say('on-the-laptop-more-use')}</Text>
      <form className={classes.column} onSubmit={submit}>
        <TextInput
          label={say('the-code')}
          size="lg"
          autoComplete="one-time-code"
          autoCapitalize="characters"
          maxLength={20}
          {...form.field('code')}
          required
        />
        <Refusal error={form.trouble} />
        <Button type="submit" variant="filled" size="lg" loading={whose.isPending}>
          {say('go-on')}
        </Button>
      </form>
    </main>
  );
}
