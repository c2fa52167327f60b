import type { Forecast, Units } from '../api/queries';
import { chance, distanceText, percent } from '../format/units';

/** A forecast in a few words. */
export function forecastLine(forecast: Forecast, units: Units): string {
  const { route } = forecast;
  return `${chance(route.arrives_probability)} sure · ${percent(
    route.energy_left_fraction.value,
  )} left after ${distanceText(route.distance_m, units)}`;
}
