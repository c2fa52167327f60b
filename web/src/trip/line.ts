import type { Forecast, Units } from '../api/queries';
import { chance, distanceText, percent } from '../format/units';
import { askable, type TripForm } from './form';

/** What a form comes to so far, in a few words: what is wrong with it, what it lacks, or its answer. */
export function answerLine(
  failure: Error | null,
  form: TripForm,
  forecast: Forecast | undefined,
  units: Units,
): string {
  if (failure) return failure.message;
  if (!askable(form)) return 'Choose a route, or sketch one.';
  return forecast ? forecastLine(forecast, units) : 'Being worked out.';
}

/** A forecast in a few words. */
function forecastLine(forecast: Forecast, units: Units): string {
  const { route } = forecast;
  return `${chance(route.arrives_probability)} sure · ${percent(
    route.energy_left_fraction.value,
  )} left after ${distanceText(route.distance_m, units)}`;
}
