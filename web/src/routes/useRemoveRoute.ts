import { api, unwrap } from '../api/client';
import { type Route, routesQuery } from '../api/queries';
import { useRemoval } from '../ui/useRemoval';
import { say } from '../words/en/routes.ftl';

/** Removes a route; its file and its profile come back with Undo. */
export function useRemoveRoute(route: Pick<Route, 'id' | 'name'> | null, onDone: () => void) {
  const params = { path: { item_id: route?.id ?? '' } };
  return useRemoval({
    what: route?.name ?? say('the-route'),
    remove: async () => unwrap(await api.DELETE('/api/routes/{item_id}', { params })),
    restore: async () => unwrap(await api.POST('/api/routes/{item_id}/restore', { params })),
    lists: [routesQuery.queryKey],
    onDone,
  });
}
