import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import { TESTS_KEY } from '../api/queries';
import type { EntryBody } from './fields';

interface Sent {
  entryId: string;
  /** Of an entry that is there, with `from_changes`: one without is noted, and noted once. */
  body: EntryBody;
}

/** Sends one entry under its own id: a second try cannot store it twice. */
export async function sendEntry(testId: string, { entryId, body }: Sent) {
  return unwrap(
    await api.PUT('/api/tests/{test_id}/entries/{entry_id}', {
      params: { path: { test_id: testId, entry_id: entryId } },
      body,
    }),
  );
}

/** Stores an entry and has everything that hangs on it computed again. */
export function usePutEntry(testId: string) {
  const queryClient = useQueryClient();
  return useMutation({
    mutationFn: (sent: Sent) => sendEntry(testId, sent),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: TESTS_KEY }),
  });
}
