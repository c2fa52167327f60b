import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import { type Entry, TESTS_KEY } from '../api/queries';
import { KIND_WORDS } from '../format/words';
import { sayRemoved, sayTrouble } from '../ui/notes';
import { say } from '../words/en/entries.ftl';

/** Removes an entry at once; Undo puts it back with all that it said. */
export function useRemoveEntry(testId: string) {
  const queryClient = useQueryClient();
  const refresh = () => queryClient.invalidateQueries({ queryKey: TESTS_KEY });
  return useMutation({
    mutationFn: async (entry: Entry) =>
      unwrap(
        await api.DELETE('/api/tests/{test_id}/entries/{entry_id}', {
          params: {
            path: { test_id: testId, entry_id: entry.id },
            query: { act: crypto.randomUUID() },
          },
        }),
      ),
    onSuccess: (_, entry) => {
      refresh();
      sayRemoved(say('the-entry-kind-words', { kind_words: KIND_WORDS[entry.kind] }), async () => {
        const path = { test_id: testId, entry_id: entry.id, act: crypto.randomUUID() };
        unwrap(
          await api.PUT('/api/tests/{test_id}/entries/{entry_id}/restored/{act}', {
            params: { path },
          }),
        );
        await refresh();
      });
    },
    onError: (error) => sayTrouble(error.message),
  });
}
