import type { Units } from '../api/queries';
import { Chart } from '../chart/Chart';
import chart from '../chart/Chart.module.css';
import { anchored, type Frame, wide } from '../chart/frame';
import { areaPath, linePath } from '../chart/paths';
import { distance, distanceText, height, heightUnit, number } from '../format/units';
import { say } from '../words/en/routes.ftl';
import { along, type Heights } from './profile';
import classes from './Routes.module.css';

interface RouteProfileProps {
  heights: Heights;
  units: Units;
  tall?: number;
  /** A place to mark, such as the turn [m]. */
  markM?: number | null;
  markText?: string;
}

/** A level road is drawn as one: hills are not made out of so little [m]. */
const LEAST_SPAN_M = 20;

/** Heights along the route. */
export function RouteProfile({
  heights,
  units,
  tall = 150,
  markM = null,
  markText = '',
}: RouteProfileProps) {
  const { distance_m, height_m } = heights;
  const total = distance_m.at(-1) ?? 1;
  const low = Math.min(...height_m);
  const high = Math.max(Math.max(...height_m), low + LEAST_SPAN_M);
  const unit = heightUnit(units);
  const text = (metres: number) => number(height(metres, units), 0);
  const said = say('low-to-high-with-unit', {
    low: text(low),
    high: text(Math.max(...height_m)),
    unit,
  });
  const marked = markM !== null && markM <= total ? markM : null;
  return (
    <Chart
      name={say('height-profile')}
      said={say('height-profile-from', { total: distanceText(total, units), said })}
      height={tall}
      x={{
        title: say('distance-distance', { distance: units.distance }),
        domain: [0, distance(total, units)],
      }}
      y={{
        title: say('height-unit', { unit }),
        domain: [height(low, units), height(high, units)],
        text: (value) => number(value, 0),
      }}
      values={{
        columns: [units.distance, say('height-unit', { unit })],
        rows: distance_m.map((metres, k) => [
          distance(metres, units),
          height(height_m[k] ?? 0, units),
        ]),
      }}
      stops={distance_m.map((metres, k) => ({
        at: distance(metres, units),
        said: `${distanceText(metres, units)}: ${text(height_m[k] ?? 0)} ${unit}`,
      }))}
    >
      {(frame) => {
        const floor = frame.height - frame.bottom;
        const places = distance_m.map(
          (metres, k) =>
            [frame.x(distance(metres, units)), frame.y(height(height_m[k] ?? 0, units))] as const,
        );
        return (
          <>
            <path className={classes.hill} d={areaPath(places.map(([x, y]) => [x, y, floor]))} />
            <path className={chart.line} d={linePath(places)} />
            {marked !== null && (
              <Mark
                frame={frame}
                at={frame.x(distance(marked, units))}
                to={frame.y(height(along(distance_m, height_m, marked), units))}
                text={markText}
              />
            )}
          </>
        );
      }}
    </Chart>
  );
}

function Mark({ frame, at, to, text }: { frame: Frame; at: number; to: number; text: string }) {
  return (
    <>
      <line className={classes.mark} x1={at} x2={at} y1={frame.top - 4} y2={to} />
      <text x={at} y={12 * frame.em} textAnchor={anchored(at, wide(text, frame.em), frame.width)}>
        {text}
      </text>
    </>
  );
}
