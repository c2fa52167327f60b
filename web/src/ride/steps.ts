import type { Units } from '../api/queries';
import { isListOfWords, remember, remembered } from '../device/remembered';
import { ENTRY_FIELDS } from '../entries/fields';
import { type FormField, inReaders } from '../format/fields';
import type { Readings } from '../roadside/entry';
import { lastOf, type Ride } from '../roadside/ride';
import { say } from '../words/en/ride.ftl';
import type { Expected } from './placed';

/** A display is read in this order unless this vehicle's was read in another. */
const USUAL = ['voltage_rest_v', 'trip_m', 'gauge'];
/** The volts are one step; which they were, throttle closed or pulling, is two keys on it. */
export const VOLTS = ['voltage_rest_v', 'voltage_load_v'] as const;

const orderKey = (ride: Pick<Ride, 'vehicle_name'>) => `limpet-order-${ride.vehicle_name}`;

/** What is asked for in an entry, in the order in which this vehicle's display is read. */
export function stepsOf(ride: Pick<Ride, 'vehicle_name'>): string[] {
  const known = new Set(ENTRY_FIELDS.map((field) => field.name));
  const kept = remembered(orderKey(ride), isListOfWords)?.filter((name) => known.has(name)) ?? [];
  return kept.length > 0 ? kept : USUAL;
}

/** What was read this time is asked for next time, in that order. */
export function rememberSteps(ride: Pick<Ride, 'vehicle_name'>, read: string[]): void {
  if (read.length < 2) return;
  const before = stepsOf(ride);
  const order = read.map((name) => (name === 'voltage_load_v' ? 'voltage_rest_v' : name));
  // One field that was skipped once is still asked for.
  const kept = before.filter((name) => !order.includes(name));
  remember(orderKey(ride), [...new Set([...order, ...kept])].slice(0, ENTRY_FIELDS.length));
}

export function fieldNamed(name: string): FormField {
  const found = ENTRY_FIELDS.find((field) => field.name === name);
  if (found === undefined) throw new Error(say('an-entry-has-no', { name }));
  return found;
}

/** How fast a counter ran so far [core's unit/s]; null before it has run. */
function rateOf(ride: Pick<Ride, 'entries'>, name: string): number | null {
  const read = ride.entries.filter((entry) => typeof entry[name as keyof Readings] === 'number');
  const first = read[0];
  const last = read.at(-1);
  if (first === undefined || last === undefined || last.time_s - first.time_s < 60) return null;
  const ran = Number(last[name as keyof Readings]) - Number(first[name as keyof Readings]);
  return ran > 0 ? ran / (last.time_s - first.time_s) : null;
}

/** A mean speed to begin with [m/s]. */
const USUAL_MPS = 5;
/** How fast any such vehicle covers ground [m/s], and the least that a counter may have run on. */
const FASTEST_MPS = 30;
const COUNTERS: Record<string, number> = {
  trip_m: 5000,
  gps_m: 5000,
  odometer_m: 5000,
  charge_ah: 5,
  energy_wh: 200,
  ascent_m: 200,
  descent_m: 200,
};

/** Volts of a pack of which nothing is known. */
const LEAST_PACK_V = 15;
const MOST_PACK_V = 105;

/** What is wrong with a reading of the volts by what its pack can have; empty where nothing is. */
export function voltsFault(
  ride: Pick<Ride, 'most_v'>,
  name: string,
  value: number | undefined,
): string {
  if (!VOLTS.some((volts) => volts === name) || value === undefined || ride.most_v === null) {
    return '';
  }
  if (value <= ride.most_v) return '';
  return say('v-is-more-than-this', { value, most_v: ride.most_v });
}

/** Where a reading should lie now, as far as this device can tell; null where anything may be. */
export function expectedOf(
  ride: Pick<Ride, 'entries' | 'full_v' | 'cutoff_v'>,
  name: string,
  nowS: number,
  units: Units,
): Expected | null {
  const field = fieldNamed(name);
  const shown = (value: number) =>
    field.shown === 'unit' ? inReaders(field.kind, value, units) : value;
  const last = lastOf(ride, name as keyof Readings);
  if (name === 'voltage_rest_v' || name === 'voltage_load_v') {
    const { full_v, cutoff_v } = ride;
    const near = lastOf(ride, 'voltage_rest_v') ?? lastOf(ride, 'voltage_load_v');
    if (full_v !== null && cutoff_v !== null) {
      return { low: 0.8 * cutoff_v, high: 1.05 * full_v, near: near?.value ?? full_v };
    }
    if (near) return { low: 0.6 * near.value, high: 1.2 * near.value, near: near.value };
    // Of a pack that nobody described: what such vehicles have.
    return { low: LEAST_PACK_V, high: MOST_PACK_V, near: null };
  }
  const least = COUNTERS[name];
  if (least !== undefined) {
    if (name === 'odometer_m' && last === null) return null;
    const from = last?.value ?? 0;
    const since = Math.max(nowS - (last?.time_s ?? 0), 1);
    const most = Math.max(least, 0.5 * from, name.endsWith('_m') ? FASTEST_MPS * since : 0);
    const rate = rateOf(ride, name) ?? (name.endsWith('_m') ? USUAL_MPS : null);
    // Where nothing says how fast it runs, the largest that fits is taken.
    const near = rate === null ? from + most : from + rate * since;
    return { low: shown(from), high: shown(from + most), near: shown(near), from: shown(from) };
  }
  if (name.endsWith('_temp_c')) {
    return { low: shown(-30), high: shown(80), near: last ? shown(last.value) : shown(20) };
  }
  return null;
}
