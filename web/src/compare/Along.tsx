import type { Comparison, Units } from '../api/queries';
import { Chart } from '../chart/Chart';
import chart from '../chart/Chart.module.css';
import type { Frame } from '../chart/frame';
import { areaPath, linePath } from '../chart/paths';
import { distance, distanceText, height, heightUnit, number } from '../format/units';
import { Fold } from '../ui/Fold';
import { say } from '../words/en/compare.ftl';
import classes from './Compare.module.css';

const HEIGHT = 220;

type Arising = NonNullable<Comparison['along']>;

const moreText = (wh: number) =>
  `${wh > 0.5 ? '+' : wh < -0.5 ? '−' : ''}${number(Math.abs(wh), 0)}`;

/** How much more B had used along the route, over the hills of it. */
export function Along({ along, units }: { along: Arising; units: Units }) {
  const { at_m, more_wh, height_m } = along;
  const far = distance(Math.max(at_m.at(-1) ?? 0, 1), units);
  const last = more_wh.at(-1) ?? 0;
  const tall = heightsSaid(height_m, units);
  const most = Math.max(...more_wh, 0);
  const least = Math.min(...more_wh, 0, most - 1);
  return (
    <Fold title={say('where-the-difference-arises')}>
      <p>
        {say('b-had-used-wh-by', {
          wh: number(Math.abs(last), 0),
          more_or_less: last < 0 ? say('less') : say('more'),
          by:
            along.by === 'track' ? say('matched-by-place-on-both') : say('matched-metre-by-metre'),
          tall: tall && say('behind-it-the-height-of', { tall }),
        })}
      </p>
      <Chart
        name={say('b-over-a-along-the')}
        said={say('b-over-a-along-the-route', { quarters: quarters(along, units) })}
        height={HEIGHT}
        x={{ title: say('distance-distance', { distance: units.distance }), domain: [0, far] }}
        y={{ title: say('b-over-a-so-far'), domain: [least, most], text: moreText }}
        values={{
          columns: [
            units.distance,
            say('b-over-a-wh'),
            say('height-height-unit', { height_unit: heightUnit(units) }),
          ],
          rows: at_m.map((metres, k) => {
            const up = height_m?.[k];
            return [
              distance(metres, units),
              more_wh[k] ?? null,
              up == null ? null : height(up, units),
            ];
          }),
        }}
        stops={at_m.map((metres, k) => ({
          at: distance(metres, units),
          said: say('b-over-a-at-metres', {
            metres: distanceText(metres, units),
            more_text: moreText(more_wh[k] ?? 0),
          }),
        }))}
      >
        {(frame) => {
          const x = at_m.map((metres) => frame.x(distance(metres, units)));
          return (
            <>
              <path className={chart.hills} d={hillsPath(frame, x, height_m)} />
              <path
                data-side="second"
                className={classes.tide}
                d={linePath(x.map((at, k) => [at, frame.y(more_wh[k] ?? 0)]))}
              />
            </>
          );
        }}
      </Chart>
    </Fold>
  );
}

/** The hills as an area in the lower half of the drawing; nothing where no heights are known. */
function hillsPath(frame: Frame, x: number[], height_m: Arising['height_m']): string {
  const span = spanOf(height_m);
  if (span === null) return '';
  const floor = frame.height - frame.bottom;
  const tall = 0.5 * (floor - frame.top);
  return areaPath(
    x.map((at, k) => {
      const up = height_m?.[k];
      const share = up == null ? null : (up - span.low) / Math.max(span.high - span.low, 1);
      return share === null ? null : [at, floor - 6 - share * tall, floor];
    }),
  );
}

function spanOf(height_m: Arising['height_m']) {
  const known = (height_m ?? []).filter((metres): metres is number => metres !== null);
  return known.length < 2 ? null : { low: Math.min(...known), high: Math.max(...known) };
}

function heightsSaid(height_m: Arising['height_m'], units: Units): string | null {
  const span = spanOf(height_m);
  if (span === null) return null;
  return say('low-to-high-height-unit', {
    low: number(height(span.low, units), 0),
    high: number(height(span.high, units), 0),
    height_unit: heightUnit(units),
  });
}

/** The drawing in words: what had come together by each quarter. */
function quarters({ at_m, more_wh }: Arising, units: Units): string {
  return [0.25, 0.5, 0.75, 1]
    .map((share) => {
      const k = Math.round(share * (at_m.length - 1));
      return say('more-wh-wh-after-at', {
        more_wh: number(more_wh[k] ?? 0, 0),
        at_m: number(distance(at_m[k] ?? 0, units), 1),
        distance: units.distance,
      });
    })
    .join('; ');
}
