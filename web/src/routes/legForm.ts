import type { Schemas } from '../api/client';
import type { Leg, Units } from '../api/queries';
import { speedUnit, typedWithUnit, withUnit } from '../format/units';
import { bearing, plain } from '../trip/form';

/** A leg as it is typed. */
export interface LegText {
  key: string;
  length: string;
  climb: string;
  descent: string;
  bearing: string;
  surface: NonNullable<Leg['surface']>;
  stops: string;
  speed: string;
}

export const BLANK_LEG: LegText = {
  key: 'first',
  length: '',
  climb: '',
  descent: '',
  bearing: '',
  surface: 'smooth_paved',
  stops: '',
  speed: '',
};

export function legText(leg: Leg, index: number): LegText {
  const text = (value: number | null, unit: string) =>
    value == null || value === 0 ? '' : `${Number(value.toFixed(2))} ${unit}`;
  return {
    key: `leg-${index}`,
    length: text(leg.length_m, 'm'),
    climb: text(leg.climb_m, 'm'),
    descent: text(leg.descent_m, 'm'),
    bearing: leg.bearing_deg == null ? '' : String(Math.round(leg.bearing_deg)),
    surface: leg.surface,
    stops: leg.stops === 0 ? '' : String(leg.stops),
    speed: text(leg.speed_mps, 'm/s'),
  };
}

export function legBody(leg: LegText, units: Units): Schemas['RouteLeg'] {
  return {
    length_m: typedWithUnit(leg.length, units.distance),
    climb_m: withUnit(leg.climb, 'm') ?? 0,
    descent_m: withUnit(leg.descent, 'm') ?? 0,
    bearing_deg: bearing(leg.bearing),
    surface: leg.surface,
    stops: plain(leg.stops) ?? 0,
    speed_mps: withUnit(leg.speed, speedUnit(units)),
    winding: false,
  };
}

/** Readings in metres out of what was typed: "1720, 1.716 km, 1 728 m". */
export function readingsOf(typed: string): number[] {
  return typed
    .split(/[;,\n]+/)
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .map((part) => {
      const value = Number.parseFloat(part.replace(/\s+(?=\d)/g, ''));
      if (/km$/i.test(part)) return value * 1000;
      return /mi$/i.test(part) ? value * 1609.344 : value;
    });
}
