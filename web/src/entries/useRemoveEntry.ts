import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import { type Entry, TESTS_KEY } from '../api/queries';
import { KIND_WORDS } from '../format/words';
import { sayRemoved, sayTrouble } from '../ui/notes';
import { wholeBody } from './fields';
import { sendEntry } from './usePutEntry';

/** Removes an entry at once; Undo puts it back with all that it said. */
export function useRemoveEntry(testId: string) {
  const queryClient = useQueryClient();
  const refresh = () => queryClient.invalidateQueries({ queryKey: TESTS_KEY });
  return useMutation({
    mutationFn: async (entry: Entry) =>
      unwrap(
        await api.DELETE('/api/tests/{test_id}/entries/{entry_id}', {
          params: { path: { test_id: testId, entry_id: entry.id } },
        }),
      ),
    onSuccess: (_, entry) => {
      refresh();
      sayRemoved(`The entry “${KIND_WORDS[entry.kind]}”`, async () => {
        await sendEntry(testId, { entryId: entry.id, body: wholeBody(entry) });
        await refresh();
      });
    },
    onError: (error) => sayTrouble(error.message),
  });
}
