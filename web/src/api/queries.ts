import { queryOptions } from '@tanstack/react-query';
import { api, rememberCsrfToken, type Schemas, unwrap } from './client';

export type Session = Schemas['SessionOut'];
export type Units = Schemas['Units'];
export type TestRow = Schemas['TestRow'];
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

export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async () => {
    const session = unwrap(await api.GET('/api/session'));
    rememberCsrfToken(session.csrf_token);
    return session;
  },
  staleTime: Number.POSITIVE_INFINITY,
});

export const testsQuery = queryOptions({
  queryKey: ['tests'],
  queryFn: async () => unwrap(await api.GET('/api/tests')),
});

export const testQuery = (testId: string) =>
  queryOptions({
    queryKey: ['tests', testId],
    queryFn: async () =>
      unwrap(await api.GET('/api/tests/{test_id}', { params: { path: { test_id: testId } } })),
  });

export interface Span {
  from_s: number;
  to_s: number;
}

export const tracesQuery = (testId: string, span: Span | null) =>
  queryOptions({
    queryKey: ['tests', testId, 'traces', span],
    queryFn: async () =>
      unwrap(
        await api.GET('/api/tests/{test_id}/traces', {
          params: { path: { test_id: testId }, query: span ?? {} },
        }),
      ),
    placeholderData: (previous) => previous,
  });

export const vehiclesQuery = queryOptions({
  queryKey: ['vehicles'],
  queryFn: async () => unwrap(await api.GET('/api/vehicles')),
});

export const packsQuery = queryOptions({
  queryKey: ['packs'],
  queryFn: async () => unwrap(await api.GET('/api/packs')),
});

export const ridersQuery = queryOptions({
  queryKey: ['riders'],
  queryFn: async () => unwrap(await api.GET('/api/riders')),
});
