import { Link } from 'react-router';
import { messages } from '../../../src/limpet/notices/en/lessons.ftl';
import type { Schemas } from '../api/client';
import type { Units } from '../api/queries';
import { speaker } from '../format/fill';
import { distanceText, percent } from '../format/units';
import rideClasses from '../ride/Ride.module.css';
import { say } from '../words/en/practice.ftl';
import { LeftChart } from './LeftChart';
import classes from './Practice.module.css';
import type { Play, Practice } from './play';

type ReviewOut = Schemas['ReviewOut'];

interface ReviewProps {
  practice: Practice;
  play: Play;
  review: ReviewOut;
  units: Units;
  onAgain: () => void;
}

const STATES = { met: 'kept', missed: 'missed', untried: say('not-tried') } as const;

const line = speaker(messages);

/** The log beside the truth: the turn, what was known when, what slips cost, and the five lessons. */
export function Review({ practice, play, review, units, onAgain }: ReviewProps) {
  return (
    <div className={classes.review}>
      <h1>{headline(play, practice, review, units)}</h1>
      <p>{turnWords(review, units)}</p>
      <p>{rangeWords(review, units)}</p>
      <h2>{say('what-you-knew-and-what')}</h2>
      <LeftChart practice={practice} play={play} told={review.told} units={units} />
      <div className={classes.table}>
        <table>
          <thead>
            <tr>
              <th scope="col">{say('entry-at')}</th>
              <th scope="col">{say('left-as-known')}</th>
              <th scope="col">{say('truly-act')}</th>
              <th scope="col">{say('turn-by')}</th>
            </tr>
          </thead>
          <tbody>
            {review.told.map((one) => (
              <tr key={one.time_s}>
                <th scope="row">{distanceText(one.distance_m, units)}</th>
                <td>
                  {say('low-to-high', { low: percent(one.left.low), high: percent(one.left.high) })}
                </td>
                <td>{percent(one.left_truly)}</td>
                <td>{one.turn_by_m === null ? '–' : distanceText(one.turn_by_m, units)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <h2>{say('what-readings-cost')}</h2>
      {review.costs.length === 0 ? (
        <p>{say('nothing-was-rushed-mistaken-or')}</p>
      ) : (
        <ul className={classes.lessons}>
          {review.costs.map((cost) => (
            <li key={`${cost.code} ${cost.values.at_m}`}>
              {line(cost.code, cost.values, units)}.
              <b>
                {say('energy-left-as-it-should', {
                  half: percent(cost.half),
                  with_half: percent(cost.with_half),
                  off: percent(Math.abs(cost.off)),
                  with_off: percent(Math.abs(cost.with_off)),
                })}
              </b>
            </li>
          ))}
        </ul>
      )}
      <h2>{say('five-lessons')}</h2>
      <ol className={classes.lessons}>
        {review.lessons.map((lesson) => {
          const said = (part: string) => line(`${lesson.code}_${part}`, lesson.values, units);
          return (
            <li key={lesson.code}>
              <b>
                {said('title')}: {STATES[lesson.state]}
              </b>
              {said(lesson.state)}
            </li>
          );
        })}
      </ol>
      <div className={classes.keys}>
        <button type="button" className={rideClasses.action} onClick={onAgain}>
          {say('ride-it-again')}
        </button>
        <Link to="/ride">{say('log-a-real-one')}</Link>
      </div>
    </div>
  );
}

function headline(play: Play, practice: Practice, review: ReviewOut, units: Units): string {
  if (review.home) return say('home-with-left', { left_truly: percent(review.left_truly) });
  if (!review.over)
    return say('ended-after-distance-m', { distance_m: distanceText(review.distance_m, units) });
  const turned = play.way === null ? 0 : (practice.ways[play.way]?.turn_m ?? 0);
  return say('stranded-from-home', {
    turned: distanceText(Math.max(2 * turned - review.distance_m, 0), units),
  });
}

function turnWords({ turn }: ReviewOut, units: Units): string {
  const turned =
    turn.turned_m === null
      ? say('you-did-not-turn')
      : say('you-turned-at', { turned_m: distanceText(turn.turned_m, units) });
  return say('with-in-reserve-you-had', {
    turned,
    reserve: percent(turn.reserve),
    last_kept_m: distanceText(turn.last_kept_m, units),
    last_home_m: distanceText(turn.last_home_m, units),
  });
}

function rangeWords(review: ReviewOut, units: Units): string {
  const truly = distanceText(review.range_truly_m, units);
  const found = review.range_to_cutoff;
  if (found === null) return say('your-log-gives-no-range', { truly });
  return say('your-log-gives-a-range', {
    low: distanceText(found.low, units),
    high: distanceText(found.high, units),
    truly,
  });
}
