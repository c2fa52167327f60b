/** Metres to a degree of latitude, as the core takes them (`limpet.figures.traces`). */
const METRES_PER_DEGREE = 111_132;

/** A place on the globe: longitude and latitude [deg], as GeoJSON has it (RFC 7946). */
export type Place = [number, number];

export interface Origin {
  latitude_deg: number;
  longitude_deg: number;
}

/** A place in metres east and north of an origin, on the globe: good to 0.1% over 20 km, for drawing. */
export function placeOf(
  { latitude_deg, longitude_deg }: Origin,
  east: number,
  north: number,
): Place {
  const shrink = Math.cos((latitude_deg * Math.PI) / 180);
  return [
    longitude_deg + east / (METRES_PER_DEGREE * shrink),
    latitude_deg + north / METRES_PER_DEGREE,
  ];
}

/** A circle about a place, closed [m]. */
export function ringOf(origin: Origin, east: number, north: number, radius: number): Place[] {
  const points = 96;
  return Array.from({ length: points + 1 }, (_, k) => {
    const angle = (2 * Math.PI * k) / points;
    return placeOf(origin, east + radius * Math.cos(angle), north + radius * Math.sin(angle));
  });
}

export interface Extent {
  west: number;
  south: number;
  east: number;
  north: number;
}

/** The least box about some places. */
export function extentOf(places: readonly Place[]): Extent {
  const longitudes = places.map(([longitude]) => longitude);
  const latitudes = places.map(([, latitude]) => latitude);
  return {
    west: Math.min(...longitudes),
    south: Math.min(...latitudes),
    east: Math.max(...longitudes),
    north: Math.max(...latitudes),
  };
}

/** Lines of a plain grid stand so far apart [m]: round in the reader's unit, some six to a track. */
export function gridStep(spanM: number, unitM: number): number {
  const rough = spanM / unitM / 6;
  const power = 10 ** Math.floor(Math.log10(Math.max(rough, 1e-6)));
  const step = [1, 2, 5, 10].map((k) => k * power).find((size) => size >= rough) ?? rough;
  return step * unitM;
}

/** A plain grid about a track of such a size, in metres from its origin. */
export function gridOf(origin: Origin, spanM: number, stepM: number): Place[][] {
  // Far enough that it fills the frame whichever way the track lies.
  const count = Math.min(Math.ceil((2 * spanM) / stepM), 40);
  const far = count * stepM;
  const lines: Place[][] = [];
  for (let k = -count; k <= count; k += 1) {
    lines.push([placeOf(origin, k * stepM, -far), placeOf(origin, k * stepM, far)]);
    lines.push([placeOf(origin, -far, k * stepM), placeOf(origin, far, k * stepM)]);
  }
  return lines;
}
