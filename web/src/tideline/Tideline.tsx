import { useElementSize, useId } from '@mantine/hooks';
import type { Strip, Units } from '../api/queries';
import { distance, distanceText, number, percent } from '../format/units';
import { choicesOf, KIND_WORDS, labelOf } from '../format/words';
import { type Band, bandAt, bandPaths, type Flag } from './band';
import {
  type Frame,
  forecastPaths,
  lastTide,
  linePaths,
  onTides,
  placeLabels,
  reachOf,
  ticks,
  xOf,
  yOf,
} from './geometry';
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
  const height = wanted + (!bare && showsGauge(strip) ? GAUGE_ROW : 0);
  // Labels grow with the browser's own text size, and need their room.
  const charPx = charWidth * textScale();
  const frame: Frame = {
    width: Math.max(width, 120),
    height,
    left: bare ? 1 : 8,
    right: bare ? 1 : 24,
    // A row for what the gauge showed stands above all else.
    top: bare ? 3 : 34 + (showsGauge(strip) ? GAUGE_ROW : 0),
    bottom: bare ? 3 : 24,
    lengthM: Math.max(lengthM ?? Math.max(reachOf(strip), band?.distance_m.at(-1) ?? 0) * 1.04, 1),
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
    <div ref={ref} className={classes.wrap}>
      <svg
        className={bare ? `${classes.svg} ${classes.bare}` : classes.svg}
        height={height}
        viewBox={`0 0 ${frame.width} ${height}`}
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
            x1={Math.min(xOf(frame, outlook[0] ?? 0), frame.width)}
            x2={Math.min(xOf(frame, outlook[2] ?? 0), frame.width)}
            y1={ground - 4}
            y2={ground - 4}
          />
        )}
        {(paths || planned) && !bare && <Reserve frame={frame} strip={strip} />}
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

