import { expect, test } from 'vitest';
import {
  canSwapDayMonth,
  type LogMapping,
  type Look,
  type Part,
  takeOf,
  UNCHOSEN,
  withDayMonthSwapped,
  withQuantity,
  withSign,
  withUnit,
} from './choices';

const column = (source: string, quantity: string, more = {}) =>
  ({ source, quantity, unit: '', factor: 1, sign: 1, pack: null, cell: null, ...more }) as never;
const MAPPING = {
  limpet_mapping: 1,
  instrument: 'Meter',
  time: { sources: ['Time'], form: 'text', format: '%d/%m/%Y %H:%M:%S' },
  columns: [column('U', 'voltage_v'), column('I', 'current_a')],
} as unknown as LogMapping;
const PART = {
  key: 3,
  name: 'a.csv',
  what: 'table',
  form: 'csv',
  size: 1,
  fault: '',
  seen: null,
} as Part;

test('one column stands for each quantity: the one before gives way', () => {
  const changed = withQuantity(MAPPING, 'X', 'voltage_v');
  expect(changed.columns.map((c) => [c.source, c.quantity])).toEqual([
    ['I', 'current_a'],
    ['X', 'voltage_v'],
  ]);
  expect(withQuantity(MAPPING, 'U', null).columns).toHaveLength(1);
});

test('cells are many, and are counted', () => {
  const one = withQuantity(MAPPING, 'C1', 'cell_v');
  const two = withQuantity(one, 'C2', 'cell_v');
  expect(two.columns.filter((c) => c.quantity === 'cell_v').map((c) => c.cell)).toEqual([1, 2]);
});

test('unit, sign and the order of a date are changed one by one', () => {
  expect(withUnit(MAPPING, 'U', '0.1 V').columns[0]).toMatchObject({ unit: 'V', factor: 0.1 });
  expect(withSign(MAPPING, 'I', true).columns[1]?.sign).toBe(-1);
  expect(canSwapDayMonth(MAPPING)).toBe(true);
  const iso = { ...MAPPING, time: { ...MAPPING.time, format: '%Y-%m-%dT%H:%M:%S' } };
  expect(canSwapDayMonth(iso)).toBe(false);
  expect(withDayMonthSwapped(MAPPING).time.format).toBe('%m/%d/%Y %H:%M:%S');
});

test('what is sent of a part goes by what it is and what was chosen', () => {
  const log = { kind: 'log', mapping: MAPPING } as Look;
  const track = { kind: 'track' } as Look;
  expect(takeOf(PART, log, UNCHOSEN)).toMatchObject({
    key: 3,
    use: 'log',
    mapping: MAPPING,
    cut: null,
  });
  expect(takeOf(PART, log, { ...UNCHOSEN, left: true }).use).toBe('leave');
  expect(takeOf(PART, track, { ...UNCHOSEN, offset_s: 4 })).toMatchObject({
    use: 'track',
    offset_s: 4,
  });
  expect(takeOf(PART, track, { ...UNCHOSEN, route: true }).use).toBe('route');
  expect(takeOf({ ...PART, what: 'picture' }, undefined, UNCHOSEN).use).toBe('photo');
});
