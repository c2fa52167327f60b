import core from '../api/core.json';
import type { TestDetail, Units } from '../api/queries';
import { type FormField, sentOf, shownWithUnit, typedText } from '../format/fields';
import { limpTable, limpText } from '../format/limp';
import { day } from '../format/units';
import { choicesOf, labelOf } from '../format/words';
import { say } from '../words/en/sheet.ftl';

export type PartName = keyof typeof core.sheet;
export type Sheet = NonNullable<TestDetail['sheet']>;
export type Values = Record<string, unknown>;

/** A field of a part of the sheet, as the core describes it (`limpet.evidence.sheet`). */
export interface SheetItem {
  name: string;
  kind: 'number' | 'whole' | 'choice' | 'text' | 'lines' | 'flag' | 'moment' | 'steps' | 'tags';
  label: string;
  asks: string;
  number: FormField | null;
  choices: string;
  longest: number;
  needed: boolean;
}

export const PART_NAMES = Object.keys(core.sheet) as PartName[];

export function labelOfPart(part: PartName): string {
  return core.sheet[part].label;
}

export function itemsOf(part: PartName): SheetItem[] {
  return core.sheet[part].items as SheetItem[];
}

/** What a part holds, by its fields' names. */
export function valuesOf(sheet: Sheet, part: PartName): Values {
  return sheet.parts[part] as unknown as Values;
}

type Rows = Parameters<typeof limpText>[0];

/** A stored value as its field is typed into; tags stay a list. */
export function typedValue(item: SheetItem, value: unknown, units: Units): string | string[] {
  if (item.kind === 'tags') return (value as string[] | null) ?? [];
  if (value == null) return '';
  if (item.kind === 'number' && item.number) return typedText(item.number, value, units);
  if (item.kind === 'steps') return limpText(value as Rows, units);
  if (item.kind === 'flag') return value ? say('yes') : say('no-here');
  return String(value);
}

/** What was typed as the API takes it; a field left as it was goes back exactly. */
export function sentValue(
  item: SheetItem,
  typed: string | string[],
  stored: unknown,
  units: Units,
): unknown {
  if (Array.isArray(typed)) return typed;
  const before = typedValue(item, stored, units);
  if (typed === before && item.kind !== 'steps') return stored ?? null;
  if (item.kind === 'steps') return limpTable(typed, units);
  const text = typed.trim();
  if (text === '') return null;
  if (item.kind === 'number' && item.number) return sentOf(item.number, text, units);
  if (item.kind === 'whole') return Number.isNaN(Number(text)) ? text : Number(text);
  if (item.kind === 'flag') return text === 'yes';
  return text;
}

/** A value as it is read, with its unit; nothing for what nobody said. */
export function shownValue(item: SheetItem, value: unknown, units: Units): string {
  if (value == null || value === '' || (Array.isArray(value) && value.length === 0)) return '';
  if (item.kind === 'number' && item.number) {
    return shownWithUnit(item.number, Number(value), units);
  }
  if (item.kind === 'choice') return labelOf(choicesOf(item.choices), String(value));
  if (item.kind === 'flag') return value ? say('yes') : say('no-here');
  if (item.kind === 'steps') return limpText(value as Rows, units);
  if (item.kind === 'tags') return (value as string[]).join(', ');
  if (item.kind === 'moment') return `${day(String(value))} ${String(value).slice(11, 16)}`;
  return String(value);
}

/** What was noted of a part: each with its name. */
export function notedOf(part: PartName, values: Values, units: Units) {
  return itemsOf(part)
    .map((item) => ({ label: item.label, shown: shownValue(item, values[item.name], units) }))
    .filter(({ shown }) => shown !== '');
}

/** The fields that two versions of a part have otherwise, in words. */
export function differenceOf(part: PartName, before: Values, after: Values, units: Units) {
  return itemsOf(part)
    .map((item) => ({
      label: item.label,
      before: shownValue(item, before[item.name], units) || say('not-noted'),
      after: shownValue(item, after[item.name], units) || say('not-noted'),
    }))
    .filter((row) => row.before !== row.after);
}
