import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap } from '../api/client';
import { routesQuery } from '../api/queries';

/** Removes a route on the second tap. */
export function useRemoveRoute(id: string, onDone: () => void) {
  const queryClient = useQueryClient();
  const [asking, setAsking] = useState(false);
  const remove = useMutation({
    mutationFn: async () =>
      unwrap(await api.DELETE('/api/routes/{item_id}', { params: { path: { item_id: id } } })),
    onSuccess: () => {
      queryClient.invalidateQueries({ queryKey: routesQuery.queryKey });
      onDone();
    },
  });
  return {
    asking,
    pending: remove.isPending,
    error: remove.error,
    tap: () => (asking ? remove.mutate() : setAsking(true)),
  };
}
