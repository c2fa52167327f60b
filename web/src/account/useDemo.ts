import { type Query, useMutation, useQueryClient } from '@tanstack/react-query';
import { api, rememberCsrfToken, unwrap } from '../api/client';
import { sessionQuery } from '../api/queries';
import { rememberSession } from '../api/session';

/** Into the demo, from an account or from nowhere; what was fetched of another account is forgotten. */
export function useDemo() {
  const queryClient = useQueryClient();
  return useMutation({
    mutationFn: async () => unwrap(await api.POST('/api/session/demo')),
    onSuccess: (next) => {
      rememberCsrfToken(next.csrf_token);
      rememberSession(next);
      queryClient.setQueryData(sessionQuery.queryKey, next);
      // What is on the page asks again, as the one who is signed in now.
      const another = { predicate: ({ queryKey }: Query) => queryKey[0] !== 'session' };
      queryClient.removeQueries({ ...another, type: 'inactive' });
      return queryClient.resetQueries(another);
    },
  });
}
