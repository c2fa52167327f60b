import { useQuery } from '@tanstack/react-query';
import { nowQuery, packsQuery, ridersQuery, routesQuery, vehiclesQuery } from '../api/queries';
import { useReserve } from '../format/useReserve';

/** All the kit that a trip is put together from, and the newest test to begin like. */
export function useKit() {
  const vehicles = useQuery(vehiclesQuery);
  const packs = useQuery(packsQuery);
  const riders = useQuery(ridersQuery);
  const routes = useQuery(routesQuery);
  const now = useQuery(nowQuery);
  const reserve = useReserve();
  const error = vehicles.error ?? packs.error ?? riders.error ?? routes.error;
  const ready = vehicles.data && packs.data && riders.data && routes.data && !now.isPending;
  return {
    error,
    kit: ready
      ? {
          vehicles: vehicles.data,
          packs: packs.data,
          riders: riders.data,
          routes: routes.data,
          newest: now.data,
          reserve,
        }
      : null,
  };
}

export type Kit = NonNullable<ReturnType<typeof useKit>['kit']>;

/** The kit of the newest test, or the first of each: a form that can be asked at once. */
export function usualKit(kit: Kit) {
  const pick = (items: ReadonlyArray<{ id: string; name: string }>, name: string | undefined) =>
    (items.find((item) => item.name === name) ?? items[0])?.id ?? '';
  return {
    vehicle_id: pick(kit.vehicles, kit.newest?.vehicle_name),
    pack_id: pick(kit.packs, kit.newest?.pack_name),
    rider_id: pick(kit.riders, kit.newest?.rider_name),
    route_id: kit.routes[0]?.id ?? '',
  };
}
