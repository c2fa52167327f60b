import { whoIsHere } from './acts';
import { type Act, type KeptPoint, type Point, store, type Track } from './store';

/** A fix is kept no more often than this [s]: position is what drains a phone. */
export const EVERY_S = 4;
/** Fixes that are further off than this say nothing [m]. */
const WORST_M = 60;
/** So many fixes, or so long a time, make a piece that is sent. */
const PIECE_POINTS = 60;
const PIECE_S = 120;
/** Less than this between two fixes is standing and jitter [m]. */
const LEAST_STEP_M = 4;
/** A longer silence was a locked screen or a tunnel: nothing is said of the way in it [s]. */
const GAP_S = 60;

/** Mean radii of WGS 84 along and across the meridian at a latitude [m]. */
function radii(latitude_deg: number): { along: number; across: number } {
  const a = 6378137;
  const e2 = 0.00669437999014;
  const s2 = Math.sin((latitude_deg * Math.PI) / 180) ** 2;
  const across = a / Math.sqrt(1 - e2 * s2);
  return { along: (across * (1 - e2)) / (1 - e2 * s2), across };
}

/**
 * Between two places that are close together, on the ellipsoid: within a millionth over 10 km of the
 * geodesic. It is for the line at the roadside; the track's own length is the core's.
 */
export function stepMetres(a: Point, b: Point): number {
  const middle = (a.latitude_deg + b.latitude_deg) / 2;
  const { along, across } = radii(middle);
  const north = ((b.latitude_deg - a.latitude_deg) * Math.PI) / 180;
  let turn = b.longitude_deg - a.longitude_deg;
  if (turn > 180) turn -= 360;
  if (turn < -180) turn += 360;
  const east = ((turn * Math.PI) / 180) * Math.cos((middle * Math.PI) / 180);
  return Math.hypot(north * along, east * across);
}

/** A fix as the browser gives it, on a ride's own time. */
export function pointOf(position: GeolocationPosition, startedAt: string): Point {
  const { coords, timestamp } = position;
  return {
    time_s: Math.round(timestamp - new Date(startedAt).getTime()) / 1000,
    latitude_deg: coords.latitude,
    longitude_deg: coords.longitude,
    altitude_m: coords.altitude,
    speed_mps: coords.speed !== null && coords.speed >= 0 ? coords.speed : null,
  };
}

/** Keeps a fix of a ride's track; true where it was worth keeping. */
export async function recordPoint(
  testId: string,
  point: Point,
  accuracy_m: number,
): Promise<boolean> {
  if (accuracy_m > WORST_M || point.time_s < 0) return false;
  // Most fixes come too soon: those are not worth a change of the store.
  if (comesTooSoon(await store.tracks.get(testId), point)) return false;
  const owner = await whoIsHere();
  return store.transaction('rw', store.points, store.tracks, store.acts, async () => {
    const track = (await store.tracks.get(testId)) ?? unridden(testId);
    if (comesTooSoon(track, point)) return false;
    await store.points.add({ ...point, testId } as KeptPoint);
    const grown = grownBy(track, point);
    await store.tracks.put(grown);
    const long = point.time_s - grown.waitingSince_s >= PIECE_S;
    if (grown.waiting >= PIECE_POINTS || long) await bundle(grown, owner);
    return true;
  });
}

function unridden(testId: string): Track {
  const streamId = crypto.randomUUID();
  return { testId, streamId, next: 0, metres: 0, last: null, waiting: 0, waitingSince_s: 0 };
}

function comesTooSoon(track: Track | undefined, point: Point): boolean {
  const last = track?.last ?? null;
  return last !== null && point.time_s - last.time_s < EVERY_S;
}

/** A track with one more fix. */
function grownBy(track: Track, point: Point): Track {
  const { last } = track;
  const step = last === null ? 0 : stepMetres(last, point);
  // While it stands the last place stays, so that jitter adds up to nothing.
  const moved = last === null || step >= LEAST_STEP_M;
  const counts = last !== null && moved && point.time_s - last.time_s <= GAP_S;
  return {
    ...track,
    metres: track.metres + (counts ? step : 0),
    first: track.first ?? point,
    furthest_m: Math.max(track.furthest_m ?? 0, stepMetres(track.first ?? point, point)),
    last: moved ? point : { ...last, time_s: point.time_s, speed_mps: point.speed_mps },
    waiting: track.waiting + 1,
    waitingSince_s: track.waiting === 0 ? point.time_s : track.waitingSince_s,
  };
}

/** Nearer than this to its start a ride does not come back yet; and by so much it comes nearer again [m]. */
const LEAST_OUT_M = 500;
const LEAST_BACK_M = 250;
const BACK_SHARE = 0.15;

/** Whether a track comes back: it has been further from its start, by more than a bend makes. */
export function comesBack(track: Pick<Track, 'first' | 'last' | 'furthest_m'>): boolean {
  const { first, last, furthest_m = 0 } = track;
  if (!first || !last || furthest_m < LEAST_OUT_M) return false;
  const nearer = furthest_m - stepMetres(first, last);
  return nearer > Math.max(LEAST_BACK_M, BACK_SHARE * furthest_m);
}

/** Makes what is recorded a piece to be sent, whatever its length: at the end of a ride. */
export async function closeTrack(testId: string): Promise<void> {
  const owner = await whoIsHere();
  await store.transaction('rw', store.points, store.tracks, store.acts, async () => {
    const track = await store.tracks.get(testId);
    if (track) await bundle(track, owner);
  });
}

/** Within a transaction: the fixes go into an act, none is lost between the two. */
async function bundle(track: Track, owner: string): Promise<void> {
  const { testId, streamId, next } = track;
  const points = await store.points.where('testId').equals(testId).sortBy('id');
  if (points.length === 0) return;
  const stream = `/api/tests/${testId}/streams/${streamId}`;
  const act = (id: string, path: string, body: object) =>
    store.acts.add({
      id,
      testId,
      owner,
      kind: 'piece',
      sending: { method: 'PUT', path, body },
      shown: { kind: 'nothing' },
      at: Date.now(),
      version: crypto.randomUUID(),
      refused: '',
    } as unknown as Act);
  if (next === 0) await act(streamId, stream, { instrument: 'phone' });
  await act(`${streamId}-${next}`, `${stream}/batches/${next}`, columnsOf(points));
  await store.points.bulkDelete(points.map((point) => point.id));
  await store.tracks.put({ ...track, next: next + 1, waiting: 0 });
}

/** Fixes column by column; a column that no fix has is left out. */
export function columnsOf(points: Point[]): Record<string, Array<number | null>> {
  const names = ['time_s', 'latitude_deg', 'longitude_deg', 'altitude_m', 'speed_mps'] as const;
  return Object.fromEntries(
    names
      .map((name) => [name, points.map((point) => point[name])] as const)
      .filter(([, values]) => values.some((value) => value !== null)),
  );
}
