import { Button, PasswordInput, Text, TextInput } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { api, rememberCsrfToken, unwrap } from '../api/client';
import { type Session, sessionQuery } from '../api/queries';
import { Mark } from '../ui/Mark';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { useTitle } from '../ui/useTitle';
import classes from './SignIn.module.css';
import { useDemo } from './useDemo';

/** The first page: into the demo with one button, or an account of one's own. */
export function SignIn({ session }: { session: Session }) {
  const queryClient = useQueryClient();
  const [creating, setCreating] = useState(false);
  const form = useFields({ username: '', password: '' });
  useTitle('Sign in');
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
      <h1 className={classes.claim}>
        How far does a small pack take you, and how sure is that? Ride, write down what you read,
        and know your watt-hours per mile.
      </h1>
      <div className={classes.ways}>
        <form className={classes.form} onSubmit={submit}>
          <Text fw={650}>{creating ? 'A new account' : 'Your account'}</Text>
          <TextInput label="Name" autoComplete="username" {...form.field('username')} required />
          <PasswordInput
            label="Password"
            autoComplete={creating ? 'new-password' : 'current-password'}
            {...form.field('password')}
            required
          />
          <Refusal error={form.trouble} />
          <Button type="submit" variant="filled" loading={enter.isPending}>
            {creating ? 'Create and sign in' : 'Sign in'}
          </Button>
          {session.sign_up_open ? (
            <Button variant="subtle" onClick={() => setCreating(!creating)}>
              {creating ? 'I have an account' : 'Create an account'}
            </Button>
          ) : (
            <Text size="sm">Ask whoever runs this Limpet: only they can make accounts.</Text>
          )}
        </form>
        {session.demo_offered && (
          <div className={classes.form}>
            <Text fw={650}>The island of Skerrow</Text>
            <Text>
              A made-up mail round: its vehicles, its packs and their range tests over two years.
              Look round, log a ride, try things out.
            </Text>
            <Button loading={demo.isPending} onClick={() => demo.mutate()}>
              Open the demo
            </Button>
            <Refusal error={demo.error} />
          </div>
        )}
      </div>
    </main>
  );
}
