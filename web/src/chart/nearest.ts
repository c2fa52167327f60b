/** Which of some values is nearest to one; null where there are none. */
export function nearest(values: readonly number[], wanted: number): number | null {
  let best: number | null = null;
  let least = Number.POSITIVE_INFINITY;
  for (const [index, value] of values.entries()) {
    const away = Math.abs(value - wanted);
    if (away < least) {
      least = away;
      best = index;
    }
  }
  return best;
}
