import { useQuery } from '@tanstack/react-query';
import {
  AttributionControl,
  type GeoJSONSource,
  type LngLatBoundsLike,
  Map as MapView,
  Marker,
  setWorkerUrl,
} from 'maplibre-gl';
import workerUrl from 'maplibre-gl/dist/maplibre-gl-worker.mjs?url';
import { useEffect, useMemo, useRef, useState } from 'react';
import { say } from '../words/en/ground.ftl';
import 'maplibre-gl/dist/maplibre-gl.css';
import type { Span, Units } from '../api/queries';
import { distance, number } from '../format/units';
import { along } from '../routes/profile';
import classes from './Ground.module.css';
import { groundAt, groundQuery } from './grounds';
import { extentOf, gridStep, type Origin, type Place, ringOf } from './plane';
import { type Path, placesOf, reachFeatures, styleOf, trackFeatures, type Voices } from './style';

// A worker of our own, a file beside the others: the page's policy lets no other run.
setWorkerUrl(workerUrl);

/** A thing on the ground: what it is, and where along the ride. */
export interface Pin {
  key: string;
  kind: 'start' | 'end' | 'turn' | 'event' | 'photo' | 'entry';
  text: string;
  distance_m: number;
}

export interface GroundMapProps {
  path: Path;
  origin: Origin;
  pins: readonly Pin[];
  units: Units;
  cursorM: number | null;
  span: Span | null;
  /** How far it goes there and back, as the bird flies [m]; null where that is not shown. */
  reachM: number | null;
  tiles: { address: string; credit: string };
  label: string;
  onCursor: (metres: number | null) => void;
  /** The map cannot be drawn on this device. */
  onFault: () => void;
}

/** The pointer reads the ride within so far of it [px]. */
const NEAR_PX = 26;
/** Nearer than this names stand on the ground [zoom level]. */
const NAMES_FROM = 10.5;
/** Room about the ride [px]. */
const PADDING = 44;

