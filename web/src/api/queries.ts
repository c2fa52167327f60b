import { infiniteQueryOptions, queryOptions } from '@tanstack/react-query';
import { api, rememberCsrfToken, type Schemas, unwrap } from './client';
import { keeping } from './keeping';
import type { paths } from './schema';
import { rememberedSession, rememberSession } from './session';

export type Session = Schemas['SessionOut'];
export type Units = Schemas['Units'];
export type TestRow = Schemas['TestRow'];
export type TestFound = Schemas['TestFound'];
export type Now = Schemas['NowOut'];
export type TestDetail = Schemas['TestDetail'];
export type Entry = Schemas['EntryOut'];
export type EntryKind = Entry['kind'];
export type Result = Schemas['ResultOut'];
export type Method = Schemas['MethodOut'];
export type Quantity = Schemas['QuantityOut'];
export type Strip = Schemas['StripOut'];
export type Figures = Schemas['FiguresOut'];
export type Traces = Schemas['TracesOut'];
export type Vehicle = Schemas['VehicleOut'];
export type Pack = Schemas['PackOut'];
export type Rider = Schemas['RiderOut'];
export type Route = Schemas['RouteOut'];
export type Leg = Schemas['LegOut'];
export type TripIn = Schemas['TripIn'];
export type PlanIn = Schemas['PlanIn'];
export type Forecast = Schemas['ForecastOut'];
export type Preview = Schemas['PreviewOut'];
export type Rules = Schemas['RulesOut'];
export type Plan = Schemas['PlanOut'];
export type PlanRow = Schemas['PlanRow'];
export type Claim = Schemas['ClaimOut'];
export type Follow = Schemas['FollowOut'];
export type FollowTable = Schemas['FollowTableOut'];

/** Asked once at the start and hardly again: it changes with what is done here. */
const SESSION_HOURS = 12;

export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async () => {
    const session = unwrap(await api.GET('/api/session'));
    rememberCsrfToken(session.csrf_token);
    const before = rememberedSession();
    // Nobody is signed in any more: until they are again, the page speaks their units.
    if (session.username === null && before !== null) {
      return { ...session, units: before.units, reserve: before.reserve };
    }
    rememberSession(session);
    return session;
  },
  staleTime: SESSION_HOURS * 3600_000,
  gcTime: Number.POSITIVE_INFINITY,
  // Without a signal the page opens for whoever was here last.
  initialData: () => rememberedSession() ?? undefined,
  initialDataUpdatedAt: 0,
});

/** What the logbook may be asked for, beside the place to go on from. */
export type TestFilter = Omit<
  NonNullable<paths['/api/tests']['get']['parameters']['query']>,
  'after' | 'most'
>;

/** Everything that is known of tests: forgotten together when one changes. */
export const TESTS_KEY = ['tests'] as const;

/** Whether a result is still to come. */
export const isDue = (row: Pick<TestRow, 'computed'>) =>
  row.computed === 'waiting' || row.computed === 'computing';

/** The logbook, some rows at a time. */
export const testsQuery = (filter: TestFilter) =>
  infiniteQueryOptions({
    queryKey: [...TESTS_KEY, 'list', filter],
    queryFn: async ({ pageParam }) =>
      unwrap(await api.GET('/api/tests', { params: { query: { ...filter, after: pageParam } } })),
    initialPageParam: '',
    getNextPageParam: (last) => last.next,
    // Comparing all strips of all pages with themselves takes longer than drawing the new rows.
    structuralSharing: false,
    placeholderData: (previous) => previous,
    // Rows that wait for the worker are looked at again until it has been there.
    refetchInterval: (query) =>
      query.state.data?.pages.some((page) => page.items.some((row) => isDue(row))) ? 3000 : false,
  });

/** Rides under way and the newest kit: what a form begins with. */
export const nowQuery = queryOptions({
  queryKey: [...TESTS_KEY, 'now'],
  queryFn: () => keeping('now', async () => unwrap(await api.GET('/api/tests/now'))),
});

