import { api, unwrap } from '../api/client';
import { say } from '../words/en/compare.ftl';

/** The tests that a comparison is chosen from. */
export const newestQuery = {
  queryKey: ['tests', say('to-compare')],
  queryFn: async () => unwrap(await api.GET('/api/tests', { params: { query: { most: 100 } } })),
};
