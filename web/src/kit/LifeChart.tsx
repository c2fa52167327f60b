import { useElementSize } from '@mantine/hooks';
import type { Schemas } from '../api/client';
import type { Quantity } from '../api/queries';
import { number } from '../format/number';
import { ticks, ticksBetween } from '../tideline/geometry';
import parts from '../ui/Parts.module.css';

export interface Dot {
  key: string;
  title: string;
  x: number;
  quantity: Quantity;
}

interface LifeChartProps {
  what: string;
  /** Under the axis: what is counted along it. */
  along: string;
  dots: Dot[];
  trend?: Schemas['TrendLineOut'] | null;
  /** Values that mean something, with their words. */
  levels?: ReadonlyArray<{ at: number; text: string }>;
  text: (value: number) => string;
}

const HEIGHT = 200;
const EDGE = { left: 58, top: 14, bottom: 34 };
const MARGIN = { words: 104, plain: 14 };

/** What tests found, each with its interval, over time or cycles; the trend with its band behind. */
export function LifeChart({ what, along, dots, trend, levels = [], text }: LifeChartProps) {
  const { ref, width: found } = useElementSize<HTMLDivElement>();
  const width = Math.max(found, 240);
  const right = levels.length > 0 ? MARGIN.words : MARGIN.plain;
  const last = Math.max(...dots.map((dot) => dot.x), 0);
  const first = Math.min(...dots.map((dot) => dot.x));
  const values = [
    ...dots.flatMap((dot) => [dot.quantity.low, dot.quantity.high]),
    ...levels.map((level) => level.at),
  ];
  const least = Math.min(...values);
  const most = Math.max(...values);
  const air = (most - least || Math.abs(most) || 1) * 0.06;
  const low = least - air;
  const high = most + air;
  const span = last - first || 1;
  const x = (at: number) =>
    EDGE.left + 10 + ((at - first) / span) * (width - EDGE.left - right - 20);
  const y = (value: number) =>
    EDGE.top + (1 - (value - low) / (high - low)) * (HEIGHT - EDGE.top - EDGE.bottom);
  const inside = (value: number) => Math.min(Math.max(y(value), EDGE.top), HEIGHT - EDGE.bottom);
  const rows = ticks(high, (high - low) / 4).filter((tick) => tick >= low);
  const places = ticksBetween(first, last, span / 5);
  const said = dots
    .map(
      (dot) =>
        `${dot.title}: ${text(dot.quantity.value)}, ${text(dot.quantity.low)} to ${text(dot.quantity.high)}`,
    )
    .join('; ');
  return (
    <div ref={ref}>
      <svg
        width="100%"
        height={HEIGHT}
        viewBox={`0 0 ${width} ${HEIGHT}`}
        role="img"
        aria-label={`${what} over ${along}. ${said}`}
      >
        {rows.map((row) => (
          <g key={row}>
            <line
              className={parts.hair}
              x1={EDGE.left}
              x2={width - right}
              y1={y(row)}
              y2={y(row)}
            />
            <text className={parts.axis} x={EDGE.left - 6} y={y(row) + 4} textAnchor="end">
              {text(row)}
            </text>
          </g>
        ))}
        {levels.map((level) => (
          <g key={level.at}>
            <line
              className={parts.level}
              x1={EDGE.left}
              x2={width - right}
              y1={y(level.at)}
              y2={y(level.at)}
            />
            <text className={parts.axis} x={width - right + 6} y={y(level.at) + 4}>
              {level.text}
            </text>
          </g>
        ))}
        {trend && (
          <>
            <path className={parts.band} d={bandPath(trend, x, inside)} />
            <path
              className={parts.trend}
              d={trend.x
                .map(
                  (at, k) =>
                    `${k === 0 ? 'M' : 'L'}${x(at).toFixed(1)} ${inside(trend.value[k] ?? 0).toFixed(1)}`,
                )
                .join('')}
            />
          </>
        )}
        {dots.map((dot) => (
          <g key={dot.key}>
            <title>{`${dot.title}: ${text(dot.quantity.value)}`}</title>
            <line
              className={parts.whisker}
              x1={x(dot.x)}
              x2={x(dot.x)}
              y1={y(dot.quantity.low)}
              y2={y(dot.quantity.high)}
            />
            <circle className={parts.dot} cx={x(dot.x)} cy={y(dot.quantity.value)} r={4} />
          </g>
        ))}
        {places.map((place) => (
          <text key={place} className={parts.axis} x={x(place)} y={HEIGHT - 18} textAnchor="middle">
            {number(place, places.every(Number.isInteger) ? 0 : 1)}
          </text>
        ))}
        <text className={parts.axis} x={width - right} y={HEIGHT - 3} textAnchor="end">
          {along}
        </text>
      </svg>
    </div>
  );
}

function bandPath(
  trend: Schemas['TrendLineOut'],
  x: (at: number) => number,
  y: (value: number) => number,
): string {
  const top = trend.x.map((at, k) => `${x(at).toFixed(1)} ${y(trend.high[k] ?? 0).toFixed(1)}`);
  const bottom = trend.x.map((at, k) => `${x(at).toFixed(1)} ${y(trend.low[k] ?? 0).toFixed(1)}`);
  return `M${top.join('L')}L${bottom.reverse().join('L')}Z`;
}