/** The demo's test to begin with, which is tagged so; null without one. */
export const walkQuery = queryOptions({
  queryKey: [...TESTS_KEY, 'walk'],
  queryFn: async () => {
    const query = { tag: 'start here', most: 1 };
    return unwrap(await api.GET('/api/tests', { params: { query } })).items[0] ?? null;
  },
});

/** Tests by some words of theirs. */
export const findQuery = (words: string) =>
  queryOptions({
    queryKey: [...TESTS_KEY, 'find', words],
    queryFn: async () => unwrap(await api.GET('/api/tests/find', { params: { query: { words } } })),
    placeholderData: (previous) => previous,
  });

export const testQuery = (testId: string) =>
  queryOptions({
    queryKey: ['tests', testId],
    queryFn: () =>
      keeping(`test ${testId}`, async () =>
        unwrap(await api.GET('/api/tests/{test_id}', { params: { path: { test_id: testId } } })),
      ),
    // Somebody else computes it just now: looked at again until it is there.
    refetchInterval: (query) => (query.state.data && isDue(query.state.data) ? 1000 : false),
  });

export interface Span {
  from_s: number;
  to_s: number;
}

export const tracesQuery = (testId: string, span: Span | null, channels: readonly string[] = []) =>
  queryOptions({
    queryKey: ['tests', testId, 'traces', span, channels],
    queryFn: () => {
      const ask = async () =>
        unwrap(
          await api.GET('/api/tests/{test_id}/traces', {
            params: {
              path: { test_id: testId },
              query: { ...span, ...(channels.length > 0 ? { channels: channels.join(',') } : {}) },
            },
          }),
        );
      // Parts of a ride are many; the whole of it is at hand without a signal.
      return span === null && channels.length === 0 ? keeping(`test ${testId} traces`, ask) : ask();
    },
    placeholderData: (previous) => previous,
  });

export type Account = Schemas['AccountOut'];

/** The account as its rider sees it. */
export const accountQuery = queryOptions({
  queryKey: ['account'],
  queryFn: async () => unwrap(await api.GET('/api/account')),
});

/** How this Limpet is taken to a phone. */
export const phoneQuery = queryOptions({
  queryKey: ['phone'],
  queryFn: async () => unwrap(await api.GET('/api/phone')),
});

export const vehiclesQuery = queryOptions({
  queryKey: ['vehicles'],
  queryFn: () => keeping('vehicles', async () => unwrap(await api.GET('/api/vehicles'))),
});

export const packsQuery = queryOptions({
  queryKey: ['packs'],
  queryFn: () => keeping('packs', async () => unwrap(await api.GET('/api/packs'))),
});

export const ridersQuery = queryOptions({
  queryKey: ['riders'],
  queryFn: () => keeping('riders', async () => unwrap(await api.GET('/api/riders'))),
});

export const routesQuery = queryOptions({
  queryKey: ['routes'],
  queryFn: () => keeping('routes', async () => unwrap(await api.GET('/api/routes'))),
});

/** The practice ride and all that can happen on it; it changes only with the application. */
export const practiceQuery = queryOptions({
  queryKey: ['practice'],
  queryFn: () => keeping('practice', async () => unwrap(await api.GET('/api/practice'))),
  staleTime: Number.POSITIVE_INFINITY,
});

/** The eight questions with their rules; they change only with the application. */
export const rulesQuery = queryOptions({
  queryKey: ['rules'],
  queryFn: () => keeping('rules', async () => unwrap(await api.GET('/api/rules'))),
  staleTime: Number.POSITIVE_INFINITY,
});

export const plansQuery = queryOptions({
  queryKey: ['plans'],
  queryFn: () => keeping('plans', async () => unwrap(await api.GET('/api/plans'))),
});

export const planQuery = (planId: string) =>
  queryOptions({
    queryKey: ['plans', planId],
    queryFn: () =>
      keeping(`plan ${planId}`, async () =>
        unwrap(await api.GET('/api/plans/{plan_id}', { params: { path: { plan_id: planId } } })),
      ),
  });

