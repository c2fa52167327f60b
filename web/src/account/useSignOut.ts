import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { api, rememberCsrfToken, unwrap } from '../api/client';
import { sessionQuery } from '../api/queries';
import { forgetSession } from '../api/session';

/** Signs out and forgets everything that was fetched. */
export function useSignOut() {
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: async () => unwrap(await api.DELETE('/api/session')),
    onSuccess: (session) => {
      rememberCsrfToken(session.csrf_token);
      forgetSession();
      import('../roadside/acts').then((acts) => acts.forgetFetched()).catch(() => undefined);
      queryClient.clear();
      queryClient.setQueryData(sessionQuery.queryKey, session);
      navigate('/');
    },
  });
}
