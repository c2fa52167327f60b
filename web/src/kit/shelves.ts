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
import { type FormField, fieldOf, sentOf, typedText } from '../format/fields';
import { limpTable, limpText } from '../format/limp';
import { massText, number } from '../format/units';
import { CHEMISTRIES, labelOf, VEHICLE_KINDS } from '../format/words';
import { say } from '../words/en/kit.ftl';

export interface KitField {
  name: string;
  label: string;
  hint?: string;
  choices?: ReadonlyArray<{ value: string; label: string }>;
  whole?: boolean;
  /** A number that the core describes. */
  number?: FormField;
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

function counted(count: number, what: string): string {
  return `${count} ${what}${count === 1 ? '' : 's'}`;
}

type NumberForm = 'vehicle' | 'pack' | 'rider';

/** A number of the core's list as a field of a shelf. */
function numberOf(form: NumberForm, name: string): KitField {
  const number = fieldOf(form, name);
  return { name, label: number.label, number, required: number.needed };
}

const NAME: KitField = { name: 'name', label: say('name'), required: true };
const NOTE: KitField = { name: 'note', label: say('note') };

export const SHELVES: Shelf[] = [
  {
    name: 'vehicles',
    label: say('vehicles'),
    one: say('vehicle-small'),
    empty: say('no-vehicle-yet-its-kind'),
    fields: [
      NAME,
      { name: 'kind', label: say('kind'), choices: VEHICLE_KINDS, required: true },
      numberOf('vehicle', 'mass_kg'),
      NOTE,
      numberOf('vehicle', 'max_power_w'),
      numberOf('vehicle', 'controller_current_limit_a'),
      numberOf('vehicle', 'max_speed_mps'),
      numberOf('vehicle', 'regeneration'),
      { name: 'step_down', label: say('when-low'), table: true },
      numberOf('vehicle', 'cda_m2'),
      numberOf('vehicle', 'crr'),
      numberOf('vehicle', 'drivetrain_efficiency'),
      numberOf('vehicle', 'aux_w'),
    ],
    line: (item, units) => {
      const vehicle = item as Vehicle;
      return [
        labelOf(VEHICLE_KINDS, vehicle.kind),
        vehicle.mass_kg == null ? null : massText(vehicle.mass_kg, units),
        vehicle.fit
          ? say('road-load-from', { counted: counted(vehicle.fit.tests.length, 'test') })
          : null,
      ]
        .filter(Boolean)
        .join(' · ');
    },
  },
  {
    name: 'packs',
    label: say('packs'),
    one: say('pack-small'),
    empty: say('no-pack-yet-the-label'),
    fields: [
      NAME,
      {
        name: 'chemistry',
        label: say('chemistry'),
        choices: [{ value: '', label: say('not-known-here') }, ...CHEMISTRIES],
      },
      numberOf('pack', 'nominal_v'),
      {
        name: 'series',
        label: say('cells-in-series'),
        hint: say('the-s-of-13s4p-36'),
        whole: true,
      },
      {
        name: 'parallel',
        label: say('cells-in-parallel'),
        hint: say('the-p-of-13s4p'),
        whole: true,
      },
      numberOf('pack', 'rated_ah'),
      numberOf('pack', 'rated_wh'),
      numberOf('pack', 'full_v'),
      numberOf('pack', 'cutoff_v'),
      numberOf('pack', 'equivalent_full_cycles'),
      numberOf('pack', 'retained_fraction'),
      numberOf('pack', 'resistance_ohm'),
      NOTE,
    ],
    line: (item) => {
      const pack = item as Pack;
      const taken = (name: string) => (pack.taken.includes(name) ? say('taken') : '');
      const cells = `${pack.series}s${pack.parallel == null ? '' : `${pack.parallel}p`}${taken('series')}`;
      const limits =
        pack.full_v == null || pack.cutoff_v == null
          ? null
          : say('v-full-v-cut-off', {
              full_v: number(pack.full_v, 1),
              cutoff_v: number(pack.cutoff_v, 1),
            });
      return [
        cells,
        `${labelOf(CHEMISTRIES, pack.chemistry)}${taken('chemistry')}`,
        `${number(pack.rated_ah, 1)} Ah${taken('rated_ah')}`,
        limits,
      ]
        .filter(Boolean)
        .join(' · ');
    },
  },
  {
    name: 'riders',
    label: say('riders'),
    one: say('rider-here'),
    empty: say('no-rider-yet-a-weight'),
    fields: [NAME, numberOf('rider', 'mass_kg'), numberOf('rider', 'gear_kg'), NOTE],
    line: (item, units) => {
      const rider = item as Rider;
      const parts = [
        rider.mass_kg == null ? null : massText(rider.mass_kg, units),
        rider.gear_kg == null
          ? null
          : say('gear-kg-gear', { gear_kg: massText(rider.gear_kg, units) }),
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
    if (field.number) body[field.name] = sentOf(field.number, text, units);
    else if (field.table) body[field.name] = limpTable(text, units);
    else if (field.whole) {
      const value = Number(text);
      body[field.name] = text === '' ? null : Number.isNaN(value) ? text : value;
    } else body[field.name] = field.choices && text === '' ? null : text;
  }
  return body;
}

/** A stored piece of kit as it would be typed, in the rider's units. */
export function kitText(shelf: Shelf, item: Item, units: Units): Record<string, string> {
  const values = item as unknown as Record<string, unknown>;
  // What nobody said of a pack is a guess: it is not put into their mouth by being shown as typed.
  const taken = (values.taken as string[] | undefined) ?? [];
  return Object.fromEntries(
    shelf.fields.map((field) => {
      const value = taken.includes(field.name) ? null : values[field.name];
      if (field.table) return [field.name, limpText(value as Vehicle['step_down'], units)];
      if (field.number) return [field.name, typedText(field.number, value, units)];
      return [field.name, value == null ? '' : String(value)];
    }),
  );
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
