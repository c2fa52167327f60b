import { useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { testQuery, tracesQuery } from '../api/queries';
import { loadAhead } from '../places/parts';

/** What a test's page needs, asked for while its code is still on its way. */
export function usePrefetch() {
  const queryClient = useQueryClient();
  return useCallback(
    (testId: string) => {
      loadAhead(`/tests/${testId}`);
      void queryClient.prefetchQuery(testQuery(testId));
      void queryClient.prefetchQuery(tracesQuery(testId, null));
    },
    [queryClient],
  );
}
