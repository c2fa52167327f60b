import { useElementSize } from '@mantine/hooks';
import type { Units } from '../api/queries';
import { distance, distanceText, height, heightUnit, number } from '../format/units';
import { ticks } from '../tideline/geometry';
import { along, type Heights } from './profile';
import classes from './Routes.module.css';

interface RouteProfileProps {
  heights: Heights;
  units: Units;
  tall?: number;
  bare?: boolean;
  /** A place to mark, such as the turn [m]. */
  markM?: number | null;
  markText?: string;
}

/** Heights along the way. */
export function RouteProfile({
  heights,
  units,
  tall = 120,
  bare = false,
  markM = null,
  markText = '',
}: RouteProfileProps) {
  const { ref, width } = useElementSize<HTMLDivElement>();
  const wide = Math.max(width, 100);
  const total = heights.distance_m.at(-1) ?? 1;
  const low = Math.min(...heights.height_m);
  const high = Math.max(...heights.height_m);
  const span = Math.max(high - low, 20);
  const [top, bottom] = bare ? [3, 3] : [20, 22];
  const x = (metres: number) => (metres / total) * wide;
  const y = (metres: number) => top + (1 - (metres - low) / span) * (tall - top - bottom);
  const line = heights.distance_m
    .map((metres, index) => `${x(metres).toFixed(1)} ${y(heights.height_m[index] ?? 0).toFixed(1)}`)
    .join('L');
  const ground = tall - bottom;
  return (
    <div ref={ref} style={{ width: '100%' }}>
      <svg
        width={wide}
        height={tall}
        role="img"
        aria-label={`Height profile: ${distanceText(total, units)}, from ${number(
          height(low, units),
          0,
        )} to ${number(height(high, units), 0)} ${heightUnit(units)}`}
      >
        <path className={classes.hill} d={`M0 ${ground}L${line}L${wide} ${ground}Z`} />
        <path className={classes.ridge} d={`M${line}`} />
        {markM !== null && markM <= total && (
          <>
            <line
              className={classes.mark}
              x1={x(markM)}
              x2={x(markM)}
              y1={top - 6}
              y2={y(along(heights.distance_m, heights.height_m, markM))}
            />
            <text
              className={classes.text}
              x={x(markM)}
              y={top - 9}
              textAnchor={
                x(markM) > wide * 0.8 ? 'end' : x(markM) < wide * 0.2 ? 'start' : 'middle'
              }
            >
              {markText}
            </text>
          </>
        )}
        {!bare && (
          <>
            <text className={classes.text} x={2} y={top - 4}>
              {number(height(high, units), 0)} {heightUnit(units)}
            </text>
            {ticks(distance(total, units)).map((tick) => (
              <text
                key={tick}
                className={classes.text}
                x={Math.min(x(tick / distance(1, units)), wide - 14)}
                y={tall - 6}
                textAnchor={tick === 0 ? 'start' : 'middle'}
              >
                {tick === 0 ? `0 ${units.distance}` : tick}
              </text>
            ))}
          </>
        )}
      </svg>
    </div>
  );
}
