import { useElementSize, useId } from '@mantine/hooks';
import type { Strip, Units } from '../api/queries';
import { textScale } from '../device/textScale';
import { distanceText, percent } from '../format/units';
import { type Band, bandAt, bandPaths, type Flag } from './band';
import {
  type Frame,
  forecastPaths,
  groundOf,
  lastTide,
  linePaths,
  onTides,
  reachOf,
  xOf,
  yOf,
} from './geometry';
import { Flags, Marks, Reserve, Scale } from './labels';
import { GAUGE_ROW, GaugeRow, Limp, showsGauge, Tides } from './pieces';
import classes from './Tideline.module.css';

interface TidelineProps {
  strip: Strip;
  units: Units;
  /** The distance at the right edge [m]; by default as far as this strip reaches. */
  lengthM?: number;
  height?: number;
  /** A row of the logbook has no labels of its own: the page's scale serves it. */
  bare?: boolean;
  /** Where the cursor stands [m], shared with the traces. */
  cursorM?: number | null;
  /** Width of a character of the labels [px]. */
  charWidth?: number;
  /** What was forecast, under what was ridden. */
  band?: Band | null;
  /** Places to know of: turn, enough, the end, entries to make. */
  flags?: readonly Flag[];
  /** What the drawing says in words, where it says more than the strip. */
  label?: string;
}

/** A bare strip is drawn as if so wide [px]. */
const BARE_PX = 500;

/** Energy left over distance: it ebbs from full on the left to cut-off on the right. */
export function Tideline({
  strip: whole,
  units,
  lengthM,
  height: wanted = 176,
  bare = false,
  cursorM = null,
  charWidth = 6.2,
  band = null,
  flags = [],
  label,
}: TidelineProps) {
  const strip = onTides(whole);
  const { ref, width } = useElementSize<HTMLDivElement>();
  const clip = useId();
  // Labels grow with the browser's own text size, and need their room.
  const scale = bare ? 1 : textScale();
  const charPx = charWidth * scale;
  const grown = (room: number) => Math.round(room * scale);
  const height =
    wanted + (bare ? 0 : grown(58) - 58) + (!bare && showsGauge(strip) ? GAUGE_ROW : 0);
  const frame: Frame = {
    // A row's strip is stretched to its place and never measured: there are many of them.
    width: bare ? BARE_PX : Math.max(width, 120),
    height,
    left: bare ? 1 : 8,
    right: bare ? 1 : 24,
    // A row for what the gauge showed stands above all else.
    top: bare ? 3 : grown(34) + (showsGauge(strip) ? GAUGE_ROW : 0),
    bottom: bare ? 3 : grown(24),
    lengthM: lengthM ?? groundOf(strip, band),
  };
  const planned = band ? bandPaths(frame, band) : null;
  const paths = linePaths(frame, strip);
  // Over a plan's band the ride's own outlook is a span on the ground, not a second band.
  const forecast = band ? null : forecastPaths(frame, lastTide(strip));
  const outlook = band && strip.distance_m.length > 1 && !strip.measured ? strip.cutoff_m : null;
  const ground = yOf(frame, 0);
  // Several packs, one after another: each has its own tide.
  const inTurn = strip.tides.length > 1;
  const edge = bare ? frame.right : Math.max(frame.right - EDGE_ROOM, 0);
  const end = Math.min(reachOf(strip), frame.lengthM);
  return (
    <div ref={bare ? undefined : ref} className={classes.wrap}>
      <svg
        className={bare ? `${classes.svg} ${classes.bare}` : classes.svg}
        height={height}
        viewBox={`0 0 ${frame.width} ${height}`}
        preserveAspectRatio={bare ? 'none' : undefined}
        role="img"
        aria-label={label ?? sentence(strip, units)}
      >
        <clipPath id={clip}>
          <rect x={frame.left} y={0} width={frame.width - frame.left - edge} height={height} />
        </clipPath>
        {/* Whatever the band, no drawing leaves its frame. */}
        <g clipPath={`url(#${clip})`}>
          {planned && <path className={classes.band} d={planned.outline} />}
          {planned && <path className={classes.middle} d={planned.middle} />}
          {forecast && <path className={classes.band} d={forecast.band} />}
          {!inTurn && paths && <path className={classes.area} d={paths.area} />}
          {forecast && <path className={classes.middle} d={forecast.middle} />}
          {!inTurn && paths && <path className={classes.line} d={paths.line} />}
          {inTurn && <Tides frame={frame} strip={strip} bare={bare} />}
          {strip.limp_to_m != null && <Limp frame={frame} strip={strip} />}
        </g>
        <line
          className={classes.empty}
          x1={xOf(frame, 0)}
          x2={bare ? xOf(frame, end) : frame.width - frame.right}
          y1={ground}
          y2={ground}
        />
        {outlook && (
          <line
            className={classes.outlook}
            x1={Math.min(xOf(frame, outlook[0] ?? 0), frame.width - frame.right)}
            x2={Math.min(xOf(frame, outlook[2] ?? 0), frame.width - frame.right)}
            y1={ground - 4}
            y2={ground - 4}
          />
        )}
        {(paths || planned) && !bare && <Reserve frame={frame} strip={strip} charPx={charPx} />}
        {!bare && <Marks frame={frame} strip={strip} charPx={charPx} />}
        {!bare && <GaugeRow frame={frame} strip={strip} charPx={charPx} />}
        {!bare && <Scale frame={frame} strip={strip} units={units} charPx={charPx} />}
        {!bare && <Flags frame={frame} flags={[...flags, ...ownFlags(strip)]} charPx={charPx} />}
        {band &&
          flags
            .filter((flag) => flag.text === '' && flag.distance_m <= frame.lengthM)
            .map((flag) => (
              // An entry to make: a mark like those that are made, not yet filled with energy.
              <circle
                key={flag.distance_m}
                className={classes.planned}
                cx={xOf(frame, flag.distance_m)}
                cy={yOf(frame, bandAt(band, flag.distance_m)?.value ?? 0)}
                r={3.6}
              />
            ))}
        {cursorM !== null && (
          <line
            className={classes.cursor}
            x1={xOf(frame, cursorM)}
            x2={xOf(frame, cursorM)}
            y1={frame.top - 6}
            y2={ground}
          />
        )}
      </svg>
    </div>
  );
}

/** Room beside the frame that a label may take, a drawing not [px]. */
const EDGE_ROOM = 4;

/** Where the speed held began to fall. */
function ownFlags(strip: Strip): Flag[] {
  return strip.fade_m == null ? [] : [{ distance_m: strip.fade_m, text: 'fade', weight: 2 }];
}

/** What the drawing says, for those who do not see it. */
export function sentence(strip: Strip, units: Units): string {
  const ridden =
    strip.ridden_m == null ? 'an unknown distance' : distanceText(strip.ridden_m, units);
  const left = strip.energy_left.at(-1);
  const ebbed =
    left === undefined ? 'the energy left is not known' : `${percent(left)} of the energy left`;
  const cutoff = strip.cutoff_m?.[1];
  const end =
    cutoff == null
      ? ''
      : `; ${strip.measured ? 'cut-off came' : 'cut-off is expected'} at ${distanceText(cutoff, units)}`;
  return `Tideline: ${ridden} ridden, ${ebbed}${end}.`;
}
