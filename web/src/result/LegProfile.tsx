import type { Result, Traces, Units } from '../api/queries';
import { Chart } from '../chart/Chart';
import chart from '../chart/Chart.module.css';
import { areaPath } from '../chart/paths';
import {
  consumptionText,
  distance,
  distanceText,
  height,
  heightUnit,
  number,
} from '../format/units';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';

type Leg = Result['legs'][number];

interface LegProfileProps {
  legs: readonly Leg[];
  /** Traces of the whole ride; their heights are the hills behind. */
  traces: Traces | null;
  units: Units;
}

const HEIGHT = 210;

/** What each leg took, as wide as it was long, over the hills that it was ridden on. */
export function LegProfile({ legs, traces, units }: LegProfileProps) {
  const placed = legs.flatMap((leg) =>
    leg.from_m == null || leg.to_m == null ? [] : [{ leg, from: leg.from_m, to: leg.to_m }],
  );
  if (placed.length < 2) return null;
  const far = Math.max(...placed.map(({ to }) => to));
  const per = (leg: Leg) => leg.wh_per_km.value / distance(1000, units);
  const most = Math.max(...placed.map(({ leg }) => per(leg)), 1);
  const least = Math.min(...placed.map(({ leg }) => per(leg)), 0);
  const hills = hillsOf(traces);
  const tall = hills && hills.high - hills.low >= 1;
  const said = placed.map(({ leg, from, to }) =>
    say('from-to-to-wh-per', {
      from: distanceText(from, units),
      to: distanceText(to, units),
      wh_per_km: consumptionText(leg.wh_per_km.value, units),
    }),
  );
  return (
    <>
      <Chart
        name={say('consumption-by-leg')}
        said={say('consumption-by-leg-said', {
          tall: tall ? say('over-the-hills-of-the') : '',
          said: said.join('; '),
        })}
        height={HEIGHT}
        x={{
          title: say('distance-distance', { distance: units.distance }),
          domain: [0, distance(far, units)],
        }}
        y={{ title: `Wh/${units.distance}`, domain: [least, most * 1.04] }}
        values={{
          columns: [
            say('from-distance', { distance: units.distance }),
            say('to-distance', { distance: units.distance }),
            'Wh',
            `Wh/${units.distance}`,
          ],
          rows: placed.map(({ leg, from, to }) => [
            distance(from, units),
            distance(to, units),
            leg.energy.value,
            per(leg),
          ]),
        }}
        stops={placed.map(({ from, to }, k) => ({
          at: distance((from + to) / 2, units),
          said: said[k] ?? '',
        }))}
      >
        {({ x, y, top, height: all, bottom }) => {
          const floor = all - bottom;
          const at = (metres: number) => x(distance(metres, units));
          const up = (share: number) => floor - 4 - share * 0.55 * (floor - top);
          return (
            <>
              {tall && (
                <path
                  className={chart.hills}
                  d={areaPath(
                    hills.places.map(([metres, share]) =>
                      metres > far ? null : [at(metres), up(share), floor],
                    ),
                  )}
                />
              )}
              {placed.map(({ leg, from, to }) => {
                const level = y(Math.max(per(leg), 0));
                return (
                  <rect
                    key={from}
                    className={classes.leg}
                    x={at(from) + 0.5}
                    width={Math.max(at(to) - at(from) - 1, 1)}
                    y={Math.min(level, y(0))}
                    height={Math.abs(y(Math.min(per(leg), 0)) - level)}
                  />
                );
              })}
            </>
          );
        }}
      </Chart>
      {tall && (
        <p className={classes.note}>
          {say('behind-the-legs-the-height', {
            low: number(height(hills.low, units), 0),
            high: number(height(hills.high, units), 0),
            height_unit: heightUnit(units),
          })}
        </p>
      )}
    </>
  );
}

/** Heights along the ride as shares of their span; null where none were logged. */
export function hillsOf(traces: Pick<Traces, 'distance_m' | 'channels'> | null) {
  const along = traces?.distance_m;
  const found = traces?.channels.find(({ name }) => name === 'height')?.mean;
  if (!along || !found) return null;
  const known = found.filter((metres): metres is number => metres !== null);
  if (known.length < 2) return null;
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const places = found.flatMap((metres, k) =>
    metres === null
      ? []
      : [[along[k] ?? 0, (metres - low) / Math.max(high - low, 1)] as [number, number]],
  );
  return { low, high, places };
}
