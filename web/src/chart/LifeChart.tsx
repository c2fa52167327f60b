import type { Schemas } from '../api/client';
import type { Quantity } from '../api/queries';
import { number } from '../format/number';
import { say } from '../words/en/chart.ftl';
import { apart } from './apart';
import { Chart } from './Chart';
import classes from './Chart.module.css';
import { type Frame, LINE, wide, withAir } from './frame';
import { areaPath, linePath } from './paths';

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

/** What tests found, each with its interval, over time or cycles; the trend with its band behind. */
export function LifeChart({ what, along, dots, trend, levels = [], text }: LifeChartProps) {
  const order = [...dots].sort((a, b) => a.x - b.x);
  const first = order[0]?.x ?? 0;
  const last = order.at(-1)?.x ?? 1;
  const air = (last - first || 1) * 0.03;
  const domain = withAir([
    ...dots.flatMap((dot) => [dot.quantity.low, dot.quantity.high]),
    ...levels.map((level) => level.at),
  ]);
  const said = order.map((dot) => `${dot.title}: ${spanned(dot.quantity, text)}`);
  const right = Math.max(14, ...levels.map((level) => wide(level.text) + 12));
  return (
    <Chart
      name={say('what-over-along', { what, along })}
      said={say('what-over-along-said', { what, along, said: said.join('; ') })}
      height={HEIGHT}
      x={{ title: along, domain: [first - air, last + air], text: placeText }}
      y={{ title: what, domain, text }}
      right={right}
      values={{
        columns: [say('test'), along, what, 'from', 'to'],
        rows: order.map(({ title, x, quantity }) => [
          title,
          x,
          quantity.value,
          quantity.low,
          quantity.high,
        ]),
      }}
      stops={order.map((dot, at) => ({ at: dot.x, said: said[at] ?? '' }))}
    >
      {(frame) => (
        <>
          <Levels frame={frame} levels={levels} />
          {trend && <Trend frame={frame} trend={trend} />}
          {order.map(({ key, x, quantity }) => (
            <g key={key}>
              <line
                className={classes.whisker}
                x1={frame.x(x)}
                x2={frame.x(x)}
                y1={frame.y(quantity.low)}
                y2={frame.y(quantity.high)}
              />
              <circle className={classes.dot} cx={frame.x(x)} cy={frame.y(quantity.value)} r={4} />
            </g>
          ))}
        </>
      )}
    </Chart>
  );
}

const placeText = (place: number) => number(place, Number.isInteger(place) ? 0 : 1);

const spanned = (found: Quantity, text: (value: number) => string) =>
  say('value-low-to-high', {
    value: text(found.value),
    low: text(found.low),
    high: text(found.high),
  });

function Levels({ frame, levels }: { frame: Frame; levels: LifeChartProps['levels'] }) {
  const found = levels ?? [];
  const ends = [frame.top, frame.height - frame.bottom] as const;
  const labels = apart(
    found.map((level) => frame.y(level.at)),
    LINE * frame.em,
    ends,
  );
  const edge = frame.width - frame.right;
  return found.map((level, at) => (
    <g key={level.at}>
      <line
        className={classes.level}
        x1={frame.left}
        x2={edge}
        y1={frame.y(level.at)}
        y2={frame.y(level.at)}
      />
      <text x={edge + 6} y={(labels[at] ?? 0) + 4}>
        {level.text}
      </text>
    </g>
  ));
}

/** A trend leaves its frame nowhere, whatever its band. */
function Trend({ frame, trend }: { frame: Frame; trend: Schemas['TrendLineOut'] }) {
  const [top, ground] = [frame.top, frame.height - frame.bottom];
  const y = (value: number | undefined) => Math.min(Math.max(frame.y(value ?? 0), top), ground);
  const [from, to] = frame.x.domain() as [number, number];
  const within = trend.x.map((at) => at >= from && at <= to);
  const places = trend.x.map((at) => frame.x(at));
  return (
    <>
      <path
        className={classes.band}
        d={areaPath(
          places.map((at, k) => (within[k] ? [at, y(trend.high[k]), y(trend.low[k])] : null)),
        )}
      />
      <path
        className={classes.line}
        d={linePath(places.map((at, k) => (within[k] ? [at, y(trend.value[k])] : null)))}
      />
    </>
  );
}
