import { useQuery } from '@tanstack/react-query';
import { useLiveQuery } from 'dexie-react-hooks';
import { api, unwrap } from '../api/client';
import { isDue } from '../api/queries';
import { actsOf, whoIsHere } from './acts';
import { keepTold } from './kept';
import { type Ride, rideOf } from './ride';
import { store } from './store';

/** How often a ride under way is asked for again: somebody else may be logging it too [ms]. */
const ASK_MS = 20_000;
const DUE_MS = 1500;

/** A ride as this device has it; asks the server for the rest and keeps that here too. */
export function useRide(testId: string): {
  ride: Ride | null;
  pending: boolean;
  error: Error | null;
} {
  const here = useLiveQuery(async () => {
    const who = await whoIsHere();
    const [kept, acts] = await Promise.all([store.rides.get(testId), actsOf(testId)]);
    const own = acts.filter((act) => act.owner === who || act.owner === '');
    return { ride: rideOf(testId, kept?.owner === who ? kept : undefined, own) };
  }, [testId]);
  const unknown = here?.ride?.unsent.some((act) => act.kind === 'start') ?? false;
  // The strip of a ride that has ended is worked out in the background; under way nobody asks for a result.
  const due = here?.ride?.state === 'ended' && here.ride.detail !== null && isDue(here.ride.detail);
  const told = useQuery({
    queryKey: ['tests', testId, 'ride'],
    queryFn: () => ask(testId),
    // What the server has not heard of cannot be asked for.
    enabled: here !== undefined && !unknown,
    refetchInterval: due ? DUE_MS : here?.ride?.state === 'ended' ? false : ASK_MS,
    retry: false,
    gcTime: 0,
  });
  return {
    ride: here?.ride ?? null,
    pending: here === undefined || (here.ride === null && told.isFetching),
    error: told.error,
  };
}

async function ask(testId: string): Promise<number> {
  const askedAt = Date.now();
  const params = { path: { test_id: testId } };
  // Nobody waits at the roadside for a result that the ride does not show.
  const asKept = { ...params, query: { kept: true } };
  const [detail, plan] = await Promise.all([
    api.GET('/api/tests/{test_id}', { params: asKept }),
    api.GET('/api/tests/{test_id}/plan', { params }),
  ]);
  await keepTold(await whoIsHere(), testId, unwrap(detail), unwrap(plan), askedAt);
  return askedAt;
}
