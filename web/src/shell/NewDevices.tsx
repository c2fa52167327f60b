import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { dayOf } from '../account/dayOf';
import { api, unwrap } from '../api/client';
import { type Session, sessionQuery } from '../api/queries';
import { say } from '../words/en/shell.ftl';
import { Shown } from '../words/Shown';
import classes from './Shell.module.css';

/** Tells of a device that has signed in to this account since, until it was read. */
export function NewDevices({ session }: { session: Session }) {
  const queryClient = useQueryClient();
  const told = useMutation({
    mutationFn: async () => unwrap(await api.POST('/api/account/told')),
    onSuccess: () =>
      queryClient.setQueryData(sessionQuery.queryKey, { ...session, new_devices: [] }),
  });
  const [first, ...others] = session.new_devices ?? [];
  if (!first) return null;

  return (
    <div className={classes.offline} role="status">
      <Shown
        say={say}
        id="signed-in-to-this-account"
        values={{
          kind: first.kind,
          more: others.length,
          made_at: dayOf(first.made_at),
        }}
        parts={{ a: <Link to="/account" /> }}
      />{' '}
      <button type="button" className={classes.update} onClick={() => told.mutate()}>
        {say('it-was-me')}
      </button>
    </div>
  );
}
