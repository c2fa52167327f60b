import { number, percent } from '../format/units';
import { say } from '../words/en/chart.ftl';
import { apart } from './apart';
import { Chart } from './Chart';
import classes from './Chart.module.css';
import { LINE, wide, withAir } from './frame';
import { linePath } from './paths';

interface Told {
  name: string;
  values: Array<number | null>;
  voice?: string;
  dashed?: boolean;
}

interface LeftChartProps {
  /** Shares of the energy left, the emptiest first. */
  left: number[];
  lines: Told[];
  unit: string;
  what: string;
}

const HEIGHT = 190;

/** Lines over what is left, from full on the left to empty on the right, as on the tideline. */
export function LeftChart({ left, lines, unit, what }: LeftChartProps) {
  const known = lines.flatMap((line) => line.values.filter((value) => value !== null));
  if (known.length < 2) return null;
  const drawn = lines.filter((line) => line.values.some((value) => value !== null));
  const text = (value: number) => number(value, Math.abs(value) < 100 ? 1 : 0);
  const order = left.map((_, at) => at).sort((a, b) => (left[b] ?? 0) - (left[a] ?? 0));
  const named = drawn.length > 1;
  const right = named ? Math.max(...drawn.map((line) => wide(line.name) + 12)) : 14;
  const span = say('low-to-high-with-unit', {
    low: text(Math.min(...known)),
    high: text(Math.max(...known)),
    unit,
  });
  return (
    <Chart
      name={say('over-energy-left', { what })}
      said={say('over-what-is-left', {
        what,
        span,
        drawn: drawn.map((line) => line.name).join(', '),
      })}
      height={HEIGHT}
      x={{
        title: say('energy-left'),
        domain: [1, 0],
        text: percent,
        ticks: [1, 0.75, 0.5, 0.25, 0],
      }}
      y={{ title: `${what}, ${unit}`, domain: withAir(known), text }}
      right={right}
      values={{
        columns: [say('energy-left-percent'), ...drawn.map((line) => `${line.name}, ${unit}`)],
        rows: order.map((at) => [
          100 * (left[at] ?? 0),
          ...drawn.map((line) => line.values[at] ?? null),
        ]),
      }}
      stops={order.map((at) => ({
        at: left[at] ?? 0,
        said: say('left-left-drawn', {
          left: percent(left[at] ?? 0),
          drawn: drawn
            .flatMap((line) => {
              const value = line.values[at];
              return value == null ? [] : [`${line.name} ${text(value)} ${unit}`];
            })
            .join(', '),
        }),
      }))}
    >
      {({ x, y, width, right: room, top, height, bottom, em }) => {
        const ends = drawn.map(({ values }) => y(values.find((value) => value !== null) ?? 0));
        const labels = apart(ends, LINE * em, [top + 6, height - bottom]);
        return drawn.map((line, k) => (
          <g key={line.name}>
            <path
              className={classes.line}
              data-voice={line.voice}
              data-dashed={line.dashed || undefined}
              // A share without a value is passed over: the line goes on to the next that has one.
              d={linePath(
                order.flatMap((at) => {
                  const value = line.values[at];
                  return value == null ? [] : [[x(left[at] ?? 0), y(value)] as const];
                }),
              )}
            />
            {named && (
              <text x={width - room + 6} y={(labels[k] ?? 0) + 4}>
                {line.name}
              </text>
            )}
          </g>
        ));
      }}
    </Chart>
  );
}
