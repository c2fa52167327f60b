import type { Schemas } from '../api/client';
import type { Units } from '../api/queries';
import { ENTRY_FIELDS } from '../entries/fields';
import { type FormField, sentOf, unitOf } from '../format/fields';
import { say } from '../words/en/memory.ftl';

/** A column of the table that is written down: what it holds, and the unit its heading named. */
export interface MemoryColumn {
  name: string;
  unit: string;
}

export interface MemoryTable {
  columns: MemoryColumn[];
  rows: string[][];
}

/** Columns that hold words. */
const WORDS = [
  { value: 'clock', label: say('clock') },
  { value: 'note', label: say('note') },
  { value: 'place', label: say('place') },
  { value: 'mode', label: say('mode') },
];
/** A column that is not taken. */
export const LEFT_OUT = '';

/** What a column may hold. */
export const CHOICES = [
  { value: LEFT_OUT, label: say('left-out') },
  ...WORDS,
  ...ENTRY_FIELDS.map((field) => ({ value: field.name, label: field.label })),
];

/** A table to begin with: what most riders remember. */
export function emptyTable(): MemoryTable {
  return {
    columns: ['clock', 'trip_m', 'voltage_rest_v', 'gauge', 'note'].map((name) => ({
      name,
      unit: '',
    })),
    rows: Array.from({ length: 4 }, () => Array.from({ length: 5 }, () => '')),
  };
}

export function fieldOfColumn(column: MemoryColumn): FormField | undefined {
  return ENTRY_FIELDS.find((field) => field.name === column.name);
}

/** The unit that a column's bare numbers are in. */
export function unitOfColumn(column: MemoryColumn, units: Units): string {
  const field = fieldOfColumn(column);
  return field ? column.unit || unitOf(field, units) : '';
}

/** A pasted table as it was understood. */
export function tableOf(pasted: Schemas['PastedOut']): MemoryTable {
  return {
    columns: pasted.columns.map((column) => ({ name: column.name ?? LEFT_OUT, unit: column.unit })),
    rows: pasted.rows,
  };
}

/** The rows that hold anything, as the API takes them, and which row of the table each one is. */
export function sentRows(table: MemoryTable, units: Units) {
  const places: number[] = [];
  const entries = table.rows.flatMap((cells, row) => {
    const said = table.columns.flatMap((column, index) => {
      const text = (cells[index] ?? '').trim();
      if (column.name === LEFT_OUT || text === '') return [];
      const field = fieldOfColumn(column);
      if (field === undefined) return [[column.name, text] as const];
      const bare = /^[+\-−]?[\d\s.,']+$/.test(text);
      const typed = column.unit && bare ? `${text} ${column.unit}` : text;
      return [[column.name, sentOf(field, typed, units)] as const];
    });
    if (said.length === 0) return [];
    places.push(row);
    return [Object.fromEntries(said)];
  });
  return { entries, places };
}

/** Refusals of rows, by where they stand in the table: "row:column name". */
export function faultsOf(errors: Record<string, string>, places: number[]): Record<string, string> {
  return Object.fromEntries(
    Object.entries(errors).flatMap(([path, text]) => {
      const found = path.match(/^entries\.(\d+)\.(\w+)$/);
      if (!found) return [];
      return [[`${places[Number(found[1])] ?? 0}:${found[2]}`, text]];
    }),
  );
}
