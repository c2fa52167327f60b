import { isListOfWords, remember, remembered } from '../device/remembered';
import type { Ride } from '../roadside/ride';

/** Names that are offered again: those of this ride first, then those of earlier ones. */
const MOST_WORDS = 12;

const key = (of: 'place' | 'mode', ride: Ride) =>
  // A mode is a vehicle's; a place is where it was.
  of === 'mode' ? `limpet-modes-${ride.vehicle_name}` : 'limpet-places';

/** Places and modes by name, the newest first: the same word is the same place. */
export function knownWords(ride: Ride, of: 'place' | 'mode'): string[] {
  const own = ride.entries.flatMap((entry) => entry[of] ?? []).reverse();
  const before = remembered(key(of, ride), isListOfWords) ?? [];
  const all = [...new Set([...own, ...before])].slice(0, MOST_WORDS);
  if (own.length > 0) remember(key(of, ride), all);
  return all;
}
