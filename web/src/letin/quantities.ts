import type { Schemas } from '../api/client';
import { say } from '../words/en/letin.ftl';

export type Quantity = Schemas['LoggedQuantity'];

/** What a column of a log may be, in the order of the choice. */
export const QUANTITIES: ReadonlyArray<{ value: Quantity; label: string }> = [
  { value: 'voltage_v', label: say('voltage') },
  { value: 'current_a', label: say('current') },
  { value: 'power_w', label: say('power') },
  { value: 'charge_ah', label: say('charge') },
  { value: 'charge_left_ah', label: say('charge-left') },
  { value: 'charged_ah', label: say('charge-in') },
  { value: 'energy_wh', label: say('energy') },
  { value: 'energy_left_wh', label: say('energy-left-wh') },
  { value: 'charged_wh', label: say('energy-in') },
  { value: 'speed_mps', label: say('speed') },
  { value: 'distance_m', label: say('distance') },
  { value: 'altitude_m', label: say('altitude') },
  { value: 'latitude_deg', label: say('latitude') },
  { value: 'longitude_deg', label: say('longitude') },
  { value: 'battery_temp_c', label: say('battery-temp') },
  { value: 'motor_temp_c', label: say('motor-temp') },
  { value: 'controller_temp_c', label: say('controller-temp') },
  { value: 'cell_v', label: say('cell') },
  { value: 'cell_min_v', label: say('cell-min') },
  { value: 'gauge', label: say('gauge') },
];

const VOLTS = ['V', 'mV', '0.1 V', '0.01 V'];
const AMPS = ['A', 'mA', '0.1 A', '0.01 A'];
const CHARGE = ['Ah', 'mAh'];
const ENERGY = ['Wh', 'kWh'];
const DEGREES = ['°C', '°F'];

/** The units that a column of each may be in; the first is the usual one. */
const UNITS: Record<Quantity, readonly string[]> = {
  voltage_v: VOLTS,
  current_a: AMPS,
  power_w: ['W', 'kW'],
  charge_ah: CHARGE,
  charge_left_ah: CHARGE,
  charged_ah: CHARGE,
  energy_wh: ENERGY,
  energy_left_wh: ENERGY,
  charged_wh: ENERGY,
  speed_mps: ['km/h', 'mph', 'm/s', 'knots'],
  distance_m: ['km', 'mi', 'm', 'ft'],
  altitude_m: ['m', 'ft'],
  latitude_deg: ['deg'],
  longitude_deg: ['deg'],
  battery_temp_c: DEGREES,
  motor_temp_c: DEGREES,
  controller_temp_c: DEGREES,
  cell_v: ['V', 'mV'],
  cell_min_v: ['V', 'mV'],
  gauge: [],
};

/** What a quantity is kept in where nobody names a unit. */
const OWN: Partial<Record<Quantity, string>> = { speed_mps: 'm/s', distance_m: 'm' };

interface Read {
  quantity: Quantity;
  unit?: string;
  factor?: number;
}

/** How a unit and its part are said: "0.1 V". */
export function unitSaid({ quantity, unit = '', factor = 1 }: Read): string {
  const name = unit || (OWN[quantity] ?? UNITS[quantity][0] ?? '');
  return factor === 1 || name === '' ? name : say('part-of-unit', { factor, unit: name });
}

/** The choices of a column's unit, as they are said; what stands there is among them. */
export function unitChoices(read: Read): string[] {
  const said = unitSaid(read);
  const known = UNITS[read.quantity];
  const same = known.find((unit) => unit.toLowerCase() === said.toLowerCase());
  return said === '' || same !== undefined ? [...known] : [said, ...known];
}

/** The choice that stands for what is read now. */
export function unitChosen(read: Read): string {
  const said = unitSaid(read);
  return UNITS[read.quantity].find((unit) => unit.toLowerCase() === said.toLowerCase()) ?? said;
}

/** A unit as it is chosen, as it is sent. */
export function unitSent(choice: string): { unit: string; factor: number } {
  const part = /^(0\.\d+) (.+)$/.exec(choice);
  if (part === null) return { unit: choice, factor: 1 };
  return { unit: part[2] ?? '', factor: Number(part[1]) };
}

/** The unit that a quantity is taken in when it is chosen for a column. */
export function usualUnit(quantity: Quantity): string {
  return UNITS[quantity][0] ?? '';
}
