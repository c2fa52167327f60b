/**
 * Places of labels along one line, moved so that none lies on another and all stay within the ends.
 *
 * @param wanted where each would stand [px]
 * @param gap the smallest distance between two of them [px]
 * @param ends the first and the last place there is [px]
 * @returns a place for each, in the order in which they came
 */
export function apart(
  wanted: readonly number[],
  gap: number,
  ends: readonly [number, number],
): number[] {
  const order = wanted.map((at, index) => ({ at, index })).sort((a, b) => a.at - b.at);
  // Each pushes the next down; the last is then pushed back within the end, and pushes back in turn.
  for (const [k, here] of order.entries()) {
    here.at = Math.max(here.at, k === 0 ? ends[0] : (order[k - 1]?.at ?? 0) + gap);
  }
  for (let k = order.length - 1; k >= 0; k -= 1) {
    const here = order[k];
    const limit = k === order.length - 1 ? ends[1] : (order[k + 1]?.at ?? 0) - gap;
    if (here) here.at = Math.min(here.at, limit);
  }
  const found = new Array<number>(wanted.length).fill(0);
  for (const { at, index } of order) found[index] = at;
  return found;
}
