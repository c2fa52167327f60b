import type { Schemas } from '../api/client';
import type { Leg, Units } from '../api/queries';
import {
  fieldOf,
  fieldsOf,
  sentOf,
  type TypedFields,
  typedFields,
  typedText,
} from '../format/fields';
import { legOf } from '../trip/form';

/** A leg as it is typed. */
export interface LegText {
  key: string;
  typed: TypedFields;
  surface: NonNullable<Leg['surface']>;
}

export const BLANK_LEG: LegText = { key: 'first', typed: {}, surface: 'smooth_paved' };

const READING = fieldOf('route', 'readings_m');

/** A stored leg as it would be typed; what is none is left empty. */
export function legText(leg: Leg, index: number, units: Units): LegText {
  const typed = typedFields(fieldsOf('leg'), leg, units);
  const filled = Object.entries(typed).filter(([, text]) => text !== '0');
  return { key: `leg-${index}`, typed: Object.fromEntries(filled), surface: leg.surface };
}

export function legBody(leg: LegText, units: Units): Schemas['RouteLeg'] {
  return legOf(leg.typed, leg.surface, units);
}

/**
 * Readings out of what you entered: "1720; 1,716 km, 1 728 m". A comma stands between two of them only
 * where a space follows it; elsewhere it is a decimal mark.
 */
export function readingsOf(typed: string, units: Units): string[] {
  return typed
    .split(/[;\n]|,\s/)
    .map((part) => sentOf(READING, part, units))
    .filter((sent) => sent !== null)
    .map(String);
}

/** Stored readings as they would be typed. */
export function readingsText(readings: number[], units: Units): string {
  return readings.map((metres) => typedText(READING, metres, units)).join('; ');
}
