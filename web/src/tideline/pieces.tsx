import type { Strip } from '../api/queries';
import { number } from '../format/units';
import { type Frame, linePaths, placeLabels, xOf, yOf } from './geometry';
import classes from './Tideline.module.css';

export interface PartProps {
  frame: Frame;
  strip: Strip;
}

/** Each pack's own tide: it begins full where the one before it ends. */
export function Tides({ frame, strip, bare }: { frame: Frame; strip: Strip; bare: boolean }) {
  return (
    <>
      {strip.tides.map((tide) => {
        const paths = linePaths(frame, tide);
        if (paths === null) return null;
        return (
          <g key={tide.pack}>
            <path className={classes.area} d={paths.area} />
            <path className={classes.line} d={paths.line} />
            {!bare && (
              <text
                className={`${classes.text} ${classes.tide}`}
                x={xOf(frame, tide.distance_m[0] ?? 0) + 6}
                y={yOf(frame, 0) - 22}
              >
                pack {tide.pack}
              </text>
            )}
          </g>
        );
      })}
    </>
  );
}

/** What was crawled after the end: on the ground, apart from the tide. */
export function Limp({ frame, strip }: PartProps) {
  const from = strip.distance_m.at(-1) ?? strip.ridden_m ?? 0;
  const y = yOf(frame, 0) - 3;
  return (
    <line
      className={classes.limp}
      x1={xOf(frame, from)}
      x2={xOf(frame, strip.limp_to_m ?? from)}
      y1={y}
      y2={y}
    >
      <title>Limped after the end</title>
    </line>
  );
}

/** Height of the gauge's row [px]. */
export const GAUGE_ROW = 16;

export function gaugeMarks(strip: Strip) {
  return strip.marks.filter((mark) => mark.gauge != null && mark.kind !== 'settle');
}

export function showsGauge(strip: Strip): boolean {
  return gaugeMarks(strip).length > 1;
}

/** What the gauge showed, entry by entry, along the top. */
export function GaugeRow({ frame, strip, charPx }: PartProps & { charPx: number }) {
  if (!showsGauge(strip)) return null;
  const shown = gaugeMarks(strip);
  const labels = placeLabels(
    shown.map((mark, index) => ({
      x: xOf(frame, mark.distance_m),
      text: number(mark.gauge ?? 0, 0),
      // A step is worth its place; what only repeats the one before is not.
      weight: index === 0 || shown[index - 1]?.gauge !== mark.gauge ? 2 : 1,
    })),
    charPx,
  );
  return (
    <g>
      {labels.map((label) => (
        <text
          key={`${label.x}-${label.text}`}
          className={`${classes.text} ${classes.gauge}`}
          x={Math.max(label.x, frame.left + 4)}
          y={11}
          textAnchor={label.x < frame.left + 10 ? 'start' : 'middle'}
        >
          {label.text}
        </text>
      ))}
      <text
        className={`${classes.text} ${classes.gauge}`}
        x={frame.width - 2}
        y={11}
        textAnchor="end"
      >
        gauge
      </text>
    </g>
  );
}
