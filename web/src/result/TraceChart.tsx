import { scaleLinear } from 'd3-scale';
import { memo, useMemo } from 'react';
import type { Span, Traces, Units } from '../api/queries';
import { Chart } from '../chart/Chart';
import chart from '../chart/Chart.module.css';
import { type Frame, withAir } from '../chart/frame';
import { nearest } from '../chart/nearest';
import { linePath } from '../chart/paths';
import type { Values } from '../chart/values';
import { clock, distance, number } from '../format/units';
import { say } from '../words/en/result.ftl';
import { type Axis, lookOf, positions, summary } from './traces';

interface TraceChartProps {
  traces: Traces;
  axis: Axis;
  units: Units;
  whole: boolean;
  lengthM: number;
  startedAt: string | null | undefined;
  cursorM: number | null;
  onCursor: (metres: number | null) => void;
  /** A stretch that was dragged over, as two times [s]. */
  onSelect: (span: Span) => void;
}

/** A row holds its label and, under it, the plot [px]. */
const ROW = 70;
const PLOT = 46;
const LABEL = 16;
/** As on the tideline above, so that the same distance stands at the same place [px]. */
const EDGE = { left: 8, right: 24 };

/** What the logger saw: a row a channel, one cursor over all. */
export function TraceChart(props: TraceChartProps) {
  const { traces, axis, units, whole, lengthM, startedAt, cursorM, onCursor, onSelect } = props;
  const byDistance = axis === 'distance' && traces.distance_m != null;
  const labels = traces.channels.map((channel) => lookOf(channel.name).label).join(', ');
  // The cursor moves many times a second; what it moves over is made once.
  const x = useMemo(() => positions(traces, axis, units), [traces, axis, units]);
  const along = useMemo(() => {
    const domain: [number, number] =
      byDistance && whole ? [0, distance(lengthM, units)] : [x[0] ?? 0, x.at(-1) ?? 1];
    return {
      title: byDistance ? say('distance-distance', { distance: units.distance }) : say('minutes'),
      domain,
    };
  }, [byDistance, whole, lengthM, units, x]);
  const values = useMemo(() => valuesOf(traces, units, startedAt), [traces, units, startedAt]);
  const stops = useMemo(
    () => x.map((at, index) => ({ at, said: read(traces, index, units, startedAt) })),
    [x, traces, units, startedAt],
  );
  return (
    <Chart
      name={say('traces-of-labels', { labels })}
      said={say('traces-of-over-the-table', { labels, axis })}
      height={traces.channels.length * ROW + 50}
      x={along}
      left={EDGE.left}
      right={EDGE.right}
      values={values}
      stops={stops}
      at={cursorM === null ? null : placeOf(traces, cursorM, x)}
      onCursor={(index) => onCursor(index === null ? null : (traces.distance_m?.[index] ?? null))}
      onSelect={(from, to) => {
        const times = [from, to].map((at) => traces.time_s[nearest(x, at) ?? 0] ?? 0);
        onSelect({ from_s: times[0] ?? 0, to_s: times[1] ?? 0 });
      }}
      hint={say('point-at-the-traces-to')}
    >
      {(frame) =>
        traces.channels.map((channel, row) => (
          <Row key={channel.name} frame={frame} traces={traces} row={row} x={x} units={units} />
        ))
      }
    </Chart>
  );
}

interface RowProps {
  frame: Frame;
  traces: Traces;
  row: number;
  x: number[];
  units: Units;
}

/** One channel: its mean, and faint about it the lowest and highest of each piece. */
const Row = memo(function Row({ frame, traces, row, x, units }: RowProps) {
  const channel = traces.channels[row];
  if (channel === undefined) return null;
  const look = lookOf(channel.name);
  const top = frame.top + row * ROW;
  const known = [...channel.low, ...channel.high].filter((value) => value !== null);
  const y = scaleLinear(known.length > 0 ? withAir(known, 0.02) : [0, 1], [
    top + LABEL + PLOT,
    top + LABEL + 4,
  ]);
  const path = (values: Array<number | null>) =>
    linePath(
      values.map((value, at) =>
        value === null ? null : ([frame.x(x[at] ?? 0), y(value)] as const),
      ),
    );
  return (
    <g>
      <text x={frame.left} y={top + 11}>
        <tspan className={chart.strong}>{look.label}</tspan>
        <tspan dx={6} className={chart.axis}>
          {summary(traces, row, units)}
        </tspan>
      </text>
      <line
        className={chart.hair}
        x1={frame.left}
        x2={frame.width - frame.right}
        y1={top + LABEL + PLOT + 2}
        y2={top + LABEL + PLOT + 2}
      />
      {[channel.low, channel.high].map((values, edge) => (
        <path
          // biome-ignore lint/suspicious/noArrayIndexKey: the lower edge and the upper one
          key={edge}
          className={chart.line}
          data-voice={look.voice}
          data-faint
          d={path(values)}
        />
      ))}
      <path className={chart.line} data-voice={look.voice} d={path(channel.mean)} />
    </g>
  );
});

/** Where a distance of the ride lies along the axis; null where it is not among what is shown. */
function placeOf(traces: Traces, metres: number, x: number[]): number | null {
  const along = traces.distance_m;
  if (along == null || metres < (along[0] ?? 0) || metres > (along.at(-1) ?? 0)) return null;
  return x[nearest(along, metres) ?? 0] ?? null;
}

type Started = TraceChartProps['startedAt'];

function valuesOf(traces: Traces, units: Units, startedAt: Started): Values {
  const far = traces.distance_m;
  return {
    columns: [
      say('clock'),
      ...(far == null ? [] : [units.distance]),
      ...traces.channels.map(({ name }) => {
        const look = lookOf(name);
        return `${look.label}, ${look.unit(units)}`;
      }),
    ],
    rows: traces.time_s.map((time, at) => [
      clock(startedAt, time),
      ...(far == null ? [] : [distance(far[at] ?? 0, units)]),
      ...traces.channels.map(({ name, mean }) => {
        const value = mean[at];
        return value == null ? null : lookOf(name).scale(value, units);
      }),
    ]),
  };
}

/** What stands under the cursor, in words. */
function read(traces: Traces, at: number, units: Units, startedAt: Started): string {
  const metres = traces.distance_m?.[at];
  const parts = metres == null ? [] : [`${number(distance(metres, units), 2)} ${units.distance}`];
  parts.push(clock(startedAt, traces.time_s[at] ?? 0));
  for (const channel of traces.channels) {
    const value = channel.mean[at];
    const look = lookOf(channel.name);
    if (value != null) {
      parts.push(`${number(look.scale(value, units), look.digits)} ${look.unit(units)}`);
    }
  }
  return parts.join(' · ');
}
