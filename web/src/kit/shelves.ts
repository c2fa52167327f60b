import { api, unwrap } from '../api/client';
import {
  type Pack,
  packsQuery,
  type Rider,
  ridersQuery,
  type Units,
  type Vehicle,
  vehiclesQuery,
} from '../api/queries';
import { massText, number, speedUnit, withUnit } from '../format/units';
import { CHEMISTRIES, labelOf, VEHICLE_KINDS } from '../format/words';

export interface KitField {
  name: string;
  label: string;
  hint?: string;
  unit?: (units: Units) => string;
  choices?: ReadonlyArray<{ value: string; label: string }>;
  whole?: boolean;
  /** A number without a unit. */
  plain?: boolean;
  /** How many of the unit shown make one of the core's. */
  factor?: number;
  /** Volts and speeds in pairs. */
  table?: boolean;
  required?: boolean;
}

type Item = Vehicle | Pack | Rider;

export interface Shelf {
  name: 'vehicles' | 'packs' | 'riders';
  label: string;
  one: string;
  empty: string;
  fields: KitField[];
  /** What stands beside the name. */
  line: (item: Item, units: Units) => string;
}

const mass = (units: Units) => (units.mass === 'st' ? 'lb' : units.mass);

export const SHELVES: Shelf[] = [
  {
    name: 'vehicles',
    label: 'Vehicles',
    one: 'vehicle',
    empty: 'No vehicle yet. Its kind and its weight are enough to begin.',
    fields: [
      { name: 'name', label: 'Name', required: true },
      { name: 'kind', label: 'Kind', choices: VEHICLE_KINDS, required: true },
      { name: 'mass_kg', label: 'Mass', hint: 'Without rider, with its pack', unit: mass },
      { name: 'note', label: 'Note' },
      { name: 'max_power_w', label: 'Motor power', hint: 'The most it takes', unit: () => 'W' },
      {
        name: 'controller_current_limit_a',
        label: 'Controller limit',
        hint: 'Amps from the pack',
        unit: () => 'A',
      },
      { name: 'max_speed_mps', label: 'Top speed', unit: speedUnit },
      {
        name: 'regeneration',
        label: 'Regeneration',
        hint: 'Share of braking, 0 to 1',
        plain: true,
      },
      {
        name: 'step_down',
        label: 'Limp table',
        hint: 'Under so many volts, so fast: 44 V: 20 km/h; 41 V: 10 km/h',
        table: true,
      },
      { name: 'cda_m2', label: 'Air drag CdA', hint: 'm², if you know it', plain: true },
      { name: 'crr', label: 'Rolling resistance', hint: 'If you know it, like 0.010', plain: true },
      { name: 'drivetrain_efficiency', label: 'Drive efficiency', hint: '0 to 1', plain: true },
      { name: 'aux_w', label: 'Lights and controller', unit: () => 'W' },
    ],
    line: (item, units) => {
      const vehicle = item as Vehicle;
      return [
        labelOf(VEHICLE_KINDS, vehicle.kind),
        vehicle.mass_kg == null ? null : massText(vehicle.mass_kg, units),
        vehicle.fit ? `road load from ${vehicle.fit.tests.length} tests` : null,
      ]
        .filter(Boolean)
        .join(' · ');
    },
  },
  {
    name: 'packs',
    label: 'Packs',
    one: 'pack',
    empty: 'No pack yet. Its label has what is needed: chemistry, cells in series, amp-hours.',
    fields: [
      { name: 'name', label: 'Name', required: true },
      { name: 'chemistry', label: 'Chemistry', choices: CHEMISTRIES, required: true },
      {
        name: 'series',
        label: 'Cells in series',
        hint: 'The S of 13s4p: 36 V is often 10, 48 V 13',
        whole: true,
        required: true,
      },
      { name: 'parallel', label: 'Cells in parallel', hint: 'The P of 13s4p', whole: true },
      { name: 'rated_ah', label: 'Rated charge', unit: () => 'Ah', required: true },
      { name: 'rated_wh', label: 'Rated energy', hint: 'If the label says it', unit: () => 'Wh' },
      { name: 'full_v', label: 'Full', hint: 'Settled after a full charge', unit: () => 'V' },
      {
        name: 'cutoff_v',
        label: 'Cut-off',
        hint: 'Where the drive stops, pulling',
        unit: () => 'V',
      },
      {
        name: 'equivalent_full_cycles',
        label: 'Cycles so far',
        hint: 'Charge put through ÷ rated charge',
        plain: true,
      },
      {
        name: 'retained_fraction',
        label: 'Capacity left',
        hint: 'Share of fresh, like 0.85, if measured',
        plain: true,
      },
      {
        name: 'resistance_ohm',
        label: 'Resistance',
        hint: 'Of the pack',
        unit: () => 'mΩ',
        factor: 1000,
      },
      { name: 'note', label: 'Note' },
    ],
    line: (item) => {
      const pack = item as Pack;
      const cells = `${pack.series}s${pack.parallel == null ? '' : `${pack.parallel}p`}`;
      const limits =
        pack.full_v == null || pack.cutoff_v == null
          ? null
          : `${number(pack.full_v, 1)} V full, ${number(pack.cutoff_v, 1)} V cut-off`;
      return [cells, labelOf(CHEMISTRIES, pack.chemistry), `${number(pack.rated_ah, 1)} Ah`, limits]
        .filter(Boolean)
        .join(' · ');
    },
  },
  {
    name: 'riders',
    label: 'Riders',
    one: 'rider',
    empty: 'No rider yet. A weight makes results of different riders comparable.',
    fields: [
      { name: 'name', label: 'Name', required: true },
      { name: 'mass_kg', label: 'Mass', unit: mass },
      { name: 'gear_kg', label: 'Gear', hint: 'Clothes, bag, locks, load', unit: mass },
      { name: 'note', label: 'Note' },
    ],
    line: (item, units) => {
      const rider = item as Rider;
      const parts = [
        rider.mass_kg == null ? null : massText(rider.mass_kg, units),
        rider.gear_kg == null ? null : `${massText(rider.gear_kg, units)} gear`,
      ];
      return parts.filter(Boolean).join(' + ');
    },
  },
];

