import { Button, PasswordInput, Text } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useLiveQuery } from 'dexie-react-hooks';
import { type FormEvent, useState } from 'react';
import { api, rememberCsrfToken, unwrap } from '../api/client';
import { type Session, sessionQuery } from '../api/queries';
import { forgetSession } from '../api/session';
import { countUnsent } from '../roadside/acts';
import { leave as forgetAll } from '../roadside/leaving';
import { Mark } from '../ui/Mark';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { say } from '../words/en/account.ftl';
import classes from './SignIn.module.css';
import { SignOutDialog } from './SignOutDialog';
import { useDemo } from './useDemo';

interface SignBackInProps {
  /** Of nobody, as the server has it now. */
  session: Session;
  /** Of who was here. */
  before: Session;
}

/** The sign-in has lapsed: nothing is lost, and only the password is asked for. */
export function SignBackIn({ session, before }: SignBackInProps) {
  const queryClient = useQueryClient();
  const waiting = useLiveQuery(countUnsent) ?? 0;
  const [asking, setAsking] = useState(false);
  async function leave(keep: boolean) {
    await queryClient.cancelQueries();
    await forgetAll(keep);
    forgetSession();
    queryClient.clear();
    queryClient.setQueryData(sessionQuery.queryKey, { ...session });
  }
  return (
    <main className={classes.page}>
      <Mark />
      <h1 className={classes.claim}>{say('you-have-been-signed-out')}</h1>
      <div className={classes.form}>
        <Text>{say('nothing-is-lost-that-you', { waiting })}</Text>
        <PasswordAgain before={before} />
        <Button variant="subtle" onClick={() => (waiting > 0 ? setAsking(true) : leave(true))}>
          {say('somebody-else-signs-in')}
        </Button>
      </div>
      {asking && (
        <SignOutDialog
          title={say('somebody-else-signs-in-title')}
          stay={say('go-back')}
          unsent={waiting}
          online
          onLeave={leave}
          onClose={() => setAsking(false)}
        />
      )}
    </main>
  );
}

/** The password of who was here; the demo has none. */
export function PasswordAgain({ before }: Pick<SignBackInProps, 'before'>) {
  const username = before.username ?? '';
  const queryClient = useQueryClient();
  const form = useFields({ password: '' });
  const demo = useDemo();
  const enter = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.POST('/api/session', { body: { username, password: form.values.password } }),
      ),
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: (next) => {
      rememberCsrfToken(next.csrf_token);
      queryClient.setQueryData(sessionQuery.queryKey, next);
      queryClient.invalidateQueries();
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    enter.mutate();
  }
  if (before.demo) {
    return (
      <Button variant="filled" loading={demo.isPending} onClick={() => demo.mutate()}>
        {say('open-the-demo-again')}
      </Button>
    );
  }
  return (
    <form className={classes.form} onSubmit={submit}>
      <PasswordInput
        label={say('password-of-username', { username })}
        autoComplete="current-password"
        {...form.field('password')}
        required
      />
      <Refusal error={form.trouble} />
      <Button type="submit" variant="filled" loading={enter.isPending}>
        {say('sign-in-again')}
      </Button>
    </form>
  );
}
