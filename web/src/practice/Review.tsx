import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import core from '../api/practice.json';
import type { Units } from '../api/queries';
import { fill } from '../format/fill';
import { distanceText, percent } from '../format/units';
import rideClasses from '../ride/Ride.module.css';
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

const STATES = { met: 'kept', missed: 'missed', untried: 'not tried' } as const;

/** The log beside the truth: the turn, what was known when, what slips cost, and the five lessons. */
export function Review({ practice, play, review, units, onAgain }: ReviewProps) {
  return (
    <div className={classes.review}>
      <h1>{headline(play, practice, review, units)}</h1>
      <p>{turnWords(review, units)}</p>
      <p>{rangeWords(review, units)}</p>
      <h2>What you knew, and what was true</h2>
      <LeftChart practice={practice} play={play} told={review.told} units={units} />
      <div className={classes.table}>
        <table>
          <thead>
            <tr>
              <th scope="col">entry at</th>
              <th scope="col">left, as known</th>
              <th scope="col">truly</th>
              <th scope="col">turn by</th>
            </tr>
          </thead>
          <tbody>
            {review.told.map((one) => (
              <tr key={one.time_s}>
                <th scope="row">{distanceText(one.distance_m, units)}</th>
                <td>
                  {percent(one.left.low)} to {percent(one.left.high)}
                </td>
                <td>{percent(one.left_truly)}</td>
                <td>{one.turn_by_m === null ? '–' : distanceText(one.turn_by_m, units)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <h2>What readings cost</h2>
      {review.costs.length === 0 ? (
        <p>Nothing was rushed, mistaken or forgotten.</p>
      ) : (
        <ul className={classes.lessons}>
          {review.costs.map((cost) => (
            <li key={`${cost.code} ${cost.values.at_m}`}>
              {fill(core.costs[cost.code], cost.values, units)}.
              <b>
                Energy left ±{percent(cost.half)}; as it should be ±{percent(cost.with_half)}. Off
                by {percent(Math.abs(cost.off))}, then {percent(Math.abs(cost.with_off))}.
              </b>
            </li>
          ))}
        </ul>
      )}
      <h2>Five lessons</h2>
      <ol className={classes.lessons}>
        {review.lessons.map((lesson) => {
          const words = core.lessons[lesson.code];
          return (
            <li key={lesson.code}>
              <b>
                {words.title}: {STATES[lesson.state]}
              </b>
              {fill(words[lesson.state], lesson.values, units)}
            </li>
          );
        })}
      </ol>
      <div className={classes.keys}>
        <button type="button" className={rideClasses.action} onClick={onAgain}>
          Ride it again
        </button>
        <Link to="/ride">Log a real one</Link>
      </div>
    </div>
  );
}

function headline(play: Play, practice: Practice, review: ReviewOut, units: Units): string {
  if (review.home) return `Home with ${percent(review.left_truly)} left.`;
  if (!review.over) return `Ended after ${distanceText(review.distance_m, units)}.`;
  const turned = play.way === null ? 0 : (practice.ways[play.way]?.turn_m ?? 0);
  return `Stranded ${distanceText(Math.max(2 * turned - review.distance_m, 0), units)} from home.`;
}

function turnWords({ turn }: ReviewOut, units: Units): string {
  const turned =
    turn.turned_m === null
      ? 'You did not turn.'
      : `You turned at ${distanceText(turn.turned_m, units)}.`;
  return `${turned} With ${percent(turn.reserve)} in reserve you had to turn at ${distanceText(turn.last_kept_m, units)}; from ${distanceText(turn.last_home_m, units)} you would have got home with nothing left.`;
}

function rangeWords(review: ReviewOut, units: Units): string {
  const truly = distanceText(review.range_truly_m, units);
  const found = review.range_to_cutoff;
  if (found === null) return `Your log gives no range; in truth it was ${truly}, ridden like this.`;
  return `Your log gives a range of ${distanceText(found.low, units)} to ${distanceText(found.high, units)}; in truth it was ${truly}, ridden like this. This vehicle’s trip meter reads high.`;
}
