import type { PlanIn, TripIn, Units } from '../api/queries';
import { speedUnit, typedWithUnit, withUnit } from '../format/units';

/** A trip as it is typed: texts, so that every field takes a typed unit. */
export interface TripForm {
  vehicle_id: string;
  pack_id: string;
  rider_id: string;
  route_id: string;
  /** Without a route of the kit: a length, a climb and stops. */
  length: string;
  climb: string;
  stops: string;
  surface: NonNullable<TripIn['legs']>[number]['surface'];
  and_back: boolean;
  reversed: boolean;
  known: string;
  laps: string;
  policy: TripIn['policy'];
  target: string;
  temp: string;
  wind: string;
  wind_from: string;
  tyre: string;
  reserve: string;
  probability: string;
  start: string;
  packs_count: string;
  packs_use: 'in_sequence' | 'in_parallel';
  pressure_hpa: number | null;
  humidity_pct: number | null;
}

export const BLANK_TRIP: TripForm = {
  vehicle_id: '',
  pack_id: '',
  rider_id: '',
  route_id: '',
  length: '',
  climb: '',
  stops: '',
  surface: 'smooth_paved',
  and_back: false,
  reversed: false,
  known: '',
  laps: '',
  policy: 'with_traffic',
  target: '',
  temp: '',
  wind: '',
  wind_from: '',
  tyre: '',
  reserve: '15',
  probability: '95',
  start: '100',
  packs_count: '1',
  packs_use: 'in_sequence',
  pressure_hpa: null,
  humidity_pct: null,
};

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

function share(typed: string, otherwise: number): number {
  const value = plain(typed);
  return value === null ? otherwise : value / 100;
}

/** "17.5", "17.5 Wh/mi" or "10.9 Wh/km" per kilometre; a bare number is in the rider's unit. */
export function knownPerKm(typed: string, units: Units): number | null {
  const value = plain(typed.replace(/wh.*$/i, ''));
  if (value === null) return null;
  const perMile = /mi/i.test(typed) || (!/km/i.test(typed) && units.distance === 'mi');
  return perMile ? value / 1.609344 : value;
}

/** What the form asks of the server. */
export function tripBody(form: TripForm, units: Units, quick = false): TripIn {
  const sketched = form.route_id === '';
  const count = plain(form.packs_count) ?? 1;
  return {
    vehicle_id: form.vehicle_id,
    pack_id: form.pack_id,
    rider_id: form.rider_id || null,
    route_id: sketched ? null : form.route_id,
    legs:
      sketched && form.length.trim() !== ''
        ? [
            {
              length_m: typedWithUnit(form.length, units.distance),
              climb_m: withUnit(form.climb, 'm') ?? 0,
              descent_m: 0,
              surface: form.surface,
              stops: plain(form.stops) ?? 0,
              winding: false,
            },
          ]
        : null,
    and_back: form.and_back,
    reversed: form.reversed,
    known_consumption_wh_per_km: knownPerKm(form.known, units),
    laps: plain(form.laps),
    policy: form.policy,
    target_mps: withUnit(form.target, speedUnit(units)),
    temp_c: withUnit(form.temp, units.temperature),
    wind_mps: withUnit(form.wind, speedUnit(units)),
    wind_from_deg: bearing(form.wind_from),
    tyre_kpa: withUnit(form.tyre, units.pressure),
    pressure_hpa: form.pressure_hpa,
    humidity_pct: form.humidity_pct,
    reserve: share(form.reserve, 0.15),
    probability: share(form.probability, 0.95),
    start_energy_fraction: share(form.start, 1),
    packs_count: count,
    packs_use: count > 1 ? form.packs_use : 'single',
    quick,
  };
}

/** Whether there is enough to ask: kit, and a way. */
export function askable(form: TripForm): boolean {
  return (
    form.vehicle_id !== '' &&
    form.pack_id !== '' &&
    (form.route_id !== '' || form.length.trim() !== '')
  );
}

/** The same of what is sent: a debounced question lags behind its form. */
export function hasWay(body: Pick<TripIn, 'route_id' | 'legs'>): boolean {
  return body.route_id != null || body.legs != null;
}

/** A stored trip back in the form; numbers bring their unit, so that they are sent as they were. */
export function formOf(asked: Partial<PlanIn>): TripForm {
  const leg = asked.legs?.[0];
  const text = (value: unknown, unit: string) => (value == null ? '' : `${Number(value)} ${unit}`);
  return {
    ...BLANK_TRIP,
    vehicle_id: asked.vehicle_id ?? '',
    pack_id: asked.pack_id ?? '',
    rider_id: asked.rider_id ?? '',
    route_id: asked.route_id ?? '',
    length: text(leg?.length_m, 'm'),
    climb: text(leg?.climb_m, 'm'),
    stops: leg ? String(leg.stops ?? 0) : '',
    surface: leg?.surface ?? 'smooth_paved',
    and_back: asked.and_back ?? false,
    reversed: asked.reversed ?? false,
    known:
      asked.known_consumption_wh_per_km == null ? '' : `${asked.known_consumption_wh_per_km} Wh/km`,
    laps: asked.laps == null ? '' : String(asked.laps),
    policy: asked.policy ?? 'with_traffic',
    target: text(asked.target_mps, 'm/s'),
    temp: text(asked.temp_c, '°C'),
    wind: text(asked.wind_mps, 'm/s'),
    wind_from: asked.wind_from_deg == null ? '' : String(asked.wind_from_deg),
    tyre: text(asked.tyre_kpa, 'kPa'),
    reserve: String(Math.round(100 * (asked.reserve ?? 0.15))),
    probability: String(Math.round(1000 * (asked.probability ?? 0.95)) / 10),
    start: String(Math.round(100 * (asked.start_energy_fraction ?? 1))),
    packs_count: String(asked.packs_count ?? 1),
    packs_use: asked.packs_use === 'in_parallel' ? 'in_parallel' : 'in_sequence',
    pressure_hpa: asked.pressure_hpa == null ? null : Number(asked.pressure_hpa),
    humidity_pct: asked.humidity_pct ?? null,
  };
}
