import type { Forecast, Units } from '../api/queries';
import { chance, distanceText, elapsed, percent } from '../format/units';
import classes from '../ui/Desk.module.css';

interface ForecastHeadlineProps {
  forecast: Forecast;
  units: Units;
  pending: boolean;
}

/** The answer as one sentence. */
export function ForecastHeadline({ forecast, units, pending }: ForecastHeadlineProps) {
  const { route } = forecast;
  const chances = chance(route.arrives_probability);
  // It opens the sentence: "over 99%" begins with a capital there.
  const sure = `${chances.charAt(0).toUpperCase()}${chances.slice(1)}`;
  const way =
    route.laps == null
      ? distanceText(route.distance_m, units)
      : `${route.laps} ${route.laps === 1 ? 'lap' : 'laps'}, ${distanceText(route.distance_m, units)},`;
  return (
    <p className={`${classes.headline} ${pending ? classes.pending : ''}`} aria-live="polite">
      <b>{sure} sure</b> to ride {way} in {elapsed(route.duration_s.value)} and keep{' '}
      {percent(forecast.reserve)}
      {route.reaches_probability - route.arrives_probability > 0.005
        ? `; ${chance(route.reaches_probability)} to get there at all`
        : ''}
      .
    </p>
  );
}
