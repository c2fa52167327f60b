import { say } from '../words/en/routes.ftl';
import { along, type PlainPath } from './profile';
import classes from './Routes.module.css';

interface RoutePathProps {
  path: PlainPath;
  size?: number;
  markM?: number | null;
}

/** The way as a plain path, north up; no map under it. */
export function RoutePath({ path, size = 200, markM = null }: RoutePathProps) {
  const east = path.east_m;
  const north = path.north_m;
  const wide = Math.max(...east) - Math.min(...east);
  const tall = Math.max(...north) - Math.min(...north);
  const scale = (size - 28) / Math.max(wide, tall, 1);
  const height = Math.max(tall * scale + 28, 60);
  const x = (metres: number) => 14 + (metres - Math.min(...east)) * scale;
  const y = (metres: number) => height - 14 - (metres - Math.min(...north)) * scale;
  const line = east
    .map((metres, index) => `${x(metres).toFixed(1)} ${y(north[index] ?? 0).toFixed(1)}`)
    .join('L');
  const mark =
    markM === null
      ? null
      : {
          x: x(along(path.distance_m, east, markM)),
          y: y(along(path.distance_m, north, markM)),
        };
  return (
    <svg width={size} height={height} role="img" aria-label={say('the-route-as-a-line')}>
      <path className={classes.way} d={`M${line}`} />
      <circle className={classes.home} cx={x(east[0] ?? 0)} cy={y(north[0] ?? 0)} r={5} />
      {mark && (
        <rect className={classes.turn} x={mark.x - 5} y={mark.y - 5} width={10} height={10} />
      )}
      <text className={classes.text} x={size - 4} y={12} textAnchor="end">
        N ↑
      </text>
    </svg>
  );
}
