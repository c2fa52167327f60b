import type { Strip, Units } from '../api/queries';
import { distance, number, percent } from '../format/units';
import { choicesOf, KIND_WORDS, labelOf } from '../format/words';
import { say } from '../words/en/tideline.ftl';
import type { Flag } from './band';
import { type Frame, placeLabels, ticksApart, xOf, yOf } from './geometry';
import type { PartProps } from './pieces';
import classes from './Tideline.module.css';

export function Reserve({ frame, strip, charPx }: PartProps & { charPx: number }) {
  // Where large text leaves no room beside the readings the share alone says it.
  const whole = say('reserve-reserve', { reserve: percent(strip.reserve) });
  const words = whole.length * charPx > frame.width / 2.5 ? percent(strip.reserve) : whole;
  const y = yOf(frame, strip.reserve);
  const right = frame.width - frame.right;
  return (
    <>
      <line className={classes.reserve} x1={xOf(frame, 0)} x2={right} y1={y} y2={y} />
      {strip.measured ? (
        // The end's own label stands at the right of a ride that reached it.
        <text className={classes.text} x={xOf(frame, 0) + 5} y={y - 5}>
          {words}
        </text>
      ) : (
        <text className={classes.text} x={right} y={y - 5} textAnchor="end">
          {words}
        </text>
      )}
    </>
  );
}

/** Where a label may stand at the left end of a strip, so that none of it is cut off. */
function leftMost(frame: Frame, text: string, charPx: number): number {
  return Math.max(frame.left + 22, (text.length * charPx) / 2);
}

export function Marks({ frame, strip, charPx }: PartProps & { charPx: number }) {
  // What was read after the ride ended stands in the table, not on the strip.
  const marks = strip.marks.filter((mark) => mark.kind !== 'settle');
  const labels = placeLabels(
    marks.map((mark) => ({
      x: Math.max(
        xOf(frame, mark.distance_m),
        leftMost(frame, markText(mark.kind, mark.voltage_v), charPx),
      ),
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
            item.x === Math.max(x, leftMost(frame, item.text, charPx)) &&
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

export function Flags({
  frame,
  flags,
  charPx,
}: {
  frame: Frame;
  flags: readonly Flag[];
  charPx: number;
}) {
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
export function eventText(mark: Strip['marks'][number]): string {
  const what = labelOf(choicesOf('event'), mark.what ?? 'other');
  return [what, mark.place].filter(Boolean).join(', ');
}

export function markText(kind: string, volts: number | null | undefined): string {
  const named = kind === 'turn' || kind === 'end' || kind === 'swap' ? KIND_WORDS[kind] : '';
  const reading = volts == null ? '' : `${number(volts, 1)} V`;
  return [named, reading].filter(Boolean).join(' · ');
}

interface ScaleProps extends PartProps {
  units: Units;
  charPx: number;
}

export function Scale({ frame, strip, units, charPx }: ScaleProps) {
  const perUnit = 1 / distance(1, units);
  const y = yOf(frame, 0) + frame.bottom * 0.7;
  const cutoff = strip.cutoff_m?.[1];
  const cutoffText =
    cutoff == null ? '' : say('cut-off-cutoff', { cutoff: number(distance(cutoff, units)) });
  const cutoffX =
    cutoff == null
      ? Number.NaN
      : Math.min(
          xOf(frame, cutoff),
          frame.width - frame.right + 18 - (cutoffText.length * charPx) / 2,
        );
  const free = (x: number) =>
    Number.isNaN(cutoffX) || Math.abs(x - cutoffX) > ((cutoffText.length + 6) * charPx) / 2;
  const width = frame.width - frame.left - frame.right;
  return (
    <>
      {ticksApart(distance(frame.lengthM, units), width, charPx)
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
          {say('energy-left')}
        </text>
      )}
    </>
  );
}
