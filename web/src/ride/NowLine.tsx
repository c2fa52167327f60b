import { agoText, percent } from '../format/units';
import type { Ride } from '../roadside/ride';
import type { Link } from '../roadside/sender';
import { againstForecast, bandOf } from '../tideline/band';
import classes from './Ride.module.css';
import type { Shown } from './shown';

interface NowLineProps {
  ride: Ride;
  shown: Shown;
  link: Link;
  onOpen: () => void;
}

/** A longer line than this is set smaller, so that it stays on two lines of a phone. */
const LONG = 28;

/** The one line that matters now; a tap tells why, and what else could be done. */
export function NowLine({ ride, shown, link, onOpen }: NowLineProps) {
  const { plan } = ride;
  const stands =
    shown.strip && plan?.answer && shown.state === 'now'
      ? againstForecast(bandOf(plan.answer.forecast), shown.strip)
      : null;
  const more = shown.follow !== null || shown.standing !== null;
  return (
    <div role="status">
      <button type="button" className={classes.now} disabled={!more} onClick={onOpen}>
        <b data-long={shown.headline.length > LONG || undefined}>{shown.headline}</b>
        <span>{shown.under}</span>
        {shown.questioned && <span>It depends on a reading that is questioned below</span>}
        {shown.moved && <span data-moved>{shown.moved}</span>}
        <span data-source>{sourceWords(shown, link)}</span>
        {stands && (
          <span>
            {percent(stands.left)} left, forecast {percent(stands.low)} to {percent(stands.high)}:{' '}
            {stands.words}
          </span>
        )}
        {shown.next && <span>{shown.next}</span>}
        {more && <span className="visually-hidden">Why, and what else?</span>}
      </button>
    </div>
  );
}

/** Whose answer it is and how old: an answer that does not know the last entry says so. */
export function sourceWords(shown: Shown, link: Link): string {
  const age = ageWords(shown.asOf);
  if (shown.state === 'now') return `With your last entry, ${age}`;
  if (shown.state === 'device') {
    if (shown.startValues) return 'Worked out on this phone from start values: a wide guess';
    return shown.asOf > 0
      ? `Worked out on this phone, last answer ${age}`
      : 'Worked out on this phone';
  }
  if (shown.state === 'older') {
    return `From ${age}, before what you just noted · ${WAITS[link]}`;
  }
  return '';
}

const WAITS: Record<Link, string> = {
  well: 'working it out',
  silent: 'no signal',
  failing: 'the server has a problem',
  signed_out: 'signed out',
};

/** An age in words; what is under a minute old is of just now. */
export function ageWords(asOf: number): string {
  return agoText((Date.now() - asOf) / 1000);
}
