import { useId } from '@mantine/hooks';
import type { Strip, Units } from '../api/queries';
import { type Band, bandAt, bandPaths, type Flag } from './band';
import {
  type Frame,
  forecastPaths,
  groundOf,
  lastTide,
  linePaths,
  reachOf,
  xOf,
  yOf,
} from './geometry';
import { Flags, Marks, Reserve, Scale } from './labels';
import {
  GAUGE_ROW,
  GaugeRow,
  Limp,
  PHOTO_ROW,
  type Photo,
  Photos,
  showsGauge,
  Tides,
} from './pieces';
import classes from './Tideline.module.css';

interface Room {
  strip: Strip;
  band: Band | null;
  /** A row of the logbook has no labels of its own. */
  bare: boolean;
  width: number;
  height: number;
  lengthM: number | undefined;
  /** How much larger than usual the text is. */
  scale: number;
  photos?: readonly Photo[];
}

/** The frame of a tideline: room for its labels, then what is left for the tide. */
export function tideFrame(room: Room): Frame {
  const { strip, band, bare, width, height, lengthM, scale, photos = [] } = room;
  // Labels grow with the reader's own text size, and need their room.
  const grown = (px: number) => Math.round(px * scale);
  const gauge = !bare && showsGauge(strip) ? GAUGE_ROW : 0;
  const pictures = !bare && photos.length > 0 ? PHOTO_ROW : 0;
  return {
    width,
    height: height + (bare ? 0 : grown(58) - 58) + gauge + pictures,
    left: bare ? 1 : 8,
    right: bare ? 1 : 24,
    // Rows for pictures and for what the gauge showed stand above all else.
    top: bare ? 3 : grown(34) + gauge + pictures,
    bottom: bare ? 3 : grown(24),
    lengthM: lengthM ?? groundOf(strip, band),
  };
}

interface DrawingProps {
  frame: Frame;
  strip: Strip;
  units: Units;
  bare: boolean;
  charPx: number;
  cursorM: number | null;
  band: Band | null;
  flags: readonly Flag[];
  photos?: readonly Photo[];
}

/** Room beside the frame that a label may take, a drawing not [px]. */
const EDGE_ROOM = 4;

/** All that is drawn of a tideline, within a frame that somebody else measured. */
export function Drawing(props: DrawingProps) {
  const { frame, strip, units, bare, charPx, cursorM, band, flags, photos = [] } = props;
  const clip = useId();
  const { height } = frame;
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
    <>
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
      {!bare && photos.length > 0 && <Photos frame={frame} photos={photos} />}
      {!bare && (
        <GaugeRow
          frame={frame}
          strip={strip}
          charPx={charPx}
          y={11 + (photos.length > 0 ? PHOTO_ROW : 0)}
        />
      )}
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
    </>
  );
}

/** Where the speed held began to fall. */
function ownFlags(strip: Strip): Flag[] {
  return strip.fade_m == null ? [] : [{ distance_m: strip.fade_m, text: 'fade', weight: 2 }];
}
