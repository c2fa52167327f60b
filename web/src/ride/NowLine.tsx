import { agoText, percent } from '../format/units';
import type { Ride } from '../roadside/ride';
import type { Link } from '../roadside/sender';
import { againstForecast, bandOf } from '../tideline/band';
import { say } from '../words/en/ride.ftl';
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
        {shown.questioned && <span>{say('it-depends-on-a-reading')}</span>}
        {shown.moved && <span data-moved>{shown.moved}</span>}
        <span data-source>{sourceWords(shown, link)}</span>
        {stands && (
          <span>
            {say('left-forecast-to', {
              left: percent(stands.left),
              low: percent(stands.low),
              high: percent(stands.high),
              words: stands.words,
            })}
          </span>
        )}
        {shown.next && <span>{shown.next}</span>}
        {more && <span className="visually-hidden">{say('why-and-what-else')}</span>}
      </button>
    </div>
  );
}

/** Whose answer it is and how old: an answer that does not know the last entry says so. */
export function sourceWords(shown: Shown, link: Link): string {
  const age = ageWords(shown.asOf);
  if (shown.state === 'now') return say('with-your-last-entry', { age });
  if (shown.state === 'device') {
    if (shown.startValues) return say('worked-out-on-this-phone');
    return shown.asOf > 0
      ? say('worked-out-on-this-phone-last-answer', { age })
      : say('worked-out-here');
  }
  if (shown.state === 'older') {
    return say('from-before-what-you-just', { age, waits: WAITS[link] });
  }
  return '';
}

const WAITS: Record<Link, string> = {
  well: say('working-it-out'),
  silent: say('no-signal'),
  failing: say('the-server-has-a-problem'),
  signed_out: say('signed-out'),
};

/** An age in words; what is under a minute old is of just now. */
export function ageWords(asOf: number): string {
  return agoText((Date.now() - asOf) / 1000);
}
