import { api, unwrap } from '../api/client';

/** The tests that a comparison is chosen from. */
export const newestQuery = {
  queryKey: ['tests', 'to compare'],
  queryFn: async () => unwrap(await api.GET('/api/tests', { params: { query: { most: 100 } } })),
};