/** The ride on the ground: moved and enlarged by hand, read by the shared cursor. */
export function GroundMap(props: GroundMapProps) {
  const { path, origin, pins, units, cursorM, span, reachM, tiles, label } = props;
  const holder = useRef<HTMLDivElement>(null);
  const [view, setView] = useState<MapView | null>(null);
  const places = useMemo(() => placesOf(path, origin), [path, origin]);
  const start = places[0] ?? [origin.longitude_deg, origin.latitude_deg];
  const ground = useQuery(groundQuery(tiles.address ? null : groundAt(start)));
  const stepM = useGrid(path, units);
  // What the map tells is told to whoever listens now.
  const told = useRef(props);
  told.current = props;
  const coming = ground.isPending;
  const features = ground.data ?? null;

  useEffect(() => {
    if (holder.current === null || coming) return;
    let made: MapView;
    try {
      made = new MapView({
        container: holder.current,
        style: styleOf({
          voices: voicesOf(holder.current),
          track: trackFeatures(path, places, told.current.span),
          reach: reachFeatures(origin, told.current.reachM),
          ground: features,
          grid: { origin, spanM: spanOf(path), stepM },
          tiles: tiles.address,
          tilesCredit: tiles.credit,
        }),
        bounds: boundsOf(places),
        fitBoundsOptions: { padding: PADDING, maxZoom: 16 },
        attributionControl: false,
        // A page that is scrolled past a map goes on; one finger moves the page, two the map.
        cooperativeGestures: true,
        locale: {
          'CooperativeGesturesHandler.WindowsHelpText': say('hold-ctrl-and-scroll-to'),
          'CooperativeGesturesHandler.MacHelpText': say('hold-and-scroll-to-zoom'),
          'CooperativeGesturesHandler.MobileHelpText': say('move-the-map-with-two'),
          'Map.Title': label,
        },
        dragRotate: false,
        pitchWithRotate: false,
        touchPitch: false,
        fadeDuration: 0,
        // On paper it is drawn plainly; a picture of it is the page's own.
        canvasContextAttributes: { antialias: true },
      });
    } catch {
      told.current.onFault();
      return;
    }
    made.touchZoomRotate.disableRotation();
    if (tiles.credit) made.addControl(new AttributionControl({ compact: false }));
    made.on('mousemove', ({ point }) => {
      const index = nearestOn(made, places, point);
      told.current.onCursor(index === null ? null : (path.distance_m[index] ?? null));
    });
    made.on('mouseout', () => told.current.onCursor(null));
    made.on('webglcontextlost', () => told.current.onFault());
    // From far off the names of one island lie on each other.
    const near = () => {
      const far = made.getZoom() < NAMES_FROM;
      made.getContainer().toggleAttribute('data-far', far);
    };
    made.on('zoom', near);
    near();
    setView(made);
    return () => {
      setView(null);
      made.remove();
    };
  }, [path, places, origin, coming, features, stepM, tiles.address, tiles.credit, label]);

  useEffect(() => {
    const draw = () => {
      view?.getSource<GeoJSONSource>('track')?.setData(trackFeatures(path, places, span));
      view?.getSource<GeoJSONSource>('reach')?.setData(reachFeatures(origin, reachM));
    };
    if (view?.isStyleLoaded()) draw();
    else view?.once('load', draw);
  }, [view, path, places, span, origin, reachM]);

  useEffect(() => {
    if (view === null) return;
    const put = pins.map(({ kind, text, distance_m }) => {
      const mark = document.createElement('span');
      mark.className = classes.pin ?? '';
      mark.dataset.kind = kind;
      mark.title = text;
      return markerAt(view, mark, placeAlong(path, places, distance_m));
    });
    const names = (features?.features ?? []).flatMap(({ geometry, properties }) => {
      if (geometry.type !== 'Point') return [];
      const name = document.createElement('span');
      name.className = classes.name ?? '';
      name.textContent = String(properties?.name ?? '');
      return [markerAt(view, name, geometry.coordinates as Place)];
    });
    return () => {
      for (const marker of [...put, ...names]) marker.remove();
    };
  }, [view, pins, path, places, features]);

  useEffect(() => {
    if (view === null || cursorM === null) return;
    const mark = document.createElement('span');
    mark.className = classes.cursor ?? '';
    const marker = markerAt(view, mark, placeAlong(path, places, cursorM));
    return () => {
      marker.remove();
    };
  }, [view, cursorM, path, places]);

  useEffect(() => {
    if (view === null) return;
    const shown = reachM === null ? places : ringOf(origin, 0, 0, reachM);
    view.fitBounds(boundsOf(shown), { padding: PADDING, maxZoom: 16, duration: 0 });
  }, [view, places, origin, reachM]);

  return (
    <div className={classes.map}>
      <div ref={holder} className={classes.hold} />
      <div className={classes.tools}>
        <button type="button" onClick={() => view?.zoomIn({ duration: 0 })}>
          {say('closer')}
        </button>
        <button type="button" onClick={() => view?.zoomOut({ duration: 0 })}>
          {say('further-off')}
        </button>
        <button
          type="button"
          onClick={() =>
            view?.fitBounds(boundsOf(places), { padding: PADDING, maxZoom: 16, duration: 0 })
          }
        >
          {say('whole-ride')}
        </button>
      </div>
      {features === null && tiles.address === '' && !coming && (
        <p className={classes.note}>
          {say('the-lines-stand-apart', {
            step_m: number(distance(stepM, units), stepM < 1000 ? 2 : 0),
            distance: units.distance,
          })}
        </p>
      )}
    </div>
  );
}

const spanOf = (path: Path) =>
  Math.max(
    Math.max(...path.east_m) - Math.min(...path.east_m),
    Math.max(...path.north_m) - Math.min(...path.north_m),
    100,
  );

function useGrid(path: Path, units: Units): number {
  return useMemo(() => gridStep(spanOf(path), 1 / distance(1, units)), [path, units]);
}

function boundsOf(places: readonly Place[]): LngLatBoundsLike {
  const { west, south, east, north } = extentOf(places);
  return [west, south, east, north];
}

function markerAt(view: MapView, element: HTMLElement, place: Place): Marker {
  return new Marker({ element }).setLngLat(place).addTo(view);
}

/** Where along the ride a distance is, between its points. */
function placeAlong({ distance_m }: Path, places: readonly Place[], metres: number): Place {
  const of = (which: 0 | 1) =>
    along(
      distance_m,
      places.map((place) => place[which]),
      metres,
    );
  return [of(0), of(1)];
}

function nearestOn(
  view: MapView,
  places: readonly Place[],
  point: { x: number; y: number },
): number | null {
  let best: number | null = null;
  let least = NEAR_PX ** 2;
  for (const [index, place] of places.entries()) {
    const at = view.project(place);
    const away = (at.x - point.x) ** 2 + (at.y - point.y) ** 2;
    if (away < least) {
      least = away;
      best = index;
    }
  }
  return best;
}

function voicesOf(element: HTMLElement): Voices {
  const look = getComputedStyle(element);
  const voice = (name: string) => look.getPropertyValue(name).trim();
  return {
    paper: voice('--paper'),
    raised: voice('--paper-raised'),
    ink: voice('--ink'),
    hair: voice('--hair'),
    tide: voice('--tide'),
    wash: voice('--tide-wash'),
    shell: voice('--shell'),
  };
}

export default GroundMap;
