import type { Units } from '../api/queries';
import { distanceText, height, heightUnit, number } from '../format/units';
import { say } from '../words/en/routes.ftl';
import type { Heights, PlainPath } from './profile';
import classes from './Routes.module.css';

interface RouteSketchProps {
  heights: Heights;
  path: PlainPath | null;
  units: Units;
}

const WIDE = 300;
const TALL = 46;
const EDGE = 3;
/** A level road is drawn as one: hills are not made out of so little [m]. */
const LEAST_SPAN_M = 20;

/** A route in a list: its line on the ground, and its hills. Stretched to its place, never measured. */
export function RouteSketch({ heights, path, units }: RouteSketchProps) {
  const { distance_m, height_m } = heights;
  const total = distance_m.at(-1) || 1;
  const low = Math.min(...height_m);
  const high = Math.max(...height_m);
  const span = Math.max(high - low, LEAST_SPAN_M);
  const line = distance_m
    .map((metres, k) => {
      const up = ((height_m[k] ?? 0) - low) / span;
      return `${((metres / total) * WIDE).toFixed(1)} ${(TALL - EDGE - up * (TALL - 2 * EDGE)).toFixed(1)}`;
    })
    .join('L');
  const said = say('total-from-low-to-high', {
    total: distanceText(total, units),
    low: number(height(low, units), 0),
    high: number(height(high, units), 0),
    height_unit: heightUnit(units),
  });
  return (
    <span className={classes.sketch}>
      {path ? <Line path={path} /> : <span />}
      <svg
        viewBox={`0 0 ${WIDE} ${TALL}`}
        preserveAspectRatio="none"
        role="img"
        aria-label={say('height-profile-said', { said })}
      >
        <path className={classes.hill} d={`M0 ${TALL}L${line}L${WIDE} ${TALL}Z`} />
        <path className={classes.ridge} d={`M${line}`} />
      </svg>
    </span>
  );
}

/** North up, as large as fits. */
function Line({ path: { east_m, north_m } }: { path: PlainPath }) {
  const west = Math.min(...east_m);
  const south = Math.min(...north_m);
  const size = Math.max(Math.max(...east_m) - west, Math.max(...north_m) - south, 1);
  const scale = (TALL - 2 * EDGE) / size;
  const x = (metres: number) => EDGE + (metres - west) * scale;
  const y = (metres: number) => TALL - EDGE - (metres - south) * scale;
  const line = east_m.map((east, k) => `${x(east).toFixed(1)} ${y(north_m[k] ?? 0).toFixed(1)}`);
  return (
    <svg viewBox={`0 0 ${TALL} ${TALL}`} role="img" aria-label={say('the-route-as-a-line')}>
      <path className={classes.ridge} d={`M${line.join('L')}`} />
      <circle className={classes.home} cx={x(east_m[0] ?? 0)} cy={y(north_m[0] ?? 0)} r={2.5} />
    </svg>
  );
}
