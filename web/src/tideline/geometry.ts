import type { Strip } from '../api/queries';

export interface Frame {
  width: number;
  height: number;
  left: number;
  right: number;
  top: number;
  bottom: number;
  /** The distance at the right edge [m]. */
  lengthM: number;
}

export function xOf(frame: Frame, metres: number): number {
  return frame.left + (metres / frame.lengthM) * (frame.width - frame.left - frame.right);
}

export function yOf(frame: Frame, energyLeft: number): number {
  return frame.top + (1 - energyLeft) * (frame.height - frame.top - frame.bottom);
}

function point(frame: Frame, metres: number, energyLeft: number): string {
  return `${xOf(frame, metres).toFixed(1)} ${yOf(frame, energyLeft).toFixed(1)}`;
}

/** The ebbing line, and the same closed down to empty for the wash under it. */
export function linePaths(
  frame: Frame,
  strip: Pick<Strip, 'distance_m' | 'energy_left'>,
): { line: string; area: string } | null {
  const points = strip.distance_m.map((metres, index) =>
    point(frame, metres, strip.energy_left[index] ?? 0),
  );
  const last = strip.distance_m.at(-1);
  const first = strip.distance_m[0];
  if (points.length < 2 || last === undefined || first === undefined) return null;
  const line = `M${points.join('L')}`;
  return { line, area: `${line}L${point(frame, last, 0)}L${point(frame, first, 0)}Z` };
}

/** From the ride's end to where the pack would end: the middle line and the widening band. */
export function forecastPaths(frame: Frame, strip: Strip): { middle: string; band: string } | null {
  const from = strip.distance_m.at(-1);
  const left = strip.energy_left.at(-1);
  if (strip.measured || strip.cutoff_m == null || from === undefined || left === undefined) {
    return null;
  }
  const [low, value, high] = strip.cutoff_m as [number, number, number];
  const start = point(frame, from, left);
  return {
    middle: `M${start}L${point(frame, value, 0)}`,
    band: `M${start}L${point(frame, Math.max(low, from), 0)}L${point(frame, high, 0)}Z`,
  };
}

/** The level of a tide at a distance, between its points. */
function levelAt(tide: Strip['tides'][number], metres: number): number {
  const after = tide.distance_m.findIndex((at) => at >= metres);
  if (after <= 0) return tide.energy_left[after < 0 ? tide.energy_left.length - 1 : 0] ?? 0;
  const [from = 0, to = 0] = [tide.distance_m[after - 1], tide.distance_m[after]];
  const [begin = 0, end = 0] = [tide.energy_left[after - 1], tide.energy_left[after]];
  return to > from ? begin + ((metres - from) / (to - from)) * (end - begin) : end;
}

/** A strip whose marks lie on the tide of the pack that was in use; one pack's strip as it is. */
export function onTides(strip: Strip): Strip {
  if (strip.tides.length < 2) return strip;
  const marks = strip.marks.map((mark) => {
    const tide = strip.tides.find((item) => mark.distance_m <= (item.distance_m.at(-1) ?? 0) + 1);
    return tide ? { ...mark, energy_left: levelAt(tide, mark.distance_m) } : mark;
  });
  return { ...strip, marks };
}

/** What goes on from where the last pack stands. */
export function lastTide(strip: Strip): Strip {
  const tide = strip.tides.at(-1);
  if (strip.tides.length < 2 || tide === undefined) return strip;
  return { ...strip, distance_m: tide.distance_m, energy_left: tide.energy_left };
}

/** How long a scale must be to show a strip whole, its likely end included [m]. */
export function reachOf(strip: Strip): number {
  const cutoff = strip.cutoff_m;
  const ridden = Math.max(strip.ridden_m ?? 0, strip.limp_to_m ?? 0);
  if (cutoff == null) return ridden;
  const [, value = 0, high = 0] = cutoff;
  // A band that says "anything up to ten times as far" must not squeeze the ride to nothing.
  return Math.max(ridden, Math.min(high, 1.35 * value));
}

/** Shorter than this no ground is drawn [m]: of a ride that has hardly begun the ticks would be of feet. */
const LEAST_GROUND_M = 1000;

/** How much ground a strip is drawn on, with the band that was planned for it [m]. */
export function groundOf(strip: Strip, band: { distance_m: readonly number[] } | null): number {
  const reach = Math.max(reachOf(strip), band?.distance_m.at(-1) ?? 0);
  return Math.max(reach * 1.04, LEAST_GROUND_M);
}

/** Round steps for an axis, about five of them unless a step is asked for. */
export function ticks(longest: number, rough = longest / 5): number[] {
  if (longest <= 0) return [0];
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((k) => k * power).find((size) => size >= rough) ?? rough;
  const found: number[] = [];
  for (let at = 0; at <= longest * 1.0001; at += step) found.push(Number(at.toFixed(6)));
  return found;
}

/**
 * Round steps whose labels stand apart: with large text on a narrow screen there are fewer than five.
 *
 * @param width of the axis [px]
 * @param charWidth of a character of its labels [px]
 */
export function ticksApart(longest: number, width: number, charWidth: number): number[] {
  const digits = Math.max(4, String(ticks(longest).at(-1) ?? 0).length);
  const room = ((digits + 1.5) * charWidth * longest) / Math.max(width, 1);
  return ticks(longest, Math.max(longest / 5, room));
}

export interface PlacedLabel {
  x: number;
  text: string;
}

/** Labels that do not run into each other; what finds no room is left to the table below. */
export function placeLabels(
  wanted: ReadonlyArray<{ x: number; text: string; weight: number }>,
  charWidth: number,
): PlacedLabel[] {
  const placed: Array<PlacedLabel & { from: number; to: number }> = [];
  const order = wanted.map((item, index) => ({ ...item, index }));
  order.sort((a, b) => b.weight - a.weight || a.index - b.index);
  for (const item of order) {
    const half = (item.text.length * charWidth) / 2 + 5;
    const from = item.x - half;
    const to = item.x + half;
    if (placed.every((other) => to < other.from || from > other.to)) {
      placed.push({ x: item.x, text: item.text, from, to });
    }
  }
  return placed.map(({ x, text }) => ({ x, text }));
}
