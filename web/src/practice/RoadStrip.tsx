import { say } from '../words/en/practice.ftl';
import classes from './Practice.module.css';
import { type Play, type Practice, truthAt } from './play';

const WIDTH = 360;
const EDGE = 14;
const ROAD_Y = 34;

/** The road with its stones: home on the left, and where one is on it; a wedge points the way. */
export function RoadStrip({ practice, play }: { practice: Practice; play: Play }) {
  const end = practice.ways.at(-1)?.turn_m ?? 1;
  const turned = play.way === null ? null : (practice.ways[play.way]?.turn_m ?? null);
  const { distance_m } = truthAt(practice, play);
  const out_m = turned === null ? distance_m : Math.max(2 * turned - distance_m, 0);
  const x = (metres: number) => EDGE + (Math.min(metres, end) / end) * (WIDTH - 2 * EDGE);
  const way = turned === null ? 1 : -1;
  const here = x(out_m);
  return (
    <svg className={classes.chart} viewBox={`0 0 ${WIDTH} 60`} aria-hidden="true">
      <line x1={x(0)} x2={x(end)} y1={ROAD_Y} y2={ROAD_Y} stroke="var(--ink)" strokeWidth="2" />
      {practice.ways.map(({ turn_m }) => (
        <line
          key={turn_m}
          x1={x(turn_m)}
          x2={x(turn_m)}
          y1={ROAD_Y - (turn_m === turned ? 12 : 6)}
          y2={ROAD_Y}
          stroke="var(--ink)"
          strokeWidth={turn_m === turned ? 4 : 2}
        />
      ))}
      <polygon
        points={`${here - way * 8},${ROAD_Y - 18} ${here - way * 8},${ROAD_Y - 4} ${here + way * 6},${ROAD_Y - 11}`}
        fill="var(--ink)"
      />
      <text x={x(0)} y={54} fontSize="13" fill="var(--ink)">
        {say('home')}
      </text>
      <text x={x(end)} y={54} fontSize="13" textAnchor="end" fill="var(--ink)">
        {say('the-roads-end')}
      </text>
    </svg>
  );
}
