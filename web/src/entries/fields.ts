import type { Schemas } from '../api/client';
import type { Entry, Units } from '../api/queries';
import { distance, number, speed, speedUnit, withUnit } from '../format/units';

export type FieldName =
  | 'voltage_rest_v'
  | 'voltage_load_v'
  | 'charge_ah'
  | 'energy_wh'
  | 'trip_m'
  | 'laps'
  | 'gauge'
  | 'odometer_m'
  | 'gps_m'
  | 'current_a'
  | 'speed_mps'
  | 'battery_temp_c';

export interface EntryField {
  name: FieldName;
  label: string;
  hint: string;
  unit: (units: Units) => string;
  /** The stored value in the unit that the rider reads. */
  shown: (value: number, units: Units) => string;
}

const plain = (unit: string, digits: number) => ({
  unit: () => unit,
  shown: (value: number) => number(value, digits),
});

const inDistance = {
  unit: (units: Units) => units.distance,
  shown: (value: number, units: Units) => number(distance(value, units), 2),
};

/** Everything an entry can hold, in the order in which displays are usually read. */
export const ENTRY_FIELDS: EntryField[] = [
  {
    name: 'voltage_rest_v',
    label: 'Volts at rest',
    hint: 'Standing, throttle closed',
    ...plain('V', 1),
  },
  { name: 'voltage_load_v', label: 'Volts pulling', hint: 'As read on the move', ...plain('V', 1) },
  { name: 'charge_ah', label: 'Amp-hours', hint: 'The meter’s counter', ...plain('Ah', 2) },
  { name: 'energy_wh', label: 'Watt-hours', hint: 'The meter’s counter', ...plain('Wh', 1) },
  { name: 'trip_m', label: 'Trip meter', hint: 'Since the start', ...inDistance },
  { name: 'laps', label: 'Laps', hint: 'Completed; 2.5 is two and a half', ...plain('', 1) },
  { name: 'gauge', label: 'Gauge', hint: 'Bars, dots or percent it shows', ...plain('', 0) },
  { name: 'odometer_m', label: 'Odometer', hint: 'The whole figure', ...inDistance },
  { name: 'gps_m', label: 'Track', hint: 'What the tracker shows', ...inDistance },
  { name: 'current_a', label: 'Amps', hint: 'With the volts pulling', ...plain('A', 1) },
  {
    name: 'speed_mps',
    label: 'Speed held',
    hint: 'On the flat',
    unit: speedUnit,
    shown: (value, units) => number(speed(value, units), 1),
  },
  {
    name: 'battery_temp_c',
    label: 'Pack temperature',
    hint: 'Stop above 60 °C',
    unit: (units) => units.temperature,
    shown: (value, units) => number(units.temperature === '°C' ? value : value * 1.8 + 32, 0),
  },
];

export type Typed = Partial<Record<FieldName, string>>;
export type EntryBody = Schemas['EntryIn'];

/** What was typed as the API takes it: text with a unit, or a bare number. */
export function bodyOf(
  typed: Typed,
  rest: { time_s: number; kind: Entry['kind']; note?: string },
  units: Units,
): EntryBody {
  const body: EntryBody = {
    time_s: rest.time_s,
    kind: rest.kind,
    note: rest.note?.trim() ? rest.note.trim() : null,
  };
  for (const field of ENTRY_FIELDS) {
    const text = withUnit(typed[field.name] ?? '', field.unit(units));
    if (text === null) continue;
    if (field.name === 'laps' || field.name === 'gauge') {
      // Counts have no unit; what is not a number goes as typed, and the server says so.
      const count = Number(text.trim().replace(',', '.'));
      body[field.name] = (Number.isNaN(count) ? text : count) as number;
    } else {
      body[field.name] = text;
    }
  }
  return body;
}

/** The stored entry as a rider would have typed it. */
export function typedOf(entry: Entry, units: Units): Typed {
  const typed: Typed = {};
  for (const field of ENTRY_FIELDS) {
    const value = entry[field.name];
    if (value != null) typed[field.name] = field.shown(value, units).replace('−', '-');
  }
  return typed;
}
