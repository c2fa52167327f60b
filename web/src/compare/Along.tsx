import { useElementSize } from '@mantine/hooks';
import type { Comparison, Units } from '../api/queries';
import { distance, height, heightUnit, number } from '../format/units';
import { ticks } from '../tideline/geometry';
import { Fold } from '../ui/Fold';
import classes from './Compare.module.css';

const HEIGHT = 200;
const LEFT = 62;
const RIGHT = 14;
const BOTTOM = 26;
/** Narrower than this nothing is drawn [px]. */
const LEAST = 240;

type Arising = NonNullable<Comparison['along']>;

/** How much more B had used along the way, over the hills of it. */
export function Along({ along, units }: { along: Arising; units: Units }) {
  const { ref, width: measured } = useElementSize<HTMLDivElement>();
  const width = Math.max(measured, LEAST);
  const { at_m, more_wh, height_m } = along;
  const far = Math.max(at_m.at(-1) ?? 0, 1);
  const most = Math.max(...more_wh, 0);
  const least = Math.min(...more_wh, 0);
  const span = Math.max(most - least, 1);
  const x = (metres: number) => LEFT + (metres / far) * (width - LEFT - RIGHT);
  const y = (wh: number) => 12 + ((most - wh) / span) * (HEIGHT - BOTTOM - 24);
  const hills = hillsPath(at_m, height_m, x);
  const line = more_wh
    .map((wh, k) => `${k === 0 ? 'M' : 'L'}${x(at_m[k] ?? 0).toFixed(1)} ${y(wh).toFixed(1)}`)
    .join('');
  const last = more_wh.at(-1) ?? 0;
  const long = distance(far, units);
  const tall = heightsSaid(height_m, units);
  return (
    <Fold title="Where the difference arises">
      <p>
        B had used {number(Math.abs(last), 0)} Wh {last < 0 ? 'less' : 'more'} by the end of the
        shared stretch,{' '}
        {along.by === 'track' ? 'matched by place on both tracks' : 'matched metre by metre'}
        {tall && `. Behind it the height of A’s route, ${tall}`}.
      </p>
      <div ref={ref}>
        <svg
          className={classes.overlay}
          viewBox={`0 0 ${width} ${HEIGHT}`}
          role="img"
          aria-label={`B over A along the route: ${quarters(along, units)}`}
        >
          {hills && <path d={hills} className={classes.hills} />}
          {[...new Set([most, 0, least])].map((wh) => (
            <g key={wh}>
              <line x1={LEFT} x2={width - RIGHT} y1={y(wh)} y2={y(wh)} className={classes.hair} />
              <text x={LEFT - 6} y={y(wh) + 4} textAnchor="end">
                {wh > 0 ? '+' : wh < 0 ? '−' : ''}
                {number(Math.abs(wh), 0)} Wh
              </text>
            </g>
          ))}
          <path d={line} data-side="second" className={classes.tide} />
          {ticks(long, long / 5).map((tick) => (
            <text key={tick} x={x((tick / long) * far)} y={HEIGHT - 6} textAnchor="middle">
              {number(tick, 0)}
              {tick === 0 ? ` ${units.distance}` : ''}
            </text>
          ))}
        </svg>
      </div>
    </Fold>
  );
}

/** The hills as an area in the lower half of the drawing; null where no heights are known. */
function hillsPath(
  at_m: readonly number[],
  height_m: Arising['height_m'],
  x: (metres: number) => number,
): string | null {
  const known = (height_m ?? []).filter((metres): metres is number => metres !== null);
  if (known.length < 2) return null;
  const low = Math.min(...known);
  const span = Math.max(Math.max(...known) - low, 1);
  const floor = HEIGHT - BOTTOM;
  const tops = at_m.flatMap((metres, k) => {
    const up = height_m?.[k];
    return up == null
      ? []
      : [`${x(metres).toFixed(1)} ${(floor - 6 - ((up - low) / span) * 0.5 * floor).toFixed(1)}`];
  });
  const [first, last] = [tops[0], tops.at(-1)];
  const foot = (top: string | undefined) => `${(top ?? '0').split(' ')[0]} ${floor}`;
  return `M${foot(first)}L${tops.join('L')}L${foot(last)}Z`;
}

function heightsSaid(height_m: Arising['height_m'], units: Units): string | null {
  const known = (height_m ?? []).filter((metres): metres is number => metres !== null);
  if (known.length < 2) return null;
  const [low, high] = [Math.min(...known), Math.max(...known)];
  return `${number(height(low, units), 0)} to ${number(height(high, units), 0)} ${heightUnit(units)}`;
}

/** The drawing in words: what had come together by each quarter. */
function quarters({ at_m, more_wh }: Arising, units: Units): string {
  return [0.25, 0.5, 0.75, 1]
    .map((share) => {
      const k = Math.round(share * (at_m.length - 1));
      return `${number(more_wh[k] ?? 0, 0)} Wh after ${number(distance(at_m[k] ?? 0, units), 1)} ${units.distance}`;
    })
    .join('; ');
}
