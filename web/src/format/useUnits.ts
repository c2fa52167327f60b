import { useQuery } from '@tanstack/react-query';
import { sessionQuery, type Units } from '../api/queries';

const FALLBACK: Units = { distance: 'mi', mass: 'kg', temperature: '°C', pressure: 'kPa' };

/** The units that the signed-in rider reads in. */
export function useUnits(): Units {
  return useQuery(sessionQuery).data?.units ?? FALLBACK;
}
