/** Columns of draws, and how readings move them: linear updates, a few times over for what bends. */

/** One figure in each draw. */
export type Column = Float64Array;

/** A reading: what was read, what each draw would have shown, and one standard uncertainty of reading it. */
export interface Observation {
  read: number;
  std: number;
}

/** How often the readings are taken in, each time with so much of their weight. */
const ROUNDS = 4;
/** From so many σ on a reading's say grows no faster than its error. */
const SOFT = 2.5;

/**
 * How far readings are from what the draws show that were moved by them, over how sure each is: √(χ²/n), 1
 * where they go together (R. T. Birge, Phys. Rev. 40 (1932) 207-227). Readings that cannot all be true stay away.
 */
export function birgeOf(readings: readonly Observation[], shown: readonly Column[]): number {
  const count = readings.length;
  const chi2 = readings.reduce(
    (sum, { read, std }, row) => sum + ((read - meanOf(shown[row] as Column)) / std) ** 2,
    0,
  );
  return chi2 > count + 2 * Math.sqrt(2 * count) ? Math.sqrt(chi2 / count) : 1;
}

/** The same random numbers every time: an answer repeats (mulberry32, public domain). */
export function generator(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/** Standard normal draws (G. E. P. Box and M. E. Muller, 1958). */
export function normals(count: number, random: () => number): Column {
  const made = new Float64Array(count);
  for (let index = 0; index < count; index += 2) {
    const size = Math.sqrt(-2 * Math.log(1 - random()));
    const turn = 2 * Math.PI * random();
    made[index] = size * Math.cos(turn);
    if (index + 1 < count) made[index + 1] = size * Math.sin(turn);
  }
  return made;
}

export function meanOf(values: ArrayLike<number>): number {
  let sum = 0;
  for (let index = 0; index < values.length; index += 1) sum += values[index] as number;
  return sum / Math.max(values.length, 1);
}

/** The figure that a share of the draws lies under. */
export function quantile(values: Column, share: number): number {
  const sorted = Float64Array.from(values).sort();
  const place = share * (sorted.length - 1);
  const low = Math.floor(place);
  const from = sorted[low] ?? 0;
  return from + (place - low) * ((sorted[low + 1] ?? from) - from);
}

/** What is left of a column beside its mean. */
function about(values: Column): Column {
  const mean = meanOf(values);
  return values.map((value) => value - mean);
}

function dot(a: Column, b: Column): number {
  let sum = 0;
  for (let index = 0; index < a.length; index += 1) {
    sum += (a[index] as number) * (b[index] as number);
  }
  return sum;
}

/** Less of a column than this beside the others is the others' own rounding [-]. */
const LEAST_BESIDE = 0.1;

/**
 * Draws that go along with none of the columns that are there. Of a few hundred draws two that have nothing
 * to do with each other go along by some hundredths, and a sharp reading would move one with the other.
 */
export class Apart {
  private readonly basis: Column[] = [];

  constructor(columns: readonly Column[]) {
    for (const column of columns) this.add(about(column));
  }

  /** Standard normal draws, apart from all columns and from those that were drawn before. */
  drawn(random: () => number): Column {
    const count = this.basis[0]?.length ?? 0;
    const left = this.beside(about(normals(count, random)));
    this.add(left);
    const size = Math.sqrt(dot(left, left) / Math.max(count - 1, 1));
    return left.map((one) => one / size);
  }

  /** What is left of a column beside those that are there. */
  private beside(column: Column): Column {
    const left = Float64Array.from(column);
    for (const one of this.basis) {
      const along = dot(left, one);
      for (let draw = 0; draw < left.length; draw += 1) {
        left[draw] = (left[draw] as number) - along * (one[draw] as number);
      }
    }
    return left;
  }

  private add(column: Column): void {
    // Half of the dimensions stay for what is drawn.
    if (this.basis.length > column.length / 2) return;
    const left = this.beside(column);
    const size = Math.sqrt(dot(left, left));
    if (size <= LEAST_BESIDE * Math.sqrt(dot(column, column))) return;
    this.basis.push(left.map((one) => one / size));
  }
}

/**
 * Moves columns to where they agree with what was read: along their regressions on what each draw would
 * have shown, in several rounds of which each takes a part of the readings' weight (ensemble smoother with
 * multiple data assimilation: A. A. Emerick and A. C. Reynolds, Computers & Geosciences 55 (2013) 3-15, from
 * memory).
 *
 * @param columns changed in place
 * @param look what each draw would show, one column a reading, by the columns as they are
 * @param apart draws errors of reading
 */
export function agree(
  columns: Column[],
  readings: readonly Observation[],
  look: () => Column[],
  apart = new Apart(columns),
): void {
  const count = columns[0]?.length ?? 0;
  if (readings.length === 0 || count < 2) return;
  const random = generator(20261129);
  for (let round = 0; round < ROUNDS; round += 1) {
    // New ones in every round, and none that pushes all draws one way.
    const errors = readings.map(() => apart.drawn(random));
    const shown = look();
    const centred = shown.map(about);
    const variances = readings.map(({ read, std }, row) => {
      const spread = Math.sqrt(dot(centred[row] as Column, centred[row] as Column) / (count - 1));
      const apart = Math.abs(read - meanOf(shown[row] as Column)) / Math.hypot(std, spread);
      return ROUNDS * (std * Math.max(1, apart / SOFT)) ** 2;
    });
    const inner = centred.map((a, row) =>
      centred.map(
        (b, col) => dot(a, b) / (count - 1) + (row === col ? (variances[row] as number) : 0),
      ),
    );
    const wanted = readings.map(({ read }, row) => {
      const size = Math.sqrt(variances[row] as number);
      const error = errors[row] as Column;
      return (shown[row] as Column).map((one, draw) => read + size * (error[draw] as number) - one);
    });
    const solved = solve(inner, wanted);
    for (const column of columns) {
      const own = about(column);
      for (const [row, step] of solved.entries()) {
        const gain = dot(own, centred[row] as Column) / (count - 1);
        if (gain === 0) continue;
        for (let draw = 0; draw < count; draw += 1) {
          column[draw] = (column[draw] as number) + gain * (step[draw] as number);
        }
      }
    }
  }
}

/** The columns X of A·X = B, for a symmetric A above nought (Cholesky). */
export function solve(matrix: readonly number[][], right: readonly Column[]): Column[] {
  const size = matrix.length;
  const lower: number[][] = [];
  for (let row = 0; row < size; row += 1) {
    const here: number[] = [];
    for (let col = 0; col <= row; col += 1) {
      let sum = matrix[row]?.[col] ?? 0;
      for (let k = 0; k < col; k += 1) sum -= (here[k] ?? 0) * (lower[col]?.[k] ?? here[k] ?? 0);
      if (row === col) here.push(Math.sqrt(Math.max(sum, 1e-18)));
      else here.push(sum / (lower[col]?.[col] ?? 1));
    }
    lower.push(here);
  }
  const found = right.map((column) => Float64Array.from(column));
  const subtract = (from: number, other: number, factor: number) => {
    const target = found[from] as Column;
    const source = found[other] as Column;
    for (let k = 0; k < target.length; k += 1) {
      target[k] = (target[k] as number) - factor * (source[k] as number);
    }
  };
  const divide = (row: number, by: number) => {
    const target = found[row] as Column;
    for (let k = 0; k < target.length; k += 1) target[k] = (target[k] as number) / by;
  };
  for (let row = 0; row < size; row += 1) {
    for (let k = 0; k < row; k += 1) subtract(row, k, lower[row]?.[k] ?? 0);
    divide(row, lower[row]?.[row] ?? 1);
  }
  for (let row = size - 1; row >= 0; row -= 1) {
    for (let k = row + 1; k < size; k += 1) subtract(row, k, lower[k]?.[row] ?? 0);
    divide(row, lower[row]?.[row] ?? 1);
  }
  return found;
}
