import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { api, rememberCsrfToken, unwrap } from '../api/client';
import { sessionQuery } from '../api/queries';
import { sayDone, sayTrouble } from '../ui/notes';
import { say } from '../words/en/account.ftl';

/** Sets the demo back to new and forgets everything that was fetched of the old one. */
export function useRenewDemo() {
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: async () => unwrap(await api.POST('/api/session/demo/renew')),
    onSuccess: (session) => {
      rememberCsrfToken(session.csrf_token);
      // Its rides are gone, and with them what waited to be sent to them.
      import('../roadside/acts')
        .then((acts) => Promise.all([acts.forgetFetched(), acts.forgetDone()]))
        .catch(() => undefined);
      queryClient.clear();
      queryClient.setQueryData(sessionQuery.queryKey, session);
      navigate('/logbook');
      sayDone(say('the-demo-is-reset'));
    },
    onError: (error) => sayTrouble(error.message),
  });
}
