import type { Schemas } from '../api/client';
import { type Quantity, unitSent, usualUnit } from './quantities';

export type Drop = Schemas['DropOut'];
export type Part = Schemas['DroppedPartOut'];
export type Look = Schemas['LookOut'];
export type LogMapping = Schemas['LogMapping'];
export type ColumnRead = Schemas['ColumnRead'];
export type Match = Schemas['MatchOut'];
export type Brought = Schemas['BroughtOut'];
export type Cut = Schemas['CutIn'];

/** What a rider chose for a part, beyond what it was taken for. */
export interface Choice {
  use?: 'log' | 'records';
  mapping?: LogMapping;
  record_columns?: Schemas['RecordColumnIO'][];
  skip: number[];
  /** Seconds that its clock is moved by; null until somebody, or a sure match, says so. */
  offset_s: number | null;
  cut: Cut;
  left: boolean;
  /** Which of the rides that it holds; null for all of it. */
  ride: number | null;
  /** Whether a track is saved as a route. */
  route: boolean;
}

export const UNCHOSEN: Choice = {
  skip: [],
  offset_s: null,
  cut: { first_m: 0, last_m: 0, leaps: false },
  left: false,
  ride: null,
  route: false,
};

/** A mapping in which a column is taken for something else, or left aside. */
export function withQuantity(
  mapping: LogMapping,
  source: string,
  quantity: Quantity | null,
): LogMapping {
  const others = mapping.columns.filter((column) => column.source !== source);
  if (quantity === null) return { ...mapping, columns: others };
  const old = mapping.columns.find((column) => column.source === source);
  // One column for each: what was taken for it before gives way. Cells are many.
  const kept = others.filter(
    (column) => column.quantity !== quantity || quantity === 'cell_v' || column.pack != null,
  );
  const cells = kept.filter((column) => column.quantity === 'cell_v').length;
  const column: ColumnRead = {
    source,
    quantity,
    unit: usualUnit(quantity),
    factor: 1,
    sign: old?.sign ?? 1,
    pack: null,
    cell: quantity === 'cell_v' ? cells + 1 : null,
  };
  return { ...mapping, columns: [...kept, column] };
}

/** A mapping in which a column is in another unit. */
export function withUnit(mapping: LogMapping, source: string, choice: string): LogMapping {
  return changed(mapping, source, unitSent(choice));
}

/** A mapping in which a column counts the other way. */
export function withSign(mapping: LogMapping, source: string, turned: boolean): LogMapping {
  return changed(mapping, source, { sign: turned ? -1 : 1 });
}

function changed(mapping: LogMapping, source: string, with_: Partial<ColumnRead>): LogMapping {
  return {
    ...mapping,
    columns: mapping.columns.map((column) =>
      column.source === source ? { ...column, ...with_ } : column,
    ),
  };
}

/** Whether day and month could be the other way round: a date that begins with its year says which is which. */
export function canSwapDayMonth(mapping: LogMapping): boolean {
  return /^%[dm]\W%[dm]\W/.test(mapping.time.format ?? '');
}

/** A mapping whose dates are read with day and month the other way round. */
export function withDayMonthSwapped(mapping: LogMapping): LogMapping {
  const format = (mapping.time.format ?? '').replace(/%d|%m/g, (part) =>
    part === '%d' ? '%m' : '%d',
  );
  return { ...mapping, time: { ...mapping.time, format } };
}

/** What becomes of a part, as it is sent. */
export function takeOf(part: Part, look: Look | undefined, choice: Choice): Schemas['TakeIn'] {
  const use = choice.left
    ? 'leave'
    : part.what === 'picture'
      ? 'photo'
      : look?.kind === 'track'
        ? choice.route
          ? 'route'
          : 'track'
        : (look?.kind ?? 'leave');
  return {
    key: part.key,
    use,
    mapping: use === 'log' ? (choice.mapping ?? look?.mapping ?? null) : null,
    record_columns:
      use === 'records' ? (choice.record_columns ?? look?.record_columns ?? null) : null,
    skip: use === 'records' ? choice.skip : [],
    offset_s: choice.offset_s ?? 0,
    span: choice.ride === null ? null : (look?.rides?.[choice.ride] ?? null),
    cut: look?.kind === 'track' ? choice.cut : null,
  };
}
