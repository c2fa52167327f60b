import { elapsed, percent } from '../format/units';
import type { Ride } from '../roadside/ride';
import { againstForecast, bandOf } from '../tideline/band';
import type { Now } from './now';
import classes from './Ride.module.css';

interface NowLineProps {
  ride: Ride;
  now: Now;
  onOpen: () => void;
}

/** The one line that matters now; a tap tells why, and what else could be done. */
export function NowLine({ ride, now, onOpen }: NowLineProps) {
  const { plan, detail } = ride;
  const stands =
    detail?.strip && plan?.answer && ride.state === 'riding'
      ? againstForecast(bandOf(plan.answer.forecast), detail.strip)
      : null;
  const more = ride.state === 'riding' && ride.entries.length > 0;
  return (
    <div role="status">
      <button type="button" className={classes.now} disabled={!more} onClick={onOpen}>
        <b>{now.headline}</b>
        <span>{now.under}</span>
        {isOld(ride, now) && <span>From this device, as {whoseWord(ride)}</span>}
        {stands && (
          <span>
            {percent(stands.left)} left, forecast {percent(stands.low)} – {percent(stands.high)}:{' '}
            {stands.words}
          </span>
        )}
        {now.next && <span>{now.next}</span>}
        {more && <span className="visually-hidden">Why, and what else?</span>}
      </button>
    </div>
  );
}

/** A younger word of the server's is as good as now: the next one is on its way [s]. */
const YOUNG_S = 60;

/** Whether what is said is not the server's word of now. */
export function isOld(ride: Ride, now: Now): boolean {
  if (now.from !== 'table' && now.from !== 'old') return false;
  return now.from === 'table' || Date.now() - ride.followedAt > YOUNG_S * 1000;
}

/** Whose word a table is: the server's at some time of this ride, or the plan's before it. */
function whoseWord(ride: Ride): string {
  return ride.followedAt > 0 ? `the server had it ${ageOf(ride)} ago` : 'it was planned';
}

/** How old the server's word is. */
export function ageOf(ride: Ride): string {
  return elapsed(Math.max((Date.now() - ride.followedAt) / 1000, 0));
}
