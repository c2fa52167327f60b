import type { EChartsType } from 'echarts/core';
import type React from 'react';
import { useEffect, useRef, useState } from 'react';
import type { Span, Traces, Units } from '../api/queries';
import { clock, distance, number } from '../format/units';
import { init } from './charts';
import classes from './Result.module.css';
import {
  type Axis,
  lookOf,
  positions,
  ROW_HEIGHT,
  summary,
  TOP,
  traceOptions,
} from './traceOptions';

interface TraceChartProps {
  traces: Traces;
  axis: Axis;
  units: Units;
  whole: boolean;
  lengthM: number;
  startedAt: string | null | undefined;
  onCursor: (metres: number | null) => void;
  /** A stretch that was dragged over, as two times [s]. */
  onSelect: (span: Span) => void;
}

/** The chart itself, and in words what stands under the cursor. */
export function TraceChart(props: TraceChartProps) {
  const { traces, axis, units, whole, lengthM, startedAt, onCursor, onSelect } = props;
  const holder = useRef<HTMLDivElement>(null);
  const chart = useRef<EChartsType | null>(null);
  const [at, setAt] = useState<number | null>(null);
  const where = useRef<(pixel: number) => number>(() => 0);
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  const height = TOP + traces.channels.length * ROW_HEIGHT + 12;

  useEffect(() => {
    if (holder.current === null) return;
    const made = init(holder.current);
    chart.current = made;
    const watch = new ResizeObserver(() => made.resize());
    watch.observe(holder.current);
    return () => {
      watch.disconnect();
      made.dispose();
      chart.current = null;
    };
  }, []);

  useEffect(() => {
    const made = chart.current;
    if (made === null) return;
    const shown = traces.distance_m;
    const options = traceOptions(traces, axis, units, lengthM);
    if (!whole && axis === 'distance' && shown != null) {
      const first = distance(shown[0] ?? 0, units);
      const last = distance(shown.at(-1) ?? 1, units);
      options.xAxis = (options.xAxis as object[]).map((item) => ({
        ...item,
        min: first,
        max: last,
      }));
    }
    made.setOption(options, { notMerge: true });
    const x = positions(traces, axis, units);
    const move = (event: unknown) => {
      const value = (event as { axesInfo?: Array<{ value: number }> }).axesInfo?.[0]?.value;
      if (value === undefined) return;
      const index = nearest(x, value);
      setAt(index);
      onCursor(traces.distance_m?.[index] ?? null);
    };
    const leave = () => {
      setAt(null);
      onCursor(null);
    };
    made.on('updateAxisPointer', move);
    made.getZr().on('globalout', leave);
    // Positions on the canvas are asked of the chart: it knows its own scale.
    where.current = (pixel) => {
      const value = made.convertFromPixel({ xAxisIndex: 0 }, pixel);
      return traces.time_s[nearest(x, Number(value))] ?? 0;
    };
    return () => {
      // On leaving the page the chart is disposed first, and its handlers with it.
      if (made.isDisposed()) return;
      made.off('updateAxisPointer', move);
      made.getZr().off('globalout', leave);
    };
  }, [traces, axis, units, whole, lengthM, onCursor]);

  const names = traces.channels.map((channel) => lookOf(channel.name).label).join(', ');
  return (
    <div
      style={{ position: 'relative', touchAction: 'pan-y' }}
      onPointerDown={(event) => {
        if (event.button !== 0 || event.pointerType === 'touch') return;
        const from = within(event);
        setDrag({ from, to: from });
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (drag !== null) setDrag({ ...drag, to: within(event) });
      }}
      onPointerUp={() => {
        if (drag !== null && Math.abs(drag.to - drag.from) > LEAST_DRAG) {
          const times = [where.current(drag.from), where.current(drag.to)].sort((a, b) => a - b);
          onSelect({ from_s: times[0] ?? 0, to_s: times[1] ?? 0 });
        }
        setDrag(null);
      }}
    >
      {drag !== null && (
        <div
          className={classes.dragged}
          style={{
            left: Math.min(drag.from, drag.to),
            width: Math.abs(drag.to - drag.from),
            height,
          }}
        />
      )}
      <div
        ref={holder}
        style={{ height }}
        role="img"
        aria-label={`Traces of ${names} over ${axis}; the table below holds the values.`}
      />
      {traces.channels.map((channel, index) => (
        <div
          key={channel.name}
          className={classes.channel}
          style={{ top: TOP + index * ROW_HEIGHT - 20 }}
        >
          <b>{lookOf(channel.name).label}</b> {summary(traces, index, units)}
        </div>
      ))}
      <div className={`${classes.readout} no-print`} aria-live="off">
        {at === null ? (
          <span className={classes.note}>
            Point at the traces to read them; drag across a stretch to zoom in.
          </span>
        ) : (
          readout(traces, at, units, startedAt)
        )}
      </div>
    </div>
  );
}

/** A drag shorter than this is a click [px]. */
const LEAST_DRAG = 6;

function within(event: React.PointerEvent<HTMLElement>): number {
  return event.clientX - event.currentTarget.getBoundingClientRect().left;
}

function nearest(values: number[], wanted: number): number {
  let best = 0;
  for (let index = 1; index < values.length; index += 1) {
    const here = Math.abs((values[index] ?? 0) - wanted);
    if (here < Math.abs((values[best] ?? 0) - wanted)) best = index;
  }
  return best;
}

function readout(
  traces: Traces,
  at: number,
  units: Units,
  startedAt: string | null | undefined,
): string {
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
