import { scaleLinear } from 'd3-scale';
import { describe, expect, it } from 'vitest';
import { apart } from './apart';
import { anchored, fitting, frameOf, withAir } from './frame';

describe('the frame of a drawing', () => {
  const wish = { width: 400, height: 200, em: 1, x: { title: 'mi', domain: [0, 20] as const } };

  it('gives its labels room and the plot the rest', () => {
    const y = { title: 'Wh', domain: [0, 12_000] as const };
    const { frame } = frameOf({ ...wish, y });
    expect(frame.left).toBeGreaterThan(5 * 7);
    expect(frame.x(0)).toBe(frame.left);
    expect(frame.x(20)).toBe(400 - frame.right);
    expect(frame.y(0)).toBe(200 - frame.bottom);
    expect(frame.y(12_000)).toBe(frame.top);
  });

  it('grows its margins with the reader’s text', () => {
    const y = { title: 'Wh', domain: [0, 100] as const };
    const usual = frameOf({ ...wish, y }).frame;
    const doubled = frameOf({ ...wish, y, em: 2 }).frame;
    expect(doubled.bottom).toBeGreaterThan(1.8 * usual.bottom);
    expect(doubled.left).toBeGreaterThan(1.5 * usual.left);
  });

  it('has as many labels as stand clear of each other, and fewer where they are long', () => {
    const scale = scaleLinear([0, 100], [0, 300]);
    const short = fitting(scale, () => 20);
    const long = fitting(scale, () => 90);
    expect(short.length).toBeGreaterThan(long.length);
    for (const [found, across] of [
      [short, 20],
      [long, 90],
    ] as const) {
      for (const [k, value] of found.entries()) {
        const next = found[k + 1];
        if (next !== undefined) expect(scale(next) - scale(value)).toBeGreaterThanOrEqual(across);
      }
    }
  });

  it('turns a label inward at the edges', () => {
    expect(anchored(5, 40, 400)).toBe('start');
    expect(anchored(200, 40, 400)).toBe('middle');
    expect(anchored(395, 40, 400)).toBe('end');
  });

  it('has air about values, even about one', () => {
    expect(withAir([10, 20])).toEqual([9.4, 20.6]);
    const [low, high] = withAir([5]);
    expect(low).toBeLessThan(5);
    expect(high).toBeGreaterThan(5);
  });
});

describe('labels of one column', () => {
  it('stay where they are while they are clear of each other', () => {
    expect(apart([10, 40, 90], 15, [0, 100])).toEqual([10, 40, 90]);
  });

  it('move apart, within the ends, and keep their order', () => {
    const found = apart([96, 95, 97], 15, [0, 100]);
    expect(found).toEqual([85, 70, 100]);
    expect(apart([2, 3], 15, [0, 100])).toEqual([2, 17]);
    expect(apart([-8], 15, [0, 100])).toEqual([0]);
  });
});
