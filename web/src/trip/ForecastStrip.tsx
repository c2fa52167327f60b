import type { Forecast, Preview, Units } from '../api/queries';
import { distance, distanceText, number, percent } from '../format/units';
import { bandOf, emptyStrip, type Flag } from '../tideline/band';
import { Tideline } from '../tideline/Tideline';
import { say } from '../words/en/trip.ftl';

interface ForecastStripProps {
  forecast: Forecast;
  units: Units;
  schedule?: Preview['schedule'];
  enoughM?: number | null;
  /** How far the drawing reaches, where several stand on one scale. */
  lengthM?: number;
}

/** The tideline of a trip: all band, with the places that matter. */
export function ForecastStrip(props: ForecastStripProps) {
  const { forecast, units, schedule, enoughM, lengthM } = props;
  const { route, turn_point: turn } = forecast;
  const text = (word: string, metres: number) => `${word} ${number(distance(metres, units), 1)}`;
  const flags: Flag[] = [
    { distance_m: route.distance_m, text: text(say('trip-ends'), route.distance_m), weight: 3 },
    ...(turn && turn.distance_m < route.distance_m
      ? [{ distance_m: turn.distance_m, text: text(say('turn-by'), turn.distance_m), weight: 4 }]
      : []),
    ...(enoughM != null
      ? [{ distance_m: enoughM, text: text(say('enough'), enoughM), weight: 2 }]
      : []),
    ...(schedule?.entries ?? []).map((entry) => ({
      distance_m: entry.distance_m,
      text: '',
      weight: 1,
    })),
  ];
  return (
    <Tideline
      strip={emptyStrip(forecast)}
      band={bandOf(forecast)}
      flags={flags}
      units={units}
      height={210}
      {...(lengthM === undefined ? {} : { lengthM })}
      label={say('tideline-of-the-forecast-of', {
        distance_m: distanceText(route.distance_m, units),
        energy_left_fraction: percent(route.energy_left_fraction.value),
        range_to_cutoff: distanceText(forecast.range_to_cutoff.value, units),
      })}
    />
  );
}
