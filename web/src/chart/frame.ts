import { type ScaleLinear, scaleLinear } from 'd3-scale';

/** One axis as a drawing wishes for it. */
export interface AxisOf {
  /** What is measured, and its unit. */
  title: string;
  /** The values at its two ends; the first may be the larger. */
  domain: readonly [number, number];
  text?: (value: number) => string;
  /** Where labels stand; by default round values, as many as fit. */
  ticks?: readonly number[];
}

export type Scale = ScaleLinear<number, number>;

/** Where a drawing may draw, and its scales [px]. */
export interface Frame {
  width: number;
  height: number;
  left: number;
  right: number;
  top: number;
  bottom: number;
  x: Scale;
  y: Scale;
  /** How much larger than usual the reader has set the text. */
  em: number;
}

/** Sizes at the usual text size [px]. */
export const CHAR = 7.5;
export const LINE = 17;
const GAP = 10;

/** The text of a tick where its axis has none of its own. */
export const plain = (value: number): string =>
  String(Number(value.toPrecision(6))).replace('-', '−');

/** How wide a text of the labels is, about [px]. */
export const wide = (text: string, em = 1): number => text.length * CHAR * em;

/**
 * As many round values as have room beside each other.
 *
 * @param across how many pixels apart two labels must stand: their width along, their height up
 */
export function fitting(scale: Scale, across: (value: number) => number, most = 8): number[] {
  for (let count = most; count > 1; count -= 1) {
    const found = scale.ticks(count);
    const apart = found.every((value, at) => {
      const next = found[at + 1];
      if (next === undefined) return true;
      return Math.abs(scale(next) - scale(value)) >= (across(value) + across(next)) / 2 + GAP;
    });
    if (apart) return found;
  }
  // Not even two have room: the ends of the axis alone say where it lies.
  return scale.domain();
}

/** A little air about values, so that none lies on the edge; one value alone has air too. */
export function withAir(values: readonly number[], share = 0.06): [number, number] {
  const least = Math.min(...values);
  const most = Math.max(...values);
  const air = (most - least || Math.abs(most) || 1) * share;
  return [least - air, most + air];
}

interface Wish {
  width: number;
  height: number;
  em: number;
  x: AxisOf;
  y?: AxisOf | undefined;
  /** Room beside the plot for labels of its own, at the usual text size [px]. */
  left?: number | undefined;
  right?: number | undefined;
}

export interface Drawn {
  frame: Frame;
  xTicks: readonly number[];
  yTicks: readonly number[];
}

/** The frame of a drawing: room for the labels that it has, then what is left for the plot. */
export function frameOf({ width, height, em, x, y, left, right = 14 }: Wish): Drawn {
  const bottom = LINE * em * 2 + 4;
  const top = y ? LINE * em + 6 : 8;
  const yScale = scaleLinear(y?.domain ?? [0, 1], [height - bottom, top]);
  const yTicks = y ? (y.ticks ?? fitting(yScale, () => 12 * em, 5)) : [];
  const yText = y?.text ?? plain;
  const widest = Math.max(0, ...yTicks.map((tick) => wide(yText(tick), em)));
  const edge = left === undefined ? Math.max(widest + 10, 8) : left * em;
  const xScale = scaleLinear(x.domain, [edge, Math.max(width - right * em, edge + 40)]);
  const xText = x.text ?? plain;
  const xTicks = x.ticks ?? fitting(xScale, (value) => wide(xText(value), em));
  const frame = { width, height, em, left: edge, right: right * em, top, bottom };
  return { frame: { ...frame, x: xScale, y: yScale }, xTicks, yTicks };
}

/** How a label stands about its place, so that it stays within the drawing. */
export function anchored(at: number, long: number, width: number): 'start' | 'middle' | 'end' {
  if (at - long / 2 < 0) return 'start';
  return at + long / 2 > width ? 'end' : 'middle';
}
