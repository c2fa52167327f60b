import { useQuery } from '@tanstack/react-query';
import { sessionQuery } from '../api/queries';
import { RESERVE } from './fields';

/** What is kept back where nobody says, as the account that is signed in assumes it. */
export function useReserve(): number {
  return useQuery(sessionQuery).data?.reserve ?? RESERVE;
}
