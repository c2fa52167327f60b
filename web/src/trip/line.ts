import type { Forecast, Units } from '../api/queries';
import { chance, distanceText, percent } from '../format/units';
import { say } from '../words/en/trip.ftl';
import { askable, type TripForm } from './form';

/** What a form comes to so far, in a few words: what is wrong with it, what it lacks, or its answer. */
export function answerLine(
  failure: Error | null,
  form: TripForm,
  forecast: Forecast | undefined,
  units: Units,
): string {
  if (failure) return failure.message;
  if (!askable(form)) return say('choose-a-route-or-sketch');
  return forecast ? forecastLine(forecast, units) : say('being-worked-out');
}

/** A forecast in a few words. */
function forecastLine(forecast: Forecast, units: Units): string {
  const { route } = forecast;
  return say('sure-left-after', {
    arrives_probability: chance(route.arrives_probability),
    energy_left_fraction: percent(route.energy_left_fraction.value),
    distance_m: distanceText(route.distance_m, units),
  });
}
