import { Button, PasswordInput, Text, TextInput } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { api, rememberCsrfToken, unwrap } from '../api/client';
import { type Session, sessionQuery } from '../api/queries';
import { Mark } from '../ui/Mark';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { useTitle } from '../ui/useTitle';
import { say } from '../words/en/account.ftl';
import classes from './SignIn.module.css';
import { useDemo } from './useDemo';

/** The first page: into the demo with one button, or an account of one's own. */
export function SignIn({ session }: { session: Session }) {
  const queryClient = useQueryClient();
  const [creating, setCreating] = useState(false);
  const form = useFields({ username: '', password: '' });
  useTitle(say('sign-in'));
  const arrived = (next: Session) => {
    rememberCsrfToken(next.csrf_token);
    queryClient.setQueryData(sessionQuery.queryKey, next);
  };
  const demo = useDemo();
  const enter = useMutation({
    mutationFn: async () => {
      const body = form.values;
      return unwrap(
        creating
          ? await api.POST('/api/accounts', { body })
          : await api.POST('/api/session', { body }),
      );
    },
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: arrived,
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    enter.mutate();
  }
  return (
    <main className={classes.page}>
      <Mark />
      <h1 className={classes.claim}>{say('how-far-does-a-small')}</h1>
      <div className={classes.ways}>
        <form className={classes.form} onSubmit={submit}>
          <Text fw={650}>{creating ? say('a-new-account') : say('your-account')}</Text>
          <TextInput
            label={say('name')}
            autoComplete="username"
            {...form.field('username')}
            required
          />
          <PasswordInput
            label={say('password')}
            autoComplete={creating ? 'new-password' : 'current-password'}
            {...form.field('password')}
            required
          />
          <Refusal error={form.trouble} />
          <Button type="submit" variant="filled" loading={enter.isPending}>
            {creating ? say('create-and-sign-in') : say('sign-in')}
          </Button>
          {session.sign_up_open ? (
            <Button variant="subtle" onClick={() => setCreating(!creating)}>
              {creating ? say('i-have-an-account') : say('create-an-account')}
            </Button>
          ) : (
            <Text size="sm">{say('ask-whoever-runs-this-limpet')}</Text>
          )}
        </form>
        {session.demo_offered && (
          <div className={classes.form}>
            <Text fw={650}>{say('the-island-of-skerrow')}</Text>
            <Text>{say('a-made-up-mail-round')}</Text>
            <Button loading={demo.isPending} onClick={() => demo.mutate()}>
              {say('open-the-demo')}
            </Button>
            <Refusal error={demo.error} />
          </div>
        )}
      </div>
    </main>
  );
}
