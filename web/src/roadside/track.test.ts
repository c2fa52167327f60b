import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { actsOf } from './acts';
import { type Point, store } from './store';
import { closeTrack, columnsOf, EVERY_S, pointOf, recordPoint, stepMetres } from './track';

const TEST = 'a-test';

function at(time_s: number, metresNorth: number, more: Partial<Point> = {}): Point {
  return {
    time_s,
    latitude_deg: 57.2 + metresNorth / 111_360,
    longitude_deg: -7.4,
    altitude_m: null,
    speed_mps: null,
    ...more,
  };
}

const trackOf = async () => store.tracks.get(TEST);

beforeEach(async () => {
  await Promise.all([store.acts.clear(), store.tracks.clear(), store.points.clear()]);
});

/** By GeographicLib 2.1 (Karney 2013), `Geodesic.WGS84.Inverse`. */
const GEODESICS: Array<[number, number, number, number, number]> = [
  [57.2, -7.4, 57.2009, -7.4, 100.227],
  [57.2, -7.4, 57.2, -7.3985, 90.669],
  [57.2, -7.4, 57.29, -7.25, 13507.933],
  [0, 179.99, 0.01, -179.99, 2485.856],
  [-33.9, 18.4, -33.905, 18.41, 1078.438],
  [80, 20, 80.01, 20.05, 1478.558],
];

describe('a step of the track', () => {
  it.each(GEODESICS)('from %f %f to %f %f is %f m', (lat1, lon1, lat2, lon2, metres) => {
    const a = { ...at(0, 0), latitude_deg: lat1, longitude_deg: lon1 };
    const b = { ...at(0, 0), latitude_deg: lat2, longitude_deg: lon2 };
    expect(Math.abs(stepMetres(a, b) / metres - 1)).toBeLessThan(1e-5);
  });
});

describe('a track', () => {
  it('grows by what was ridden and not by jitter at a stop', async () => {
    await recordPoint(TEST, at(0, 0), 8);
    for (let turn = 1; turn <= 10; turn += 1) {
      await recordPoint(TEST, at(turn * 5, turn % 2 === 0 ? 0 : 2), 8);
    }
    expect((await trackOf())?.metres).toBe(0);
    await recordPoint(TEST, at(60, 40), 8);
    expect((await trackOf())?.metres).toBeCloseTo(40, 0);
  });

  it('has a gap where the screen was locked, and says nothing of the way in it', async () => {
    await recordPoint(TEST, at(0, 0), 8);
    await recordPoint(TEST, at(10, 50), 8);
    await recordPoint(TEST, at(400, 2500), 8);
    await recordPoint(TEST, at(410, 2560), 8);
    expect((await trackOf())?.metres).toBeCloseTo(110, 0);
    await closeTrack(TEST);
    const pieces = (await actsOf(TEST)).slice(1);
    const times = pieces.flatMap((act) => (act.sending.body as { time_s: number[] }).time_s);
    expect(times).toEqual([0, 10, 400, 410]);
  });

  it('is thinned to spare the battery, and takes no fix that is far off or before the start', async () => {
    expect(await recordPoint(TEST, at(-3, 0), 8)).toBe(false);
    expect(await recordPoint(TEST, at(0, 0), 200)).toBe(false);
    const kept = [];
    for (let time = 0; time <= 20; time += 1) {
      if (await recordPoint(TEST, at(time, time * 5), 8)) kept.push(time);
    }
    expect(kept).toEqual([0, 4, 8, 12, 16, 20]);
    expect(EVERY_S).toBe(4);
  });

  it('goes out in numbered pieces after its stream is opened, each once', async () => {
    for (let time = 0; time <= 700; time += 5) await recordPoint(TEST, at(time, time * 5), 8);
    await closeTrack(TEST);
    const acts = await actsOf(TEST);
    const stream = (await trackOf())?.streamId;
    expect(acts.map((act) => act.sending.path.split('/streams/')[1])).toEqual([
      stream,
      ...acts.slice(1).map((_, index) => `${stream}/batches/${index}`),
    ]);
    const times = acts.slice(1).flatMap((act) => (act.sending.body as { time_s: number[] }).time_s);
    expect(times).toEqual(Array.from({ length: 141 }, (_, index) => index * 5));
    expect(await store.points.count()).toBe(0);
    // Two minutes a piece.
    expect(acts).toHaveLength(1 + 6);
  });

  it('keeps one of two fixes that come at once', async () => {
    await recordPoint(TEST, at(0, 0), 8);
    const both = await Promise.all([10, 11].map((s) => recordPoint(TEST, at(s, 5 * s), 8)));
    expect(both.filter(Boolean)).toHaveLength(1);
    expect(await store.points.count()).toBe(2);
  });

  it('survives the page: what is not in a piece yet is still there', async () => {
    await recordPoint(TEST, at(0, 0), 8);
    await recordPoint(TEST, at(5, 30), 8);
    store.close();
    await store.open();
    expect(await store.points.count()).toBe(2);
    await recordPoint(TEST, at(10, 60), 8);
    expect((await trackOf())?.metres).toBeCloseTo(60, 0);
  });
});

describe('a fix', () => {
  it('is on the ride’s own time, without what the device does not know', () => {
    const coords = { latitude: 57.2, longitude: -7.4, altitude: null, speed: -1, accuracy: 5 };
    const timestamp = Date.parse('2026-05-14T07:12:30.250Z');
    const position = { coords, timestamp } as unknown as GeolocationPosition;
    const point = pointOf(position, '2026-05-14T09:12:00+02:00');
    expect(point).toEqual({
      time_s: 30.25,
      latitude_deg: 57.2,
      longitude_deg: -7.4,
      altitude_m: null,
      speed_mps: null,
    });
    expect(Object.keys(columnsOf([point]))).toEqual(['time_s', 'latitude_deg', 'longitude_deg']);
  });
});

describe('a track that an older version kept in its ride', () => {
  it('goes on where it was after the upgrade: no fix lost, none sent twice', async () => {
    const { default: Dexie } = await import('dexie');
    store.close();
    await Dexie.delete('limpet-roadside');
    const old = new Dexie('limpet-roadside');
    old.version(4).stores({
      acts: '++seq, id, testId, owner',
      rides: 'testId, owner',
      settings: 'key',
      cache: 'key',
      points: '++id, testId',
    });
    const track = { streamId: 'a-stream', next: 3, metres: 900, last: at(300, 900) };
    const ride = { testId: TEST, owner: 'noor', detail: null, taken: [], toldAt: 7 };
    await old.table('rides').bulkAdd([
      { ...ride, track },
      { ...ride, testId: 'without', track: null },
    ]);
    await old.table('points').bulkAdd([290, 300].map((s) => ({ ...at(s, 3 * s), testId: TEST })));
    old.close();
    await store.open();
    expect(await store.rides.get(TEST)).toEqual(ride);
    expect(await trackOf()).toMatchObject({ metres: 900, waiting: 2, waitingSince_s: 290 });
    await recordPoint(TEST, at(310, 950), 8);
    await closeTrack(TEST);
    const [act, ...others] = await actsOf(TEST);
    if (!act) throw new Error('nothing is to be sent');
    expect(act.sending.path).toBe(`/api/tests/${TEST}/streams/a-stream/batches/3`);
    expect((act.sending.body as { time_s: number[] }).time_s).toEqual([290, 300, 310]);
    expect(others).toEqual([]);
  });
});
