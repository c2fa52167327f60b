import type { Plan, TestDetail, Units } from '../api/queries';
import { percent } from '../format/units';
import { againstForecast, bandOf } from '../tideline/band';
import { plannedWords } from './planned';
import classes from './Ride.module.css';

interface PlannedLineProps {
  plan: Plan;
  test: TestDetail;
  units: Units;
}

/** What the plan says now: turn by, next entry, enough at; and how the ride stands to it. */
export function PlannedLine({ plan, test, units }: PlannedLineProps) {
  const words = plannedWords(plan, test, units);
  const stands =
    test.strip == null || plan.answer === null
      ? null
      : againstForecast(bandOf(plan.answer.forecast), test.strip);
  return (
    <div className={classes.now} role="status">
      <b>{words.headline}</b>
      <span>{words.under}</span>
      {stands && (
        <span style={{ display: 'block' }}>
          {percent(stands.left)} left, forecast {percent(stands.low)} – {percent(stands.high)}:{' '}
          {stands.words}
        </span>
      )}
    </div>
  );
}
