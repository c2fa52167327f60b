import type { Strip } from '../api/queries';

/** Places along the shared distance at which a side's tides are averaged. */
const PLACES = 60;

/** Energy left at a distance, on the straight line between a tide's places. */
export function leftAt({ distance_m, energy_left }: Strip, metres: number): number {
  const after = distance_m.findIndex((one) => one >= metres);
  if (after < 0) return energy_left.at(-1) ?? 0;
  const [to, high] = [distance_m[after] ?? 0, energy_left[after] ?? 0];
  if (after === 0) return high;
  const [from, low] = [distance_m[after - 1] ?? 0, energy_left[after - 1] ?? 0];
  return to === from ? high : low + ((high - low) * (metres - from)) / (to - from);
}

export interface Gap {
  distance_m: number[];
  first: number[];
  second: number[];
}

/** The average tide of each side as far as all of them went; null where a side has none. */
export function gapOf(first: readonly Strip[], second: readonly Strip[]): Gap | null {
  if (first.length === 0 || second.length === 0) return null;
  const far = Math.min(...[...first, ...second].map((strip) => strip.distance_m.at(-1) ?? 0));
  if (!(far > 0)) return null;
  const distance_m = Array.from({ length: PLACES + 1 }, (_, k) => (far * k) / PLACES);
  const mean = (strips: readonly Strip[]) =>
    distance_m.map(
      (metres) => strips.reduce((sum, strip) => sum + leftAt(strip, metres), 0) / strips.length,
    );
  return { distance_m, first: mean(first), second: mean(second) };
}
