import type { Feature, FeatureCollection } from 'geojson';
import type { GeoJSONSourceSpecification, StyleSpecification } from 'maplibre-gl';
import type { Schemas } from '../api/client';
import type { Span } from '../api/queries';
import { gridOf, type Origin, type Place, placeOf, ringOf } from './plane';
import { limitsOf, runsOf } from './runs';

export type Path = Schemas['TrackPathOut'];

/** Colours of the map: the page's own voices. */
export interface Voices {
  paper: string;
  raised: string;
  ink: string;
  hair: string;
  tide: string;
  wash: string;
  shell: string;
}

/** Width of a class of consumption on the screen [px]: none known, then from the least to the most. */
const WIDTHS = [1.5, 2, 3, 4, 5.5, 7];
/** Out and home on one road are drawn beside each other [px]. */
const APART_PX = 4;

const of = (features: Feature[]): FeatureCollection => ({ type: 'FeatureCollection', features });
const line = (coordinates: Place[], properties: Record<string, unknown> = {}): Feature => ({
  type: 'Feature',
  properties,
  geometry: { type: 'LineString', coordinates },
});

/** Where a track's points are on the globe. */
export function placesOf(path: Path, origin: Origin): Place[] {
  return path.east_m.map((east, k) => placeOf(origin, east, path.north_m[k] ?? 0));
}

/** The ride in pieces of one class of consumption each; what lies outside a chosen stretch is marked. */
export function trackFeatures(path: Path, places: Place[], span: Span | null): FeatureCollection {
  const limits = limitsOf(path.wh_per_km);
  return of(
    runsOf(path.wh_per_km, limits).map((run) => {
      const time = path.time_s[run.from] ?? 0;
      const inside = span === null || (time >= span.from_s && time <= span.to_s);
      return line(places.slice(run.from, run.to + 1), { class: run.class, inside });
    }),
  );
}

/** How far the pack would have gone, there and back, as the bird flies. */
export function reachFeatures(origin: Origin, reachM: number | null): FeatureCollection {
  return of(reachM === null ? [] : [line(ringOf(origin, 0, 0, reachM))]);
}

const source = (data: FeatureCollection): GeoJSONSourceSpecification => ({ type: 'geojson', data });

interface Wish {
  voices: Voices;
  track: FeatureCollection;
  reach: FeatureCollection;
  ground: FeatureCollection | null;
  /** Lines of the plain grid, where there is no ground. */
  grid: { origin: Origin; spanM: number; stepM: number };
  tiles: string;
  tilesCredit: string;
}

/** The whole map as its library wants it: nothing in it lies elsewhere but the tiles that were named. */
export function styleOf(wish: Wish): StyleSpecification {
  const { voices, ground, grid, tiles } = wish;
  const bare = ground === null && tiles === '';
  const lines = bare ? gridOf(grid.origin, grid.spanM, grid.stepM).map((one) => line(one)) : [];
  const kind = (name: string) => ['==', ['get', 'kind'], name] as ['==', ['get', string], string];
  return {
    version: 8,
    sources: {
      ...(tiles && {
        tiles: {
          type: 'raster' as const,
          tiles: [tiles],
          tileSize: 256,
          attribution: wish.tilesCredit,
        },
      }),
      grid: source(of(lines)),
      ground: source(ground ?? of([])),
      reach: source(wish.reach),
      track: source(wish.track),
    },
    layers: [
      {
        id: 'sea',
        type: 'background',
        paint: { 'background-color': ground ? voices.wash : voices.raised },
      },
      ...(tiles ? [{ id: 'tiles', type: 'raster' as const, source: 'tiles' }] : []),
      { id: 'grid', type: 'line', source: 'grid', paint: { 'line-color': voices.hair } },
      {
        id: 'land',
        type: 'fill',
        source: 'ground',
        filter: kind('land'),
        paint: { 'fill-color': voices.paper, 'fill-outline-color': voices.tide },
      },
      {
        id: 'peat',
        type: 'fill',
        source: 'ground',
        filter: kind('peat'),
        paint: { 'fill-color': voices.shell, 'fill-opacity': 0.1 },
      },
      {
        id: 'water',
        type: 'fill',
        source: 'ground',
        filter: kind('water'),
        paint: { 'fill-color': voices.tide, 'fill-opacity': 0.16 },
      },
      {
        id: 'road',
        type: 'line',
        source: 'ground',
        filter: kind('road'),
        layout: { 'line-cap': 'round', 'line-join': 'round' },
        paint: { 'line-color': voices.hair, 'line-width': 6 },
      },
      {
        id: 'reach',
        type: 'line',
        source: 'reach',
        paint: { 'line-color': voices.shell, 'line-width': 2, 'line-dasharray': [3, 2] },
      },
      {
        id: 'track',
        type: 'line',
        source: 'track',
        layout: { 'line-cap': 'round', 'line-join': 'round' },
        paint: {
          'line-color': ['case', ['>=', ['get', 'class'], 4], voices.shell, voices.tide],
          'line-width': [
            'match',
            ['get', 'class'],
            1,
            WIDTHS[1] ?? 2,
            2,
            WIDTHS[2] ?? 3,
            3,
            WIDTHS[3] ?? 4,
            4,
            WIDTHS[4] ?? 5,
            5,
            WIDTHS[5] ?? 7,
            WIDTHS[0] ?? 1.5,
          ],
          'line-opacity': ['case', ['get', 'inside'], 0.95, 0.2],
          // To the right of the way ridden: the way back lies beside the way out.
          'line-offset': APART_PX,
        },
      },
    ],
  };
}
