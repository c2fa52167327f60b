import type { Strip, Units } from '../api/queries';
import { Chart } from '../chart/Chart';
import chart from '../chart/Chart.module.css';
import type { Frame } from '../chart/frame';
import { areaPath, linePath } from '../chart/paths';
import { distance, distanceText, percent } from '../format/units';
import { say } from '../words/en/compare.ftl';
import classes from './Compare.module.css';
import { gapOf, leftAt } from './gap';

export interface Laid {
  id: string;
  title: string;
  side: 'first' | 'second';
  strip: Strip;
}

const HEIGHT = 250;
/** Room for the letter of a side beside the end of its tide [px]. */
const RIGHT = 34;
/** Labels of the two ends stand at least so far apart [px]. */
const APART = 20;
/** Places at which the cursor stops. */
const STOPS = 40;

const endOf = ({ distance_m }: Strip) => distance_m.at(-1) ?? 0;

/** Tides laid over each other on one scale, the gap between the two sides shaded. */
export function Overlay({ laid, units }: { laid: Laid[]; units: Units }) {
  const far = Math.max(...laid.map(({ strip }) => endOf(strip)), 1);
  const strips = (side: Laid['side']) =>
    laid.filter((one) => one.side === side).map(({ strip }) => strip);
  const gap = gapOf(strips('first'), strips('second'));
  const said = laid.map(({ title, strip }) =>
    say('title-at-left-after-end', {
      title,
      at: percent(strip.energy_left.at(-1) ?? 0),
      end_of: distanceText(endOf(strip), units),
    }),
  );
  const places = Array.from({ length: STOPS + 1 }, (_, k) => (far * k) / STOPS);
  const at = (strip: Strip, metres: number) =>
    metres > endOf(strip) ? null : leftAt(strip, metres);
  return (
    <Chart
      name={say('energy-left-over-distance-side')}
      said={say('tides-over-each-other', { said: said.join('; ') })}
      height={HEIGHT}
      x={{
        title: say('distance-distance', { distance: units.distance }),
        domain: [0, distance(far, units)],
      }}
      y={{ title: say('energy-left'), domain: [0, 1], text: percent, ticks: [0, 0.5, 1] }}
      right={RIGHT}
      values={{
        columns: [units.distance, ...laid.map(({ title }, k) => `${k + 1}. ${title}, %`)],
        rows: places.map((metres) => [
          distance(metres, units),
          ...laid.map(({ strip }) => {
            const left = at(strip, metres);
            return left === null ? null : 100 * left;
          }),
        ]),
      }}
      stops={places.map((metres) => ({
        at: distance(metres, units),
        said: `${distanceText(metres, units)}: ${laid
          .flatMap(({ title, strip }) => {
            const left = at(strip, metres);
            return left === null ? [] : [`${title} ${percent(left)}`];
          })
          .join(', ')}`,
      }))}
    >
      {(frame) => {
        const x = (metres: number) => frame.x(distance(metres, units));
        return (
          <>
            {gap && (
              <path
                className={classes.gap}
                d={areaPath(
                  gap.distance_m.map((metres, k) => [
                    x(metres),
                    frame.y(gap.first[k] ?? 0),
                    frame.y(gap.second[k] ?? 0),
                  ]),
                )}
              />
            )}
            {laid.map(({ id, side, strip }) => (
              <path
                key={id}
                className={classes.tide}
                data-side={side}
                d={linePath(
                  strip.distance_m.map((metres, k) => [
                    x(metres),
                    frame.y(strip.energy_left[k] ?? 0),
                  ]),
                )}
              />
            ))}
            {lettersOf(frame, x, strips).map((end) => (
              <text key={end.side} x={end.x + 8} y={end.y + 5} className={chart.strong}>
                {end.side === 'first' ? 'A' : 'B'}
              </text>
            ))}
          </>
        );
      }}
    </Chart>
  );
}

/** Where the letters of the two sides stand: at the ends of their tides, never one on the other. */
function lettersOf(
  { y, height, bottom, em }: Frame,
  x: (metres: number) => number,
  strips: (side: Laid['side']) => Strip[],
) {
  const ends = (['first', 'second'] as const).flatMap((side) => {
    const last = strips(side).at(-1);
    return last ? [{ side, x: x(endOf(last)), y: y(last.energy_left.at(-1) ?? 0) }] : [];
  });
  const gap = APART * em;
  const [one, other] = ends;
  if (one && other && Math.abs(one.x - other.x) < gap && Math.abs(one.y - other.y) < gap) {
    const [upper, lower] = one.y <= other.y ? [one, other] : [other, one];
    upper.y = Math.min(upper.y, height - bottom - gap);
    lower.y = upper.y + gap;
  }
  return ends;
}
