export type Cell = string | number | null;

/** What a drawing shows, as a table. */
export interface Values {
  columns: readonly string[];
  rows: ReadonlyArray<readonly Cell[]>;
}

/** Rows shown on the page; the file has them all. */
export const SHOWN_ROWS = 60;

/** A cell of the table as it is read. */
export function cellText(cell: Cell): string {
  if (cell === null) return '–';
  return typeof cell === 'string' ? cell : plainNumber(cell).replace('-', '−');
}

const plainNumber = (value: number) => String(Number(value.toPrecision(5)));

/**
 * The values as comma-separated text: a point as the decimal mark, one line a row.
 *
 * A text that a spreadsheet would take for a formula gets an apostrophe before it.
 */
export function csvOf({ columns, rows }: Values): string {
  const lines = [columns, ...rows].map((row) => row.map(csvCell).join(','));
  return `${lines.join('\r\n')}\r\n`;
}

function csvCell(cell: Cell): string {
  if (cell === null) return '';
  if (typeof cell === 'number') return plainNumber(cell);
  const safe = /^[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

/** Every row, or some evenly among them where there are too many to read. */
export function shownRows({ rows }: Values): Values['rows'] {
  if (rows.length <= SHOWN_ROWS) return rows;
  const step = (rows.length - 1) / (SHOWN_ROWS - 1);
  return Array.from({ length: SHOWN_ROWS }, (_, k) => rows[Math.round(k * step)] ?? []);
}
