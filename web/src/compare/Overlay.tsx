import { useElementSize } from '@mantine/hooks';
import type { Strip, Units } from '../api/queries';
import { distance, number } from '../format/units';
import { ticks } from '../tideline/geometry';
import classes from './Compare.module.css';
import { type Gap, gapOf } from './gap';

export interface Laid {
  id: string;
  title: string;
  side: 'first' | 'second';
  strip: Strip;
}

const HEIGHT = 230;
const LEFT = 56;
/** Narrower than this nothing is drawn [px]. */
const LEAST = 240;
const BOTTOM = 26;
/** Room for the letter of a side beside the end of its tide [px]. */
const RIGHT = 34;

/** Labels of the two ends stand at least so far apart [px]. */
const APART = 20;

/** Tides laid over each other on one scale, the gap between the two sides shaded. */
export function Overlay({ laid, units }: { laid: Laid[]; units: Units }) {
  const { ref, width: measured } = useElementSize<HTMLDivElement>();
  const width = Math.max(measured, LEAST);
  const far = Math.max(...laid.map(({ strip }) => strip.distance_m.at(-1) ?? 0), 1);
  const x = (metres: number) => LEFT + (metres / far) * (width - LEFT - RIGHT);
  const y = (left: number) => 10 + (1 - left) * (HEIGHT - BOTTOM - 10);
  const path = ({ distance_m, energy_left }: Strip) =>
    distance_m
      .map(
        (metres, at) =>
          `${at === 0 ? 'M' : 'L'}${x(metres).toFixed(1)} ${y(energy_left[at] ?? 0).toFixed(1)}`,
      )
      .join('');
  const strips = (side: Laid['side']) =>
    laid.filter((one) => one.side === side).map(({ strip }) => strip);
  const gap = gapOf(strips('first'), strips('second'));
  const between = ({ distance_m, first, second }: Gap) =>
    [
      ...distance_m.map((metres, at) => `${x(metres).toFixed(1)} ${y(first[at] ?? 0).toFixed(1)}`),
      ...distance_m
        .map((metres, at) => `${x(metres).toFixed(1)} ${y(second[at] ?? 0).toFixed(1)}`)
        .reverse(),
    ].join(' L');
  const ends = (['first', 'second'] as const).flatMap((side) => {
    const last = strips(side).at(-1);
    if (!last) return [];
    return [{ side, x: x(last.distance_m.at(-1) ?? 0), y: y(last.energy_left.at(-1) ?? 0) }];
  });
  const [one, other] = ends;
  // Two letters at one place are one: the lower of them gives way.
  if (one && other && Math.abs(one.x - other.x) < APART && Math.abs(one.y - other.y) < APART) {
    const [upper, lower] = one.y <= other.y ? [one, other] : [other, one];
    upper.y = Math.min(upper.y, HEIGHT - BOTTOM - APART);
    lower.y = upper.y + APART;
  }
  const said = laid
    .map(
      ({ title, strip }) =>
        `${title}: ${Math.round(100 * (strip.energy_left.at(-1) ?? 0))}% left after ${number(distance(strip.distance_m.at(-1) ?? 0, units), 1)} ${units.distance}`,
    )
    .join('; ');
  return (
    <div ref={ref}>
      <svg
        className={classes.overlay}
        viewBox={`0 0 ${width} ${HEIGHT}`}
        role="img"
        aria-label={`Tides over each other. ${said}`}
      >
        {[0, 0.5, 1].map((left) => (
          <g key={left}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(left)} y2={y(left)} className={classes.hair} />
            <text x={LEFT - 6} y={y(left) + 4} textAnchor="end">
              {Math.round(100 * left)}%
            </text>
          </g>
        ))}
        {ticks(distance(far, units), distance(far, units) / 5).map((tick) => (
          <text
            key={tick}
            x={x((tick / distance(far, units)) * far)}
            y={HEIGHT - 6}
            textAnchor="middle"
          >
            {number(tick, 0)}
            {tick === 0 ? ` ${units.distance}` : ''}
          </text>
        ))}
        {gap && <path d={`M${between(gap)}Z`} className={classes.gap} />}
        {laid.map((one) => (
          <path key={one.id} d={path(one.strip)} data-side={one.side} className={classes.tide} />
        ))}
        {ends.map((end) => (
          <text key={end.side} x={end.x + 8} y={end.y + 5} className={classes.letter}>
            {end.side === 'first' ? 'A' : 'B'}
          </text>
        ))}
      </svg>
    </div>
  );
}
