import type { Ride } from '../roadside/ride';
import type { Shown } from './shown';
import type { Tracking } from './useTrack';

/** So far past its own turn a planned way is taken to have been turned on [m]. */
const PAST_TURN_M = 200;

/**
 * Whether to ask if the rider has turned round: the track comes nearer again, the way's own turn is
 * passed, or the line says to turn back and an entry came after that. Nobody is asked who has said so.
 */
export function asksTurned(
  ride: Pick<Ride, 'entries' | 'plan' | 'state' | 'ahead'>,
  shown: Pick<Shown, 'code' | 'state' | 'soFar_m'>,
  tracking: Pick<Tracking, 'comesBack'>,
): boolean {
  if (ride.state === 'ended' || shown.state === 'older') return false;
  if (ride.entries.some((entry) => entry.kind === 'turn')) return false;
  if (ride.ahead !== null && ride.ahead.way !== 'back') return false;
  if (tracking.comesBack) return true;
  const { plan } = ride;
  if (plan?.answer && ride.ahead === null) {
    const half = plan.answer.forecast.route.distance_m / 2;
    return plan.asked.and_back === true && (shown.soFar_m ?? 0) > half + PAST_TURN_M;
  }
  return shown.code === 'turn_now';
}
