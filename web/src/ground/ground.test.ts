import { describe, expect, it } from 'vitest';
import { groundAt } from './grounds';
import { extentOf, gridOf, gridStep, placeOf, ringOf } from './plane';
import { limitsOf, runsOf } from './runs';
import { type Path, placesOf, reachFeatures, styleOf, trackFeatures } from './style';

const ORIGIN = { latitude_deg: 60, longitude_deg: 10 };
const path: Path = {
  time_s: [0, 10, 20, 30, 40, 50],
  distance_m: [0, 100, 200, 300, 200, 100],
  east_m: [0, 100, 200, 300, 200, 100],
  north_m: [0, 0, 0, 0, 0, 0],
  wh_per_km: [null, 5, 10, 15, 20, 25],
  latitude_deg: 60,
  longitude_deg: 10,
};

describe('places on the globe', () => {
  it('lie where metres from a first fix say', () => {
    const [longitude, latitude] = placeOf(ORIGIN, 1000, 1000);
    // At 60 degrees a degree of longitude is half one of latitude (cos 60° = 0.5), closed form.
    expect(latitude - 60).toBeCloseTo(1000 / 111_132, 9);
    expect(longitude - 10).toBeCloseTo(2 * (1000 / 111_132), 9);
  });

  it('are a ring of one radius, closed', () => {
    const ring = ringOf(ORIGIN, 0, 0, 500);
    const { west, east, south, north } = extentOf(ring);
    expect(ring[0]?.[0]).toBeCloseTo(ring.at(-1)?.[0] ?? 0, 9);
    expect((north - south) * 111_132).toBeCloseTo(1000, 3);
    expect((east - west) * 111_132 * 0.5).toBeCloseTo(1000, 3);
  });

  it('have a plain grid of round steps in the reader’s unit', () => {
    expect(gridStep(6000, 1000)).toBe(1000);
    expect(gridStep(9000, 1609.344) / 1609.344).toBeCloseTo(1, 9);
    const lines = gridOf(ORIGIN, 6000, 1000);
    expect(lines.length).toBe(2 * 25);
  });

  it('lie on a ground of their own where there is one', () => {
    expect(groundAt([-24.5, 47.5])?.file).toBe('/ground/skerrow.json');
    expect(groundAt([10, 60])).toBeNull();
  });
});

describe('a ride on the ground', () => {
  it('is in pieces of one class, each beginning where the last ends', () => {
    const limits = limitsOf(path.wh_per_km);
    expect(limits).toEqual([10, 15, 20, 25]);
    const runs = runsOf(path.wh_per_km, limits);
    expect(runs.map((run) => [run.from, run.to, run.class])).toEqual([
      [0, 2, 1],
      [2, 3, 2],
      [3, 4, 3],
      [4, 5, 4],
    ]);
  });

  it('marks what lies outside a chosen stretch', () => {
    const places = placesOf(path, ORIGIN);
    const found = trackFeatures(path, places, { from_s: 20, to_s: 30 });
    expect(found.features.map(({ properties }) => properties?.inside)).toEqual([
      false,
      true,
      true,
      false,
    ]);
    expect(reachFeatures(ORIGIN, null).features).toEqual([]);
    expect(reachFeatures(ORIGIN, 900).features.length).toBe(1);
  });

  it('fetches no tiles unless an address was named, and then only those', () => {
    const wish = {
      voices: {
        paper: '#fff',
        raised: '#fff',
        ink: '#000',
        hair: '#888',
        tide: '#088',
        wash: '#eee',
        shell: '#980',
      },
      track: trackFeatures(path, placesOf(path, ORIGIN), null),
      reach: reachFeatures(ORIGIN, null),
      ground: null,
      grid: { origin: ORIGIN, spanM: 300, stepM: 100 },
      tiles: '',
      tilesCredit: '',
    };
    const plain = styleOf(wish);
    expect(Object.keys(plain.sources)).not.toContain('tiles');
    expect(JSON.stringify(plain)).not.toMatch(/https?:/);
    const { grid } = plain.sources;
    expect(grid?.type === 'geojson' && typeof grid.data === 'object').toBe(true);
    const tiled = styleOf({ ...wish, tiles: 'https://tiles.invalid/{z}/{x}/{y}.png' });
    expect(tiled.sources.tiles).toMatchObject({ tiles: ['https://tiles.invalid/{z}/{x}/{y}.png'] });
    // Over pictures of the ground no grid is drawn.
    expect(JSON.stringify(tiled.sources.grid)).not.toContain('LineString');
  });
});
