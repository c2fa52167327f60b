import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { dayOf } from '../account/dayOf';
import { api, unwrap } from '../api/client';
import { type Session, sessionQuery } from '../api/queries';
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
  const more = others.length === 0 ? '' : ` and ${others.length} more`;
  return (
    <div className={classes.offline} role="status">
      {first.kind === 'phone' ? 'A phone' : 'A computer'}
      {more} signed in to this account on {dayOf(first.made_at)}. Not you?{' '}
      <Link to="/account">Sign it out</Link>{' '}
      <button type="button" className={classes.update} onClick={() => told.mutate()}>
        It was me
      </button>
    </div>
  );
}
