import type { Schemas } from '../api/client';
import type { Units } from '../api/queries';
import { Chart } from '../chart/Chart';
import chart from '../chart/Chart.module.css';
import { linePath } from '../chart/paths';
import { distance, distanceText, percent } from '../format/units';
import { say } from '../words/en/practice.ftl';
import { type Play, type Practice, truthAt } from './play';

interface LeftChartProps {
  practice: Practice;
  play: Play;
  told: Schemas['ToldOut'][];
  units: Units;
}

const HEIGHT = 220;
const POINTS = 60;

/** What was left truly, along the way, and what was known of it at each entry. */
export function LeftChart({ practice, play, told, units }: LeftChartProps) {
  const end = truthAt(practice, play);
  const most = Math.max(end.distance_m, 1);
  const truth = Array.from({ length: POINTS + 1 }, (_, point) => {
    const at = truthAt(practice, { way: play.way, movingS: (play.movingS * point) / POINTS });
    return { at_m: at.distance_m, left: Math.max(1 - at.used_wh / practice.usable_wh, 0) };
  });
  const order = [...told].sort((a, b) => a.distance_m - b.distance_m);
  return (
    <Chart
      name={say('energy-left-over-distance')}
      said={say('energy-left-over-distance-the')}
      height={HEIGHT}
      x={{
        title: say('distance-distance', { distance: units.distance }),
        domain: [0, distance(most, units)],
      }}
      y={{ title: say('energy-left'), domain: [0, 1], text: percent, ticks: [0, 0.5, 1] }}
      values={{
        columns: [units.distance, say('known'), say('from-here'), say('to'), say('truly')],
        rows: order.map(({ distance_m, left, left_truly }) => [
          distance(distance_m, units),
          100 * left.value,
          100 * left.low,
          100 * left.high,
          100 * left_truly,
        ]),
      }}
      stops={order.map(({ distance_m, left, left_truly }) => ({
        at: distance(distance_m, units),
        said: say('you-knew-to-it-was', {
          distance_m: distanceText(distance_m, units),
          low: percent(left.low),
          high: percent(left.high),
          left_truly: percent(left_truly),
        }),
      }))}
    >
      {({ x, y }) => (
        <>
          <path
            className={chart.line}
            data-voice="ink"
            d={linePath(truth.map(({ at_m, left }) => [x(distance(at_m, units)), y(left)]))}
          />
          {order.map(({ time_s, distance_m, left }) => {
            const at = x(distance(distance_m, units));
            return (
              <g key={time_s}>
                <line
                  className={chart.whisker}
                  data-side="second"
                  data-heavy
                  x1={at}
                  x2={at}
                  y1={y(Math.min(left.high, 1))}
                  y2={y(Math.max(left.low, 0))}
                />
                <circle className={chart.dot} data-hollow cx={at} cy={y(left.value)} r={3.5} />
              </g>
            );
          })}
        </>
      )}
    </Chart>
  );
}
