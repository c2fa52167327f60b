import { useQuery } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import { keepFollowed } from './kept';
import type { Ride } from './ride';

/** Asked again after this while nothing was noted: a track or an instrument may run on [ms]. */
const ASK_MS = 60_000;

/** Has the server judge a ride whenever it knows more of it, and keeps that with its table here. */
export function useFollow(ride: Ride | null): void {
  useQuery({
    queryKey: ['following', ride?.id, ride?.ahead, ride?.revision],
    queryFn: () => ask(ride as Ride),
    enabled: ride !== null && ride.detail !== null && ride.state === 'riding',
    refetchInterval: ASK_MS,
    retry: false,
    staleTime: ASK_MS,
    gcTime: 0,
  });
}

async function ask(ride: Ride): Promise<number> {
  const askedAt = Date.now();
  const { way, ...more } = ride.ahead ?? {};
  const query = { ...more, ...(way ? { way } : {}) };
  const params = { path: { test_id: ride.id }, query };
  const first = unwrap(await api.GET('/api/tests/{test_id}/follow', { params }));
  await keepFollowed(ride.id, ride.ahead, first, askedAt);
  // The answer first: the table is for later, and takes longer.
  const withTable = { ...params, query: { ...query, table: true } };
  const second = unwrap(await api.GET('/api/tests/{test_id}/follow', { params: withTable }));
  await keepFollowed(ride.id, ride.ahead, second, askedAt + 1);
  return askedAt;
}
