import { Text } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import { say } from '../words/en/account.ftl';
import { LOCALE } from '../words/locale';

/** When all of this Limpet was last backed up; what that takes, where it never was. */
export function LastBackup() {
  const last = useQuery({
    queryKey: ['backups', 'last'],
    queryFn: async () => unwrap(await api.GET('/api/backups/last')),
  });
  if (last.data === undefined) return null;
  const { made_at } = last.data;
  return (
    <Text mt="sm">
      {made_at === null
        ? say('never-backed-up')
        : say('last-backed-up', {
            when: new Date(made_at).toLocaleString(LOCALE, {
              dateStyle: 'long',
              timeStyle: 'short',
            }),
          })}
    </Text>
  );
}
