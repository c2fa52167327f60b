import { describe, expect, it } from 'vitest';
import {
  Apart,
  agree,
  birgeOf,
  type Column,
  generator,
  meanOf,
  normals,
  quantile,
  solve,
} from './ensemble';

const COUNT = 4000;
const std = (values: Column) => {
  const mean = meanOf(values);
  return Math.sqrt(meanOf(values.map((value) => (value - mean) ** 2)));
};

describe('draws', () => {
  it('are the same every time, and normal', () => {
    const made = normals(COUNT, generator(7));
    expect(made).toEqual(normals(COUNT, generator(7)));
    expect(meanOf(made)).toBeCloseTo(0, 1);
    expect(std(made)).toBeCloseTo(1, 1);
    // Nineteen of twenty lie within 1.96 (any table of the normal distribution).
    expect(quantile(made, 0.975)).toBeCloseTo(1.96, 1);
  });
});

describe('draws apart', () => {
  const random = generator(5);
  const x = normals(60, random);
  const y = x.map((value, draw) => 2 * value + Math.sin(draw));
  const along = (a: Column, b: Column) => {
    const [left, right] = [meanOf(a), meanOf(b)];
    return a.reduce((sum, one, k) => sum + (one - left) * ((b[k] as number) - right), 0);
  };

  it('go along with no column, nor with each other, and are standard', () => {
    const apart = new Apart([x, y]);
    const [first, second] = [apart.drawn(random), apart.drawn(random)];
    for (const other of [x, y, second]) expect(along(first, other)).toBeCloseTo(0, 8);
    expect(std(first) * Math.sqrt(60 / 59)).toBeCloseTo(1, 8);
  });
});

describe('readings together', () => {
  const shown = (mean: number) => Float64Array.from([mean - 1, mean, mean + 1]);
  const birge = (off: number[]) =>
    birgeOf(
      off.map((sigmas) => ({ read: 10 + 2 * sigmas, std: 2 })),
      off.map(() => shown(10)),
    );

  it('are as far off as √(χ²/n), and 1 where that is no more than chance', () => {
    // χ² of 2 is under 2 + 2·√4 = 6 in nineteen of twenty.
    expect(birge([1, 1])).toBe(1);
    expect(birge([3, 3])).toBeCloseTo(3, 9);
    expect(birge([0, 4])).toBeCloseTo(Math.sqrt(8), 9);
    expect(birgeOf([], [])).toBe(1);
  });
});

describe('a solved system', () => {
  it('gives its right side again', () => {
    const matrix = [
      [4, 1, 0.5],
      [1, 3, 0.2],
      [0.5, 0.2, 2],
    ];
    const right = [
      [1, 2],
      [3, -1],
      [0, 5],
    ].map((row) => Float64Array.from(row));
    const found = solve(matrix, right);
    for (const [row, wanted] of right.entries()) {
      for (let k = 0; k < 2; k += 1) {
        const sum = found.reduce(
          (total, column, col) => total + (matrix[row]?.[col] ?? 0) * (column[k] ?? 0),
          0,
        );
        expect(sum).toBeCloseTo(wanted[k] ?? 0, 9);
      }
    }
  });
});

describe('readings', () => {
  it('move normal draws to their closed form', () => {
    // Prior 10 ±2 read as 13 ±1: mean (10/4 + 13)/(1/4 + 1) = 12.4, u = 1/√1.25 = 0.894 (GUM, weighted mean).
    const x = normals(COUNT, generator(1)).map((z) => 10 + 2 * z);
    agree([x], [{ read: 13, std: 1 }], () => [Float64Array.from(x)]);
    expect(meanOf(x)).toBeCloseTo(12.4, 1);
    expect(std(x)).toBeCloseTo(0.894, 1);
  });

  it('move what goes along with what was read, and leave what does not', () => {
    const random = generator(3);
    const x = normals(COUNT, random);
    const along = x.map((value) => 5 - 3 * value);
    const apart = normals(COUNT, random);
    agree([x, along, apart], [{ read: 1, std: 0.1 }], () => [Float64Array.from(x)]);
    expect(meanOf(along)).toBeCloseTo(5 - 3 * meanOf(x), 6);
    expect(meanOf(apart)).toBeCloseTo(0, 1);
    expect(std(apart)).toBeCloseTo(1, 1);
  });

  it('are taken for what they are where the model bends', () => {
    // y = exp(x) read as e ±1%: x is 1 ±0.01.
    const x = normals(COUNT, generator(5)).map((z) => 0.8 + 0.5 * z);
    agree([x], [{ read: Math.E, std: 0.01 * Math.E }], () => [x.map(Math.exp)]);
    expect(meanOf(x)).toBeCloseTo(1, 1);
    expect(std(x)).toBeLessThan(0.06);
  });

  it('that nobody can believe move little more than those at the edge of belief', () => {
    const moved = (read: number) => {
      const x = normals(COUNT, generator(9));
      agree([x], [{ read, std: 1 }], () => [Float64Array.from(x)]);
      return meanOf(x);
    };
    expect(moved(40)).toBeLessThan(2.5 * moved(4));
  });
});
