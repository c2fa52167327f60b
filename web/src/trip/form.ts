import type { PlanIn, TripIn, Units } from '../api/queries';
import {
  fieldOf,
  fieldsOf,
  RESERVE,
  sentFields,
  type TypedFields,
  typedFields,
  typedText,
} from '../format/fields';

const TRIP = fieldsOf('trip');
const LEG = fieldsOf('leg');

/** A trip as it is typed: texts, so that every field takes a typed unit. */
export interface TripForm {
  vehicle_id: string;
  pack_id: string;
  rider_id: string;
  route_id: string;
  /** The numbers of the trip by the core's names. */
  typed: TypedFields;
  /** Without a route of the kit: one leg, sketched. */
  sketch: TypedFields;
  surface: NonNullable<TripIn['legs']>[number]['surface'];
  and_back: boolean;
  reversed: boolean;
  laps: string;
  policy: TripIn['policy'];
  packs_count: string;
  packs_use: 'in_sequence' | 'in_parallel';
}

/** What a trip is asked with unless somebody says otherwise, as shares. */
const USUAL = { reserve: RESERVE, probability: 0.95, start_energy_fraction: 1 };

/** These shares without a unit read alike to everybody. */
const ANYBODY: Units = { distance: 'km', mass: 'kg', temperature: '°C', pressure: 'kPa' };

const BLANK: TripForm = {
  vehicle_id: '',
  pack_id: '',
  rider_id: '',
  route_id: '',
  typed: typedFields(TRIP, USUAL, ANYBODY),
  sketch: {},
  surface: 'smooth_paved',
  and_back: false,
  reversed: false,
  laps: '',
  policy: 'with_traffic',
  packs_count: '1',
  packs_use: 'in_sequence',
};

/** A trip of which nothing is said but what its account keeps back. */
export function blankTrip(reserve: number = RESERVE): TripForm {
  return { ...BLANK, typed: typedFields(TRIP, { ...USUAL, reserve }, ANYBODY) };
}

/** A trip's number of a name, from the core's unit, as it would be typed. */
export function typedInto(name: string, value: number | null | undefined, units: Units): string {
  return typedText(fieldOf('trip', name), value, units);
}

const COMPASS = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'];

/** Degrees from "W", "south-west" in letters, or "250"; null for nothing typed. */
export function bearing(typed: string): number | null {
  const text = typed.trim().toUpperCase().replace('°', '');
  if (text === '') return null;
  const point = COMPASS.indexOf(text);
  return point >= 0 ? point * 45 : Number(text.replace(',', '.'));
}

export function compass(degrees: number): string {
  return COMPASS[Math.round(degrees / 45) % 8] ?? 'N';
}

/** A typed number; NaN reaches the server as null and is refused beside its field. */
export function plain(typed: string): number | null {
  const text = typed.replace('%', '').replace(',', '.').trim();
  return text === '' ? null : Number(text);
}

/** What the form asks of the server. */
export function tripBody(form: TripForm, units: Units, quick = false): TripIn {
  const sketched = form.route_id === '';
  const count = plain(form.packs_count) ?? 1;
  const sent = sentFields(TRIP, form.typed, units);
  // A share that was emptied is left to the server's own.
  const filled = Object.entries(sent).filter(([name, value]) => !(name in USUAL && value === null));
  return {
    ...(Object.fromEntries(filled) as Partial<TripIn>),
    vehicle_id: form.vehicle_id,
    pack_id: form.pack_id,
    rider_id: form.rider_id || null,
    route_id: sketched ? null : form.route_id,
    legs: sketched && hasLength(form) ? [legOf(form.sketch, form.surface, units)] : null,
    and_back: form.and_back,
    reversed: form.reversed,
    laps: plain(form.laps),
    policy: form.policy,
    wind_from_deg: bearing(form.typed.wind_from_deg ?? ''),
    packs_count: count,
    packs_use: count > 1 ? form.packs_use : 'single',
    quick,
  } as TripIn;
}

type LegIn = NonNullable<TripIn['legs']>[number];

/** A leg as typed, as the API takes it; what is empty is none. */
export function legOf(typed: TypedFields, surface: LegIn['surface'], units: Units): LegIn {
  const sent = sentFields(LEG, typed, units);
  return {
    length_m: sent.length_m ?? '',
    climb_m: sent.climb_m ?? 0,
    descent_m: sent.descent_m ?? 0,
    bearing_deg: bearing(typed.bearing_deg ?? ''),
    stops: sent.stops ?? 0,
    speed_mps: sent.speed_mps ?? null,
    surface,
    winding: false,
  } as LegIn;
}

function hasLength(form: TripForm): boolean {
  return (form.sketch.length_m ?? '').trim() !== '';
}

/** Whether there is enough to ask: kit, and a way. */
export function askable(form: TripForm): boolean {
  return form.vehicle_id !== '' && form.pack_id !== '' && (form.route_id !== '' || hasLength(form));
}

/** The same of what is sent: a debounced question lags behind its form. */
export function hasWay(body: Pick<TripIn, 'route_id' | 'legs'>): boolean {
  return body.route_id != null || body.legs != null;
}

/** A stored trip back in the form, in the rider's units. */
export function formOf(asked: Partial<PlanIn>, units: Units): TripForm {
  const leg = asked.legs?.[0];
  return {
    ...BLANK,
    vehicle_id: asked.vehicle_id ?? '',
    pack_id: asked.pack_id ?? '',
    rider_id: asked.rider_id ?? '',
    route_id: asked.route_id ?? '',
    typed: typedFields(TRIP, { ...USUAL, ...asked }, units),
    sketch: leg ? typedFields(LEG, leg, units) : {},
    surface: leg?.surface ?? 'smooth_paved',
    and_back: asked.and_back ?? false,
    reversed: asked.reversed ?? false,
    laps: asked.laps == null ? '' : String(asked.laps),
    policy: asked.policy ?? 'with_traffic',
    packs_count: String(asked.packs_count ?? 1),
    packs_use: asked.packs_use === 'in_parallel' ? 'in_parallel' : 'in_sequence',
  };
}