export const SHELF_QUERIES = {
  vehicles: vehiclesQuery,
  packs: packsQuery,
  riders: ridersQuery,
} as const;

/** What was typed as the API takes it. */
export function kitBody(shelf: Shelf, typed: Record<string, string>, units: Units) {
  const body: Record<string, unknown> = {};
  for (const field of shelf.fields) {
    const text = (typed[field.name] ?? '').trim();
    if (field.unit) body[field.name] = withUnit(text, field.unit(units));
    else if (field.table) body[field.name] = limpTable(text, units);
    else if (field.whole || field.plain) {
      const value = Number(text.replace(',', '.'));
      body[field.name] = text === '' ? null : Number.isNaN(value) ? text : value;
    } else body[field.name] = text;
  }
  return body;
}

/** "44 V: 20 km/h; 41 V: 10 km/h" as the API takes it. */
export function limpTable(typed: string, units: Units) {
  return typed
    .split(';')
    .map((row) => row.trim())
    .filter((row) => row !== '')
    .map((row) => {
      const [volts = '', held = ''] = row.split(':');
      return { below_v: withUnit(volts, 'V'), max_speed_mps: withUnit(held, speedUnit(units)) };
    });
}

/** Stores one piece of kit under its id. */
export async function storeKit(shelf: Shelf, id: string, body: Record<string, unknown>) {
  const params = { path: { item_id: id } };
  // The form's fields are the schema's by name; the server checks each and answers beside it.
  const sent = body as never;
  if (shelf.name === 'vehicles') {
    return unwrap(await api.PUT('/api/vehicles/{item_id}', { params, body: sent }));
  }
  if (shelf.name === 'packs') {
    return unwrap(await api.PUT('/api/packs/{item_id}', { params, body: sent }));
  }
  return unwrap(await api.PUT('/api/riders/{item_id}', { params, body: sent }));
}

/** Brings a removed piece of kit back. */
export async function restoreKit(shelf: Shelf, id: string) {
  const params = { path: { item_id: id } };
  if (shelf.name === 'vehicles') {
    return unwrap(await api.POST('/api/vehicles/{item_id}/restore', { params }));
  }
  if (shelf.name === 'packs') {
    return unwrap(await api.POST('/api/packs/{item_id}/restore', { params }));
  }
  return unwrap(await api.POST('/api/riders/{item_id}/restore', { params }));
}

/** Removes one piece of kit; tests keep what they recorded of it. */
export async function removeKit(shelf: Shelf, id: string) {
  const params = { path: { item_id: id } };
  if (shelf.name === 'vehicles') {
    return unwrap(await api.DELETE('/api/vehicles/{item_id}', { params }));
  }
  if (shelf.name === 'packs') {
    return unwrap(await api.DELETE('/api/packs/{item_id}', { params }));
  }
  return unwrap(await api.DELETE('/api/riders/{item_id}', { params }));
}
