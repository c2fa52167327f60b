import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import { type Entry, TESTS_KEY } from '../api/queries';
import { sayDone } from '../ui/notes';
import { say } from '../words/en/entries.ftl';
import { wholeBody } from './fields';

/** Says that what looks odd in an entry was looked at, and is so: it is asked about no more. */
export function useConfirm(testId: string) {
  const queryClient = useQueryClient();
  return useMutation({
    mutationFn: async (entry: Entry) =>
      unwrap(
        await api.PUT('/api/tests/{test_id}/entries/{entry_id}', {
          params: { path: { test_id: testId, entry_id: entry.id } },
          body: { ...wholeBody(entry), confirmed: 'yes', from_changes: entry.changes } as never,
        }),
      ),
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: TESTS_KEY });
      sayDone(say('marked-as-right'));
    },
  });
}
