import type { Strip } from '../api/queries';
import { number } from '../format/units';
import { say } from '../words/en/tideline.ftl';
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
                {say('pack-pack', { pack: tide.pack })}
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
      <title>{say('limped-after-the-end')}</title>
    </line>
  );
}

/** A picture that was taken on the way: of the display, of a place. */
export interface Photo {
  distance_m: number;
  address: string;
  text: string;
}

/** Height of the pictures' row, and of a picture in it [px]. */
export const PHOTO_ROW = 44;
const PHOTO = { width: 52, height: 38 };

/** Pictures over where they were taken; where two would lie on each other the later one is left to the table. */
export function Photos({ frame, photos }: { frame: Frame; photos: readonly Photo[] }) {
  let taken = Number.NEGATIVE_INFINITY;
  const shown = [...photos]
    .sort((a, b) => a.distance_m - b.distance_m)
    .flatMap((photo) => {
      const middle = xOf(frame, photo.distance_m);
      const x = Math.min(Math.max(middle - PHOTO.width / 2, 0), frame.width - PHOTO.width);
      if (x < taken + 4) return [];
      taken = x + PHOTO.width;
      return [{ ...photo, x, middle }];
    });
  return shown.map(({ x, middle, address, text }) => (
    <g key={address}>
      <line className={classes.stem} x1={middle} x2={middle} y1={PHOTO.height} y2={PHOTO_ROW} />
      <a href={address} target="_blank" rel="noreferrer" aria-label={text}>
        <image
          className={classes.photo}
          href={address}
          x={x}
          y={0}
          width={PHOTO.width}
          height={PHOTO.height}
          preserveAspectRatio="xMidYMid slice"
        />
      </a>
    </g>
  ));
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
export function GaugeRow({ frame, strip, charPx, y }: PartProps & { charPx: number; y: number }) {
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
          y={y}
          textAnchor={label.x < frame.left + 10 ? 'start' : 'middle'}
        >
          {label.text}
        </text>
      ))}
      <text
        className={`${classes.text} ${classes.gauge}`}
        x={frame.width - 2}
        y={y}
        textAnchor="end"
      >
        {say('gauge')}
      </text>
    </g>
  );
}
