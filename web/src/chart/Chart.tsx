import { useElementSize } from '@mantine/hooks';
import { type PointerEvent, type ReactNode, useMemo, useRef, useState } from 'react';
import { LABEL_PX, textScale } from '../device/textScale';
import { say } from '../words/en/chart.ftl';
import classes from './Chart.module.css';
import { ChartFoot } from './ChartFoot';
import { type AxisOf, anchored, type Frame, frameOf, LINE, plain, wide } from './frame';
import { nearest } from './nearest';
import type { Values } from './values';

/** A place that the cursor can stand at. */
export interface Stop {
  /** Its value along the axis that the cursor runs on; in rows, the place of the row [px]. */
  at: number;
  said: string;
}

export interface ChartProps {
  /** What the drawing is called: on a saved picture, and of its file. */
  name: string;
  /** What it shows, in words. */
  said: string;
  height: number;
  x: AxisOf;
  /** Without it the drawing has rows of its own. */
  y?: AxisOf;
  left?: number;
  right?: number;
  values: Values;
  /** Where the cursor can stand, in the order of the axis. */
  stops: readonly Stop[];
  /** Which way the cursor runs: along the axis, or down the rows of the drawing. */
  runs?: 'along' | 'down';
  /** Where it stands when another drawing moves it. */
  at?: number | null;
  onCursor?: (stop: number | null) => void;
  /** A stretch that was dragged over, the smaller value first. */
  onSelect?: (from: number, to: number) => void;
  /** What stands below while nothing is pointed at. */
  hint?: string;
  /** Without the line of tools below. */
  bare?: boolean;
  children: (frame: Frame) => ReactNode;
}

/** Narrower than this nothing is drawn [px]. */
const LEAST = 240;
/** A drag shorter than this is a click [px]. */
const LEAST_DRAG = 6;
/** Narrower than this the line of tools has no room for what is read [px]. */
const NARROW = 540;

/** The frame of every drawing: axes with titles, a cursor by hand and by key, its values, its picture. */
export function Chart(props: ChartProps) {
  const { name, said, x, y, left, right, stops, runs = 'along', hint, children } = props;
  const { ref, width: found } = useElementSize<HTMLDivElement>();
  const svg = useRef<SVGSVGElement>(null);
  const [own, setOwn] = useState<number | null>(null);
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  const em = textScale();
  const narrow = found < NARROW;
  const width = Math.max(found, LEAST);
  // Labels grow with the reader's text, and the drawing with them.
  const height = props.height + Math.round((em - 1) * 3 * LINE);
  // Who keeps its axes from one drawing to the next keeps its frame, and all that is drawn by it.
  const { frame, xTicks, yTicks } = useMemo(
    () => frameOf({ width, height, em, x, y, left, right }),
    [width, height, em, x, y, left, right],
  );
  const places = stops.map((stop) => (runs === 'along' ? frame.x(stop.at) : stop.at));
  const outer = props.at == null ? null : nearest(places, frame.x(props.at));
  const shown = own ?? outer;
  const stop = shown === null ? undefined : stops[shown];

  function move(to: number | null) {
    if (to === own) return;
    setOwn(to);
    props.onCursor?.(to);
  }
  function pointed(event: PointerEvent<HTMLDivElement>) {
    const box = event.currentTarget.getBoundingClientRect();
    // The box may be drawn smaller than it is: in print, under a zoom.
    const scale = box.width > 0 ? width / box.width : 1;
    const px = (event.clientX - box.left) * scale;
    move(nearest(places, runs === 'along' ? px : (event.clientY - box.top) * scale));
    return px;
  }
  const { onSelect } = props;
  const xText = x.text ?? plain;
  const yText = y?.text ?? plain;
  const ground = height - frame.bottom;
  return (
    <figure className={classes.chart}>
      <div
        ref={ref}
        className={classes.hold}
        onPointerMove={(event) => {
          const px = pointed(event);
          if (drag) setDrag({ ...drag, to: px });
        }}
        onPointerDown={(event) => {
          const px = pointed(event);
          if (!onSelect || event.button !== 0 || event.pointerType === 'touch') return;
          setDrag({ from: px, to: px });
          event.currentTarget.setPointerCapture(event.pointerId);
        }}
        onPointerUp={() => {
          if (drag && Math.abs(drag.to - drag.from) > LEAST_DRAG) {
            const ends = [frame.x.invert(drag.from), frame.x.invert(drag.to)].sort((a, b) => a - b);
            onSelect?.(ends[0] ?? 0, ends[1] ?? 0);
          }
          setDrag(null);
        }}
        onPointerCancel={() => setDrag(null)}
        onPointerLeave={(event) => {
          // A finger leaves whenever it is lifted; what it pointed at stays to be read.
          if (event.pointerType === 'mouse') move(null);
        }}
      >
        <svg
          ref={svg}
          className={classes.svg}
          // In the drawing's own measure: what is laid out for one size of text has that size.
          fontSize={LABEL_PX * em}
          viewBox={`0 0 ${width} ${height}`}
          role="img"
          aria-label={said}
        >
          {yTicks.map((tick) => (
            <g key={tick}>
              <line
                className={classes.hair}
                x1={frame.left}
                x2={width - frame.right}
                y1={frame.y(tick)}
                y2={frame.y(tick)}
              />
              <text
                className={classes.axis}
                x={frame.left - 6}
                y={frame.y(tick) + 4 * em}
                textAnchor="end"
              >
                {yText(tick)}
              </text>
            </g>
          ))}
          {y && (
            <text className={classes.axis} x={0} y={12 * em}>
              {y.title}
            </text>
          )}
          {children(frame)}
          {drag && (
            <rect
              data-cursor
              className={classes.dragged}
              x={Math.min(drag.from, drag.to)}
              width={Math.abs(drag.to - drag.from)}
              y={frame.top}
              height={ground - frame.top}
            />
          )}
          {shown !== null && (
            <line
              data-cursor
              className={classes.cursor}
              {...(runs === 'along'
                ? { x1: places[shown], x2: places[shown], y1: frame.top - 4, y2: ground }
                : { x1: 0, x2: 0, y1: (places[shown] ?? 0) - 9, y2: (places[shown] ?? 0) + 9 })}
            />
          )}
          {xTicks.map((tick) => (
            <text
              key={tick}
              className={classes.axis}
              x={frame.x(tick)}
              y={ground + 15 * em}
              textAnchor={anchored(frame.x(tick), wide(xText(tick), em), width)}
            >
              {xText(tick)}
            </text>
          ))}
          <text
            className={classes.axis}
            x={width - frame.right}
            y={ground + (xTicks.length > 0 ? 31 : 15) * em}
            textAnchor="end"
          >
            {x.title}
          </text>
        </svg>
        {narrow && stop && <div className={`${classes.over} no-print`}>{stop.said}</div>}
        {stops.length > 1 && (
          <input
            className={classes.keys}
            type="range"
            min={0}
            max={stops.length - 1}
            value={shown ?? 0}
            aria-label={say('read-value-by-value', { name })}
            aria-valuetext={stop?.said ?? stops[0]?.said}
            onFocus={(event) => {
              // A finger's tap stands where it was; a key begins at the first.
              if (event.currentTarget.matches(':focus-visible')) move(shown ?? 0);
            }}
            onBlur={() => move(null)}
            onChange={(event) => move(Number(event.currentTarget.value))}
          />
        )}
      </div>
      {!props.bare && (
        <ChartFoot
          name={name}
          values={props.values}
          picture={() => svg.current}
          read={narrow ? null : (stop?.said ?? hint ?? null)}
        />
      )}
    </figure>
  );
}
