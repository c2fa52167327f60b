import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, unwrap } from '../api/client';
import { TESTS_KEY } from '../api/queries';

export type VehicleLife = Schemas['VehiclePage'];
export type PackLife = Schemas['PackPage'];
export type RiderLife = Schemas['RiderPage'];
export type Copy = Schemas['CopyOut'];

/** Lives follow the tests: what changes a test changes them. */
const key = (shelf: string, id: string) => [...TESTS_KEY, 'life', shelf, id] as const;
const params = (id: string) => ({ params: { path: { item_id: id } } });

export const vehicleLifeQuery = (id: string) =>
  queryOptions({
    queryKey: key('vehicles', id),
    queryFn: async () => unwrap(await api.GET('/api/vehicles/{item_id}/life', params(id))),
  });

export const packLifeQuery = (id: string) =>
  queryOptions({
    queryKey: key('packs', id),
    queryFn: async () => unwrap(await api.GET('/api/packs/{item_id}/life', params(id))),
  });

export type Seasons = Schemas['SeasonsPage'];

export const seasonsQuery = (id: string) =>
  queryOptions({
    queryKey: [...key('vehicles', id), 'seasons'],
    queryFn: async () => unwrap(await api.GET('/api/vehicles/{item_id}/seasons', params(id))),
  });

export const riderLifeQuery = (id: string) =>
  queryOptions({
    queryKey: key('riders', id),
    queryFn: async () => unwrap(await api.GET('/api/riders/{item_id}/life', params(id))),
  });

/** Tests that hold a piece of kit otherwise than it is now. */
export const copiesQuery = (shelf: 'vehicle' | 'pack' | 'rider', id: string) =>
  queryOptions({
    queryKey: [...TESTS_KEY, 'copies', shelf, id],
    queryFn: async () =>
      unwrap(
        await api.GET('/api/tests/kit/{shelf}/{item_id}', {
          params: { path: { shelf, item_id: id } },
        }),
      ),
    staleTime: 0,
  });
