import { useElementSize } from '@mantine/hooks';
import type { Schemas } from '../api/client';
import type { Span, Units } from '../api/queries';
import { distanceText } from '../format/units';
import { limitsOf, type Run, runsOf } from '../ground/runs';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';

interface TrackMapProps {
  path: Schemas['TrackPathOut'];
  units: Units;
  cursorM: number | null;
  span: Span | null;
  onCursor: (metres: number | null) => void;
}

const HEIGHT = 320;
const EDGE = 14;

/** Map of the ride, without a map under it: thin and pale where little was used, heavy where much. */
export function TrackMap({ path, units, cursorM, span, onCursor }: TrackMapProps) {
  const { ref, width: found } = useElementSize<HTMLDivElement>();
  const width = Math.max(found, 200);
  const spanX = extent(path.east_m);
  const spanY = extent(path.north_m);
  const scale = Math.min(
    (width - 2 * EDGE) / Math.max(spanX.size, 1),
    (HEIGHT - 2 * EDGE) / Math.max(spanY.size, 1),
  );
  const left = (width - spanX.size * scale) / 2;
  const top = (HEIGHT - spanY.size * scale) / 2;
  const x = (index: number) => left + ((path.east_m[index] ?? 0) - spanX.low) * scale;
  const y = (index: number) => HEIGHT - top - ((path.north_m[index] ?? 0) - spanY.low) * scale;
  const limits = limitsOf(path.wh_per_km);
  const at = cursorM === null ? -1 : path.distance_m.findIndex((metres) => metres >= cursorM);
  const inside = (index: number) => {
    const time = path.time_s[index] ?? 0;
    return span === null || (time >= span.from_s && time <= span.to_s);
  };
  return (
    <div ref={ref}>
      <svg
        width="100%"
        height={HEIGHT}
        viewBox={`0 0 ${width} ${HEIGHT}`}
        role="img"
        aria-label={say('map-of-the-ride-the', {
          at: distanceText(path.distance_m.at(-1) ?? 0, units),
        })}
        onPointerMove={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          const px = ((event.clientX - box.left) / box.width) * width;
          const py = ((event.clientY - box.top) / box.height) * HEIGHT;
          const index = nearestTo(path, px, py, x, y);
          onCursor(index === null ? null : (path.distance_m[index] ?? null));
        }}
        onPointerLeave={() => onCursor(null)}
      >
        {runsOf(path.wh_per_km, limits).map((run) => (
          <polyline
            key={run.from}
            className={classes.way}
            data-class={run.class}
            data-apart={!inside(run.from) || undefined}
            points={pointsOf(run, x, y)}
          />
        ))}
        <circle className={classes.wayEnd} cx={x(0)} cy={y(0)} r={4} />
        {at >= 0 && <circle className={classes.wayCursor} cx={x(at)} cy={y(at)} r={6} />}
      </svg>
    </div>
  );
}

function extent(values: number[]): { low: number; size: number } {
  const low = Math.min(...values);
  return { low, size: Math.max(...values) - low };
}

function pointsOf(run: Run, x: (index: number) => number, y: (index: number) => number): string {
  const found = [];
  for (let index = run.from; index <= run.to; index += 1) {
    found.push(`${x(index).toFixed(1)},${y(index).toFixed(1)}`);
  }
  return found.join(' ');
}

function nearestTo(
  path: TrackMapProps['path'],
  px: number,
  py: number,
  x: (index: number) => number,
  y: (index: number) => number,
): number | null {
  let best: number | null = null;
  let least = 24 ** 2;
  for (let index = 0; index < path.time_s.length; index += 1) {
    const away = (x(index) - px) ** 2 + (y(index) - py) ** 2;
    if (away < least) {
      least = away;
      best = index;
    }
  }
  return best;
}
