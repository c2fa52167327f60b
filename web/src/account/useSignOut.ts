import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { api, rememberCsrfToken, unwrap } from '../api/client';
import { sessionQuery } from '../api/queries';
import { forgetSession } from '../api/session';

/** Signs out, and has nothing of whoever was here on this device: what was not sent is kept for them, or not. */
export function useSignOut() {
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: async (_keep: boolean) => unwrap(await api.DELETE('/api/session')),
    onSuccess: async (session, keep) => {
      rememberCsrfToken(session.csrf_token);
      // Before the page is another's: what is still asked for would be kept again.
      await queryClient.cancelQueries();
      const { leave } = await import('../roadside/leaving');
      await leave(keep);
      forgetSession();
      queryClient.clear();
      queryClient.setQueryData(sessionQuery.queryKey, session);
      navigate('/');
    },
  });
}