/** How far a vehicle, a pack and a rider go by speed, air and terrain. */
export const tidesQuery = (vehicleId: string, packId: string, riderId: string) =>
  queryOptions({
    queryKey: [...TESTS_KEY, 'tides', vehicleId, packId, riderId],
    staleTime: 10 * 60_000,
    queryFn: async () =>
      unwrap(
        await api.GET('/api/tidetable', {
          params: {
            query: { vehicle_id: vehicleId, pack_id: packId, rider_id: riderId || null },
          },
        }),
      ),
  });

/** Which tests can tell what one wants to know. */
export const offersQuery = (question: Question | null) =>
  queryOptions({
    queryKey: [...TESTS_KEY, 'offers', question],
    enabled: question !== null,
    queryFn: async () =>
      unwrap(
        await api.GET('/api/compare/offers', {
          params: { query: { question: question ?? 'repeat' } },
        }),
      ),
  });

/** Who guesses best over several rides. */
export const wagersQuery = queryOptions({
  queryKey: ['plans', 'wagers'],
  queryFn: async () => unwrap(await api.GET('/api/plans/wagers')),
});

/** The rides of a series that settles a comparison. */
export const seriesQuery = (seriesId: string) =>
  queryOptions({
    queryKey: ['plans', 'series', seriesId],
    queryFn: async () =>
      unwrap(
        await api.GET('/api/plans/series/{series_id}', {
          params: { path: { series_id: seriesId } },
        }),
      ),
  });

/** How a ride of a plan would stand before its first metre, with its table for where there is no signal. */
export const planFollowQuery = (planId: string) =>
  queryOptions({
    queryKey: ['plans', planId, 'follow'],
    queryFn: () =>
      keeping(`plan ${planId} follow`, async () =>
        unwrap(
          await api.GET('/api/plans/{plan_id}/follow', { params: { path: { plan_id: planId } } }),
        ),
      ),
    retry: false,
    staleTime: 300_000,
  });

export type Comparison = Schemas['ComparisonOut'];
export type Tides = Schemas['TidesOut'];
export type Question = Comparison['question'];

/** Two sides of tests against each other. */
export const comparisonQuery = (first: string[], second: string[], question: string | null) =>
  queryOptions({
    queryKey: ['tests', 'compare', first, second, question],
    queryFn: async () => {
      const query = { first, second, ...(question ? { question: question as Question } : {}) };
      return unwrap(await api.GET('/api/compare', { params: { query } }));
    },
    retry: false,
  });

/** The plan that a test was begun from, or null; how its guesses came out is told once the result is there. */
export const planOfTestQuery = (testId: string, computed: TestDetail['computed'] | undefined) =>
  queryOptions({
    queryKey: ['tests', testId, 'plan', computed === 'fresh'],
    placeholderData: (previous) => previous,
    queryFn: async () =>
      unwrap(await api.GET('/api/tests/{test_id}/plan', { params: { path: { test_id: testId } } })),
  });

/** A trip's forecast: asked for again with every change, the last answer staying until then. */
export const forecastQuery = (body: TripIn) =>
  queryOptions({
    queryKey: ['forecast', body],
    queryFn: async () => unwrap(await api.POST('/api/forecast', { body })),
    placeholderData: (previous) => previous,
    retry: false,
    staleTime: 60_000,
  });

/** The trips that are kept, to be forecast anew. */
export const tripsQuery = queryOptions({
  queryKey: ['trips'],
  queryFn: async () => unwrap(await api.GET('/api/trips')),
});

export const previewQuery = (body: PlanIn) =>
  queryOptions({
    queryKey: ['preview', body],
    queryFn: async () => unwrap(await api.POST('/api/plans/preview', { body })),
    placeholderData: (previous) => previous,
    retry: false,
    staleTime: 60_000,
  });

export const claimsQuery = queryOptions({
  queryKey: ['claims'],
  queryFn: async () => unwrap(await api.GET('/api/claims')),
});

/** What is taken where nobody says, as this account takes it. */
export const assumptionsQuery = queryOptions({
  queryKey: ['assumptions'],
  queryFn: async () => unwrap(await api.GET('/api/assumptions')),
});

/** A pack out of a rider's words. */
export const packSaidQuery = (words: string) =>
  queryOptions({
    queryKey: ['pack-said', words],
    queryFn: async () =>
      unwrap(await api.GET('/api/packs/understood', { params: { query: { text: words } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
