import { area, line } from 'd3-shape';

type Place = readonly [number, number];
type Known = Place | null;

/** A line through places [px]; a gap where one is not known. */
export function linePath(places: readonly Known[]): string {
  const draw = line<Known>()
    .defined((place) => place !== null)
    .x((place) => place?.[0] ?? 0)
    .y((place) => place?.[1] ?? 0)
    .digits(1);
  return draw(places) ?? '';
}

/** An area between two heights at each place: x, one edge, the other [px]. */
export function areaPath(places: ReadonlyArray<readonly [number, number, number] | null>): string {
  const draw = area<readonly [number, number, number] | null>()
    .defined((place) => place !== null)
    .x((place) => place?.[0] ?? 0)
    .y0((place) => place?.[1] ?? 0)
    .y1((place) => place?.[2] ?? 0)
    .digits(1);
  return draw(places) ?? '';
}
