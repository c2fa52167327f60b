import type { Units } from '../api/queries';
import { fieldOf, unitOf } from '../format/fields';
import { withUnit } from '../format/number';
import { POLICIES } from '../format/words';
import { say } from '../words/en/trip.ftl';
import type { TripForm } from './form';
import type { Kit } from './useKit';

/** The fields behind each answer. */
export const RIDDEN = ['rider_id', 'target_mps', 'known_consumption_wh_per_km', 'speed_policy'];
export const WEATHER = ['temp_c', 'tyre_kpa', 'wind_mps', 'wind_from_deg'];
export const PACK = ['reserve', 'probability', 'start_energy_fraction', 'packs_count', 'packs_use'];

/** Whether one of these fields is refused. */
export function fails(errors: Record<string, string>, names: readonly string[]): boolean {
  return names.some((name) => errors[name] !== undefined);
}

/** A field as it was typed, with its unit where none was typed; nothing for an empty one. */
function typed(form: TripForm, name: string, units: Units): string {
  const text = (form.typed[name] ?? '').trim();
  if (text === '' || /[^\d\s.,+\-−]/.test(text)) return text;
  return withUnit(text, unitOf(fieldOf('trip', name), units));
}

/** Who rides, how and how fast. */
export function riddenText(form: TripForm, kit: Kit, units: Units): string {
  const rider = kit.riders.find(({ id }) => id === form.rider_id)?.name;
  const how = POLICIES.find(({ value }) => value === form.policy)?.label.toLowerCase();
  const speed = typed(form, 'target_mps', units);
  const known = typed(form, 'known_consumption_wh_per_km', units);
  const fast =
    form.policy === 'flat_out'
      ? ''
      : speed
        ? say('at-speed', { speed })
        : say('at-the-usual-speed');
  return say('ridden-rider-how-fast-known', {
    rider: rider ? say('by-rider', { rider }) : '',
    how,
    fast,
    known: known ? `, ${known}` : '',
  });
}

/** The weather and the tyres. */
export function weatherText(form: TripForm, units: Units): string {
  const [air, wind, from, tyres] = ['temp_c', 'wind_mps', 'wind_from_deg', 'tyre_kpa'].map((name) =>
    typed(form, name, units),
  );
  const said = [
    air,
    wind && say('wind-wind-from', { wind, from: from ? say('from-from', { from }) : '' }),
    tyres && say('tyres-tyres', { tyres }),
  ].filter(Boolean);
  return said.length > 0
    ? say('weather-said', { said: said.join(', ') })
    : say('weather-not-known');
}

/** How full it starts, and what is to be left. */
export function packText(form: TripForm, units: Units): string {
  const full = typed(form, 'start_energy_fraction', units);
  const packs = Number(form.packs_count);
  const many = packs > 1 ? say('packs-packs', { packs }) : '';
  return say('starts-in-reserve', {
    starts_with: full.startsWith('100') ? say('full') : say('at-full', { full }),
    typed: typed(form, 'reserve', units),
    many,
  });
}
