import { useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { ApiError, api, unwrap } from '../api/client';
import { packsQuery, vehiclesQuery } from '../api/queries';
import { type KitFields, NEW } from './kitFields';

/** What a name was refused for stands beside the field that this form has for it. */
async function naming(field: string, put: () => Promise<Parameters<typeof unwrap>[0]>) {
  try {
    unwrap(await put());
  } catch (error) {
    if (!(error instanceof ApiError) || error.fields.name === undefined) throw error;
    const { name, ...rest } = error.fields;
    throw new ApiError(error.status, { ...error.problem, fields: { ...rest, [field]: name } });
  }
}

/** Stores what was named in a form and is not in the kit yet; gives the ids to send. */
export function useKitChoice() {
  const queryClient = useQueryClient();
  // One id for each, however often the form is sent: a second try makes no second vehicle.
  const ids = useRef({ vehicle: crypto.randomUUID(), pack: crypto.randomUUID() });
  return async (chosen: KitFields): Promise<{ vehicle_id: string; pack_id: string }> => {
    let { vehicle_id, pack_id } = chosen;
    if (vehicle_id === NEW) {
      vehicle_id = ids.current.vehicle;
      const body = { name: chosen.vehicle_name.trim(), kind: chosen.vehicle_kind } as never;
      const params = { path: { item_id: vehicle_id } };
      await naming('vehicle_name', () => api.PUT('/api/vehicles/{item_id}', { params, body }));
      await queryClient.invalidateQueries({ queryKey: vehiclesQuery.queryKey });
    }
    if (pack_id === NEW) {
      pack_id = ids.current.pack;
      const said = unwrap(
        await api.GET('/api/packs/understood', {
          params: { query: { text: chosen.pack_words.slice(0, 200) } },
        }),
      );
      const body = { name: chosen.pack_name.trim(), ...said.values } as never;
      const params = { path: { item_id: pack_id } };
      await naming('pack_name', () => api.PUT('/api/packs/{item_id}', { params, body }));
      await queryClient.invalidateQueries({ queryKey: packsQuery.queryKey });
    }
    return { vehicle_id, pack_id };
  };
}
