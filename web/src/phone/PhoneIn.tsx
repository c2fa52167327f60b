import { Button, Text, TextInput } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';
import { api, rememberCsrfToken, unwrap } from '../api/client';
import { sessionQuery } from '../api/queries';
import { Mark } from '../shell/Mark';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { useTitle } from '../ui/useTitle';
import classes from './Phone.module.css';

/** Signs this phone in by the code that the laptop shows; one that came by camera goes at once. */
export function PhoneIn() {
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  const scanned = useRef(window.location.hash.slice(1));
  const form = useFields({ code: '' });
  useTitle('Sign this phone in');
  const enter = useMutation({
    mutationFn: async (code: string) =>
      unwrap(await api.POST('/api/session/phone', { body: { code } })),
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: (session) => {
      rememberCsrfToken(session.csrf_token);
      queryClient.setQueryData(sessionQuery.queryKey, session);
      navigate('/ride', { replace: true });
    },
  });
  const { mutate } = enter;
  useEffect(() => {
    if (scanned.current === '') return;
    const code = scanned.current;
    scanned.current = '';
    // It is used up by this: it need not stand in the address any longer.
    window.history.replaceState(null, '', window.location.pathname);
    mutate(code);
  }, [mutate]);
  function submit(event: FormEvent) {
    event.preventDefault();
    enter.mutate(form.values.code);
  }
  return (
    <main className={classes.enter}>
      <Mark />
      <h1>Sign this phone in.</h1>
      <Text>On the laptop: More, Take it to the phone, Show a code.</Text>
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
        <Button type="submit" variant="filled" size="lg" loading={enter.isPending}>
          Sign in
        </Button>
      </form>
    </main>
  );
}
