/** Classes of consumption, from the least to the most: width says it too, not colour alone. */
const CLASSES = 5;

/** Limits between the classes: quantiles of what was used, so that each holds as much of the ride. */
export function limitsOf(values: Array<number | null>): number[] {
  const known = values.filter((value) => value !== null).sort((a, b) => a - b);
  if (known.length < CLASSES) return [];
  return Array.from(
    { length: CLASSES - 1 },
    (_, index) => known[Math.floor((known.length * (index + 1)) / CLASSES)] ?? 0,
  );
}

export interface Run {
  from: number;
  to: number;
  class: number;
}

/** Pieces of the ride of one class each; each begins where the one before ends. */
export function runsOf(values: Array<number | null>, limits: number[]): Run[] {
  const classOf = (value: number | null | undefined) =>
    value == null ? 0 : limits.filter((limit) => value > limit).length + 1;
  const runs: Run[] = [];
  for (let index = 0; index + 1 < values.length; index += 1) {
    const here = classOf(values[index + 1]);
    const last = runs.at(-1);
    if (last !== undefined && last.class === here) last.to = index + 1;
    else runs.push({ from: index, to: index + 1, class: here });
  }
  return runs;
}
