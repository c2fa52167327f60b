import type { Forecast, Units } from '../api/queries';
import { chance, distanceText, elapsed, percent } from '../format/units';
import classes from '../ui/Desk.module.css';
import { say } from '../words/en/trip.ftl';
import { Shown } from '../words/Shown';

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
      : say('laps-and-length', { laps: route.laps, length: distanceText(route.distance_m, units) });
  return (
    <p className={`${classes.headline} ${pending ? classes.pending : ''}`} aria-live="polite">
      <Shown
        say={say}
        id="sure-to-ride-in-and"
        values={{
          sure,
          way,
          duration_s: elapsed(route.duration_s.value),
          reserve: percent(forecast.reserve),
          reaches_probability:
            route.reaches_probability - route.arrives_probability > 0.005
              ? say('to-get-there-at-all', {
                  reaches_probability: chance(route.reaches_probability),
                })
              : '',
        }}
        parts={{ b: <b /> }}
      />
    </p>
  );
}
