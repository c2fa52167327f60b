import type { Units } from '../api/queries';
import { Chart } from '../chart/Chart';
import chart from '../chart/Chart.module.css';
import { withAir } from '../chart/frame';
import { areaPath, linePath } from '../chart/paths';
import {
  consumptionText,
  distance,
  massText,
  number,
  speed,
  speedUnit,
  temperatureText,
} from '../format/units';
import { say } from '../words/en/kit.ftl';
import type { VehicleLife as Life } from './lives';

type Told = Life['life'];
type Band = Told['bands'][number];

const HEIGHT = 240;
/** An open end of a band of speeds is drawn so far from the other [m/s]. */
const OPEN_MPS = 2;

const edgesOf = ({ from_mps, to_mps }: Band) => {
  const from = from_mps ?? Math.max((to_mps ?? OPEN_MPS) - OPEN_MPS, 0);
  return { from, to: to_mps ?? from + OPEN_MPS };
};

/** Consumption against speed: what its rides took, and its own curve through them. */
export function SpeedCurve({ life, units }: { life: Told; units: Units }) {
  const { bands, curve } = life;
  if (bands.length === 0 || (bands.length < 2 && curve == null)) return null;
  const per = (whPerKm: number) => whPerKm / distance(1000, units);
  const points = bands.map((band) => ({ band, ...edgesOf(band) }));
  const lowest = Math.min(...points.map(({ from }) => from));
  const highest = Math.max(...points.map(({ to }) => to));
  // As far as it was ridden, and a little on: further the curve is a guess.
  const drawn = (curve?.speed_mps ?? []).flatMap((mps, k) =>
    mps >= lowest - 1 && mps <= highest + 1
      ? [
          {
            mps,
            value: per(curve?.wh_per_km[k] ?? 0),
            low: per(curve?.low[k] ?? 0),
            high: per(curve?.high[k] ?? 0),
          },
        ]
      : [],
  );
  const ends = [
    ...points.flatMap(({ band }) => [per(band.wh_per_km.low), per(band.wh_per_km.high)]),
    ...drawn.map(({ value }) => value),
  ];
  const domain = withAir(ends);
  const [least, most] = domain;
  const within = (value: number) => Math.min(Math.max(value, least), most);
  const unit = speedUnit(units);
  const said = points.map(({ band, from, to }) =>
    say('from-to-to-unit-wh', {
      from: number(speed(from, units), 0),
      to: number(speed(to, units), 0),
      unit,
      wh_per_km: consumptionText(band.wh_per_km.value, units),
    }),
  );
  return (
    <>
      <Chart
        name={say('consumption-by-speed')}
        said={say('consumption-by-speed-held', { said: said.join('; ') })}
        height={HEIGHT}
        x={{
          title: say('speed-held-unit', { unit }),
          domain: [speed(Math.max(lowest - 1, 0), units), speed(highest + 1, units)],
        }}
        y={{ title: `Wh/${units.distance}`, domain: [Math.max(least, 0), most] }}
        values={{
          columns: [
            say('from-unit', { unit }),
            say('to-unit', { unit }),
            `Wh/${units.distance}`,
            say('low'),
            say('high'),
          ],
          rows: points.map(({ band, from, to }) => [
            speed(from, units),
            speed(to, units),
            per(band.wh_per_km.value),
            per(band.wh_per_km.low),
            per(band.wh_per_km.high),
          ]),
        }}
        stops={points.map(({ from, to }, k) => ({
          at: speed((from + to) / 2, units),
          said: said[k] ?? '',
        }))}
      >
        {({ x, y }) => (
          <>
            <path
              className={chart.band}
              d={areaPath(
                drawn.map(({ mps, low, high }) => [
                  x(speed(mps, units)),
                  y(within(low)),
                  y(within(high)),
                ]),
              )}
            />
            <path
              className={chart.line}
              d={linePath(drawn.map(({ mps, value }) => [x(speed(mps, units)), y(within(value))]))}
            />
            {points.map(({ band, from, to }) => {
              const [left, right] = [x(speed(from, units)), x(speed(to, units))];
              const middle = (left + right) / 2;
              const level = y(per(band.wh_per_km.value));
              return (
                <g key={from}>
                  <line
                    className={chart.whisker}
                    data-side="second"
                    x1={left}
                    x2={right}
                    y1={level}
                    y2={level}
                  />
                  <line
                    className={chart.whisker}
                    data-side="second"
                    x1={middle}
                    x2={middle}
                    y1={y(per(band.wh_per_km.low))}
                    y2={y(per(band.wh_per_km.high))}
                  />
                  <circle className={chart.dot} data-side="second" cx={middle} cy={level} r={4} />
                </g>
              );
            })}
          </>
        )}
      </Chart>
      {curve && (
        <p>
          {say('the-line-is-this-vehicles', {
            temp_c: temperatureText(curve.temp_c, units),
            mass_kg: massText(curve.mass_kg, units),
          })}
        </p>
      )}
    </>
  );
}
