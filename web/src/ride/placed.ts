/** What a reading may well be now, in the units it is typed in. */
export interface Expected {
  low: number;
  high: number;
  /** What it is likely close to. */
  near: number | null;
  /** A counter runs on from here: closeness is that of what was added. */
  from?: number;
}

/** How far a point may be moved to the left: a display shows so many decimals at the most. */
const MOST_DECIMALS = 3;

/**
 * What digits without a point may stand for: as they are, and with a point where it makes them
 * plausible. The first is offered; what holds a point was typed on purpose and stays.
 */
export function placed(typed: string, expected: Expected | null): number[] {
  const text = typed.replace(',', '.');
  const plain = Number(text);
  if (text === '' || text === '-' || Number.isNaN(plain)) return [];
  if (expected === null || text.includes('.')) return [plain];
  const fits = (value: number) => value >= expected.low && value <= expected.high;
  if (fits(plain)) return [plain];
  const moved: number[] = [];
  for (let places = 1; places <= MOST_DECIMALS; places += 1) {
    const value = Number((plain / 10 ** places).toPrecision(12));
    if (fits(value)) moved.push(value);
  }
  const { near, from } = expected;
  if (near !== null) {
    const off = (value: number) =>
      from === undefined || near <= from
        ? Math.abs(value - near)
        : Math.abs(Math.log(Math.max(value - from, 1e-6) / (near - from)));
    moved.sort((a, b) => off(a) - off(b));
  }
  return moved.length > 0 ? [moved[0] as number, plain] : [plain];
}
