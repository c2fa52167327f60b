import core from '../api/core.json';
import type { Units } from '../api/queries';
import { number, withUnit } from './number';

/** A field that holds a number, as the core describes it (`limpet.fields`). */
export interface FormField {
  name: string;
  label: string;
  asks: string;
  kind: keyof typeof core.units;
  shown: string;
  /** A unit that is shown instead of the rider's usual one. */
  unit: string;
  /** What one of that is in the core's. */
  factor: number | null;
  /** A value in the core's unit, for a hint. */
  example: number | null;
  needed: boolean;
  decimals?: number;
}

type FormName = keyof typeof core.forms;

interface UnitLine {
  unit: string;
  factor: number;
  zero: number;
  decimals: number | null;
}

/** The numbers of an entry, in the order of the core's list. */
export const ENTRY = core.entry as FormField[];
/** Numbers of an entry that only an event asks for. */
export const EVENT = core.event as FormField[];
/** What is kept back when nobody says. */
export const RESERVE: number = core.reserve;

/** The fields of a form. */
export function fieldsOf(form: FormName): FormField[] {
  return core.forms[form] as FormField[];
}

/** One field of a form. */
export function fieldOf(form: FormName, name: string): FormField {
  const found = fieldsOf(form).find((field) => field.name === name);
  if (found === undefined) throw new Error(`${form} has no field ${name}`);
  return found;
}

/** How a rider reads a kind of quantity: the unit, and what one of it is in the core's. */
export function lineOf(kind: FormField['kind'], units: Units): UnitLine {
  const { choice, units: lines } = core.units[kind] as {
    choice: keyof Units | null;
    units: Record<string, UnitLine>;
  };
  const line = lines[choice === null ? '' : (units[choice] ?? '')] ?? Object.values(lines)[0];
  if (line === undefined) throw new Error(`no unit for ${kind}`);
  return line;
}

/** A value of the core's in the rider's unit. */
export function inReaders(kind: FormField['kind'], value: number, units: Units): number {
  const { factor, zero } = lineOf(kind, units);
  return (value - zero) / factor;
}

const BARE = [
  ['_pct', '%'],
  ['_deg', '°'],
] as const;

/** What stands behind the number. */
export function unitOf(field: FormField, units: Units): string {
  if (field.shown === 'percent') return '%';
  // A bare number's unit stands in its name, as in the core's own table.
  if (field.shown === 'bare') return BARE.find(([end]) => field.name.endsWith(end))?.[1] ?? '';
  return field.unit || lineOf(field.kind, units).unit;
}

function factorOf(field: FormField, units: Units): { factor: number; zero: number } {
  if (field.shown === 'percent') return { factor: 0.01, zero: 0 };
  if (field.shown === 'bare') return { factor: 1, zero: 0 };
  if (field.factor !== null) return { factor: field.factor, zero: 0 };
  return lineOf(field.kind, units);
}

/** Nobody knows these to more than five digits. */
const COARSE = new Set<FormField['kind']>([
  'length',
  'speed',
  'temperature',
  'pressure',
  'consumption',
  'mass',
]);

/** A stored value as the rider would type it, without its unit: the field shows that. */
export function typedText(
  field: FormField,
  value: unknown,
  units: Units,
  decimals?: number,
): string {
  if (value == null || value === '') return '';
  const { factor, zero } = factorOf(field, units);
  const shown = (Number(value) - zero) / factor;
  if (decimals !== undefined) return shown.toFixed(decimals);
  // Enough digits to bring back what you entered in any unit, and no tail of a conversion.
  return String(Number(shown.toPrecision(COARSE.has(field.kind) ? 5 : 7)));
}

/** What was typed as the API takes it: text with its unit, or a number; null for nothing. */
export function sentOf(field: FormField, typed: string, units: Units): string | number | null {
  const text = typed.trim();
  if (text === '') return null;
  if (field.shown === 'unit') {
    return /[^\d\s.,+\-−' ]/.test(text) ? text : `${text} ${unitOf(field, units)}`;
  }
  const value = Number(text.replace(/[%°\s]/g, '').replace(',', '.'));
  // What is no number goes as it was typed, and the server says so beside its field.
  if (Number.isNaN(value)) return text;
  return field.shown === 'percent' ? Number((value / 100).toPrecision(12)) : value;
}

/** A number, and a unit behind it. */
const TYPED = /^([+\-−]?[\d\s',.]*\d)\s*([^\d\s].*)?$/;

/**
 * What was typed as a number in the core's unit, as far as this device understands it by itself; null
 * for what only the server reads.
 */
export function numberIn(field: FormField, typed: string, units: Units): number | null {
  const found = typed.trim().match(TYPED);
  if (!found) return null;
  const figure = Number((found[1] ?? '').replace('−', '-').replace(/[\s']/g, '').replace(',', '.'));
  if (Number.isNaN(figure)) return null;
  const unit = found[2]?.trim().toLowerCase();
  if (unit === undefined || unit === unitOf(field, units).toLowerCase()) {
    const { factor, zero } = factorOf(field, units);
    return figure * factor + zero;
  }
  const lines: UnitLine[] = Object.values(core.units[field.kind].units);
  const line = lines.find((one) => one.unit.toLowerCase() === unit);
  return line === undefined ? null : figure * line.factor + line.zero;
}

/** How a value is written in the rider's unit; nothing without an example. */
export function exampleOf(field: FormField, units: Units): string {
  if (field.example === null) return '';
  const { factor, zero } = factorOf(field, units);
  const size = (field.example - zero) / factor;
  const shown = field.unit ? size : Number(size.toPrecision(2));
  return `${shown} ${unitOf(field, units)}`.trim();
}

/** What is said below a field; a number in braces is one of the field's own, in the core's unit. */
export function asksOf(field: FormField, units: Units): string {
  return field.asks.replace(/\{([\d.]+)\}/g, (_, value: string) =>
    shownWithUnit(field, Number(value), units),
  );
}

/** What was typed into several fields of a form, by name. */
export type TypedFields = Record<string, string>;

/** Everything that was typed, as the API takes it. */
export function sentFields(fields: FormField[], typed: TypedFields, units: Units) {
  return Object.fromEntries(
    fields.map((field) => [field.name, sentOf(field, typed[field.name] ?? '', units)]),
  );
}

/** Everything that is stored, as a rider would type it. */
export function typedFields(fields: FormField[], stored: object, units: Units): TypedFields {
  const values = stored as Record<string, unknown>;
  return Object.fromEntries(
    fields.map((field) => [field.name, typedText(field, values[field.name], units)]),
  );
}

/** A stored value as it is read, without its unit. */
export function shownText(field: FormField, value: number, units: Units): string {
  return number(Number(typedText(field, value, units)), field.decimals);
}

/** The same with its unit. */
export function shownWithUnit(field: FormField, value: number, units: Units): string {
  return withUnit(shownText(field, value, units), unitOf(field, units));
}