/** Each pack's own tide: it begins full where the one before it ends. */
function Tides({ frame, strip, bare }: { frame: Frame; strip: Strip; bare: boolean }) {
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
function Limp({ frame, strip }: PartProps) {
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
const GAUGE_ROW = 16;

function gaugeMarks(strip: Strip) {
  return strip.marks.filter((mark) => mark.gauge != null && mark.kind !== 'settle');
}

function showsGauge(strip: Strip): boolean {
  return gaugeMarks(strip).length > 1;
}

/** What the gauge showed, entry by entry, along the top. */
function GaugeRow({ frame, strip, charPx }: PartProps & { charPx: number }) {
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

interface PartProps {
  frame: Frame;
  strip: Strip;
}

function Reserve({ frame, strip }: PartProps) {
  const y = yOf(frame, strip.reserve);
  const right = frame.width - frame.right;
  return (
    <>
      <line className={classes.reserve} x1={xOf(frame, 0)} x2={right} y1={y} y2={y} />
      {strip.measured ? (
        // The end's own label stands at the right of a ride that reached it.
        <text className={classes.text} x={xOf(frame, 0) + 5} y={y - 5}>
          reserve {percent(strip.reserve)}
        </text>
      ) : (
        <text className={classes.text} x={right} y={y - 5} textAnchor="end">
          reserve {percent(strip.reserve)}
        </text>
      )}
    </>
  );
}

function Marks({ frame, strip, charPx }: PartProps & { charPx: number }) {
  // What was read after the ride ended stands in the table, not on the strip.
  const marks = strip.marks.filter((mark) => mark.kind !== 'settle');
  const labels = placeLabels(
    marks.map((mark) => ({
      x: Math.max(xOf(frame, mark.distance_m), frame.left + 22),
      text: markText(mark.kind, mark.voltage_v),
      weight: mark.kind === 'start' || mark.kind === 'end' || mark.kind === 'turn' ? 2 : 1,
    })),
    charPx,
  );
  return (
    <>
      {marks.map((mark) => {
        const x = xOf(frame, mark.distance_m);
        const y = yOf(frame, mark.energy_left ?? 0);
        const label = labels.find(
          (item) =>
            item.x === Math.max(x, frame.left + 22) &&
            item.text === markText(mark.kind, mark.voltage_v),
        );
        return (
          <g key={`${mark.time_s}-${mark.kind}`}>
            {label && label.text !== '' && (
              <>
                <line className={classes.stem} x1={x} x2={x} y1={y - 5} y2={y - 14} />
                <text
                  className={`${classes.text} ${classes.strong}`}
                  x={label.x}
                  y={y - 18}
                  textAnchor="middle"
                >
                  {label.text}
                </text>
              </>
            )}
            {mark.kind === 'event' ? (
              <rect className={classes.mark} x={x - 3.4} y={y - 3.4} width={6.8} height={6.8}>
                <title>{eventText(mark)}</title>
              </rect>
            ) : (
              <circle className={classes.mark} cx={x} cy={y} r={3.6} />
            )}
            {mark.questioned && (
              <>
                <circle className={classes.questioned} cx={x} cy={y} r={7} />
                <text className={classes.questionedText} x={x + 9} y={y + 4}>
                  ?
                </text>
              </>
            )}
          </g>
        );
      })}
    </>
  );
}

function Flags({ frame, flags, charPx }: { frame: Frame; flags: readonly Flag[]; charPx: number }) {
  const wanted = flags
    .filter((flag) => flag.text !== '' && flag.distance_m <= frame.lengthM)
    .map((flag) => {
      const half = (flag.text.length * charPx) / 2 + 4;
      const at = xOf(frame, flag.distance_m);
      // A label near an edge moves in; its line stays where it belongs.
      const x = Math.min(Math.max(at, frame.left + half), frame.width - frame.right + 18 - half);
      return { at, x, text: flag.text, weight: flag.weight };
    });
  const labels = placeLabels(wanted, charPx);
  return (
    <>
      {wanted.map((flag) => (
        <g key={`${flag.at}-${flag.text}`}>
          <line
            className={classes.flag}
            x1={flag.at}
            x2={flag.at}
            y1={frame.top - 12}
            y2={yOf(frame, 0)}
          />
          {labels.some((label) => label.x === flag.x && label.text === flag.text) && (
            <text
              className={`${classes.text} ${classes.strong}`}
              x={flag.x}
              y={frame.top - 18}
              textAnchor="middle"
            >
              {flag.text}
            </text>
          )}
        </g>
      ))}
    </>
  );
}

/** What an event was, and where. */
function eventText(mark: Strip['marks'][number]): string {
  const what = labelOf(choicesOf('event'), mark.what ?? 'other');
  return [what, mark.place].filter(Boolean).join(', ');
}

function markText(kind: string, volts: number | null | undefined): string {
  const named = kind === 'turn' || kind === 'end' || kind === 'swap' ? KIND_WORDS[kind] : '';
  const reading = volts == null ? '' : `${number(volts, 1)} V`;
  return [named, reading].filter(Boolean).join(' · ');
}

interface ScaleProps extends PartProps {
  units: Units;
  charPx: number;
}

function Scale({ frame, strip, units, charPx }: ScaleProps) {
  const perUnit = 1 / distance(1, units);
  const y = yOf(frame, 0) + 17;
  const cutoff = strip.cutoff_m?.[1];
  const cutoffText = cutoff == null ? '' : `cut-off ${number(distance(cutoff, units))}`;
  const cutoffX =
    cutoff == null
      ? Number.NaN
      : Math.min(
          xOf(frame, cutoff),
          frame.width - frame.right + 18 - (cutoffText.length * charPx) / 2,
        );
  const free = (x: number) =>
    Number.isNaN(cutoffX) || Math.abs(x - cutoffX) > (cutoffText.length * charPx) / 2 + 22;
  return (
    <>
      {ticks(distance(frame.lengthM, units))
        .filter((tick) => free(xOf(frame, tick * perUnit)))
        .map((tick) => (
          <text
            key={tick}
            className={classes.text}
            x={xOf(frame, tick * perUnit)}
            y={y}
            textAnchor={tick === 0 ? 'start' : 'middle'}
          >
            {tick === 0 ? `0 ${units.distance}` : tick}
          </text>
        ))}
      {cutoffText && (
        <text
          className={`${classes.text} ${strip.measured ? classes.strong : classes.shell}`}
          x={cutoffX}
          y={y}
          textAnchor="middle"
        >
          {cutoffText}
        </text>
      )}
      {(strip.energy_left.length > 1 || frame.lengthM > 1) && (
        <text
          className={`${classes.text} ${classes.tide}`}
          x={xOf(frame, 0) + 5}
          y={yOf(frame, 0) - 7}
        >
          energy left
        </text>
      )}
    </>
  );
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

/** How much larger than usual the reader has set the text. */
function textScale(): number {
  const size = Number.parseFloat(getComputedStyle(document.documentElement).fontSize);
  return Number.isFinite(size) && size > 0 ? size / 16 : 1;
}
