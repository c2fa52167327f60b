import type { Leg, Route } from '../api/queries';

/** A route's heights along its way, ready to draw. */
export interface Heights {
  distance_m: number[];
  height_m: number[];
}

/** A plain path in metres east and north of the start. */
export interface PlainPath {
  east_m: number[];
  north_m: number[];
  /** Along the route, for marks [m]. */
  distance_m: number[];
}

export function heightsOf(route: Pick<Route, 'profile' | 'legs'>): Heights {
  if (route.profile) {
    return { distance_m: route.profile.distance_m, height_m: route.profile.height_m };
  }
  return heightsOfLegs(route.legs);
}

/** Each leg goes up, then down, as the forecast takes it. */
export function heightsOfLegs(
  legs: ReadonlyArray<Pick<Leg, 'length_m' | 'climb_m' | 'descent_m'>>,
): Heights {
  const found: Heights = { distance_m: [0], height_m: [0] };
  let at = 0;
  let height = 0;
  for (const leg of legs) {
    const both = leg.climb_m + leg.descent_m;
    const turn = both > 0 ? (leg.length_m * leg.climb_m) / both : leg.length_m;
    if (leg.climb_m > 0 && leg.descent_m > 0) {
      found.distance_m.push(at + turn);
      found.height_m.push(height + leg.climb_m);
    }
    at += leg.length_m;
    height += leg.climb_m - leg.descent_m;
    found.distance_m.push(at);
    found.height_m.push(height);
  }
  return found;
}

/** Where a route goes, when that is known: a track, or legs that all have a bearing. */
export function pathOf(route: Pick<Route, 'profile' | 'legs'>): PlainPath | null {
  if (route.profile) return route.profile;
  if (route.legs.some((leg) => leg.bearing_deg == null)) return null;
  const found: PlainPath = { east_m: [0], north_m: [0], distance_m: [0] };
  let [east, north, at] = [0, 0, 0];
  for (const leg of route.legs) {
    const angle = ((leg.bearing_deg ?? 0) * Math.PI) / 180;
    east += leg.length_m * Math.sin(angle);
    north += leg.length_m * Math.cos(angle);
    at += leg.length_m;
    found.east_m.push(east);
    found.north_m.push(north);
    found.distance_m.push(at);
  }
  return found;
}

/** A value along a polyline, between its points. */
export function along(at: number[], values: number[], metres: number): number {
  const after = at.findIndex((point) => point >= metres);
  if (after < 0) return values.at(-1) ?? 0;
  if (after === 0) return values[0] ?? 0;
  const from = at[after - 1] ?? 0;
  const part = (metres - from) / Math.max((at[after] ?? 0) - from, 1e-9);
  const before = values[after - 1] ?? 0;
  return before + part * ((values[after] ?? 0) - before);
}
