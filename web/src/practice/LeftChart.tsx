import type { Schemas } from '../api/client';
import type { Units } from '../api/queries';
import { distanceText, percent } from '../format/units';
import classes from './Practice.module.css';
import { type Play, type Practice, truthAt } from './play';

interface LeftChartProps {
  practice: Practice;
  play: Play;
  told: Schemas['ToldOut'][];
  units: Units;
}

const WIDTH = 360;
const HEIGHT = 190;
const LEFT = 44;
const TOP = 8;
const BOTTOM = 24;
const POINTS = 60;

/** What was left truly, along the way, and what was known of it at each entry. */
export function LeftChart({ practice, play, told, units }: LeftChartProps) {
  const end = truthAt(practice, play);
  const most = Math.max(end.distance_m, 1);
  const x = (metres: number) => LEFT + (metres / most) * (WIDTH - LEFT - 8);
  const y = (share: number) => TOP + (1 - share) * (HEIGHT - TOP - BOTTOM);
  const truth = Array.from({ length: POINTS + 1 }, (_, point) => {
    const at = truthAt(practice, { way: play.way, movingS: (play.movingS * point) / POINTS });
    return `${x(at.distance_m)},${y(Math.max(1 - at.used_wh / practice.usable_wh, 0))}`;
  });
  return (
    <svg
      className={classes.chart}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label="Energy left over distance: the line is the truth, the bars are what you knew"
    >
      {[0, 0.5, 1].map((share) => (
        <g key={share}>
          <line x1={LEFT} x2={WIDTH - 8} y1={y(share)} y2={y(share)} stroke="var(--hair)" />
          <text x={LEFT - 4} y={y(share) + 4} textAnchor="end" fontSize="11" fill="var(--soft)">
            {percent(share)}
          </text>
        </g>
      ))}
      <polyline points={truth.join(' ')} fill="none" stroke="var(--ink)" strokeWidth="2" />
      {told.map((one) => (
        <g key={one.time_s} stroke="var(--shell)" strokeWidth="3">
          <line
            x1={x(one.distance_m)}
            x2={x(one.distance_m)}
            y1={y(Math.min(one.left.high, 1))}
            y2={y(Math.max(one.left.low, 0))}
          />
          <circle cx={x(one.distance_m)} cy={y(one.left.value)} r="3.5" fill="var(--paper)" />
        </g>
      ))}
      <text x={LEFT} y={HEIGHT - 6} fontSize="11" fill="var(--soft)">
        0
      </text>
      <text x={WIDTH - 8} y={HEIGHT - 6} fontSize="11" textAnchor="end" fill="var(--soft)">
        {distanceText(most, units)}
      </text>
    </svg>
  );
}
