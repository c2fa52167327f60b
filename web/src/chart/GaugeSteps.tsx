import type { Schemas } from '../api/client';
import type { Units } from '../api/queries';
import { distance, distanceText, percent } from '../format/units';
import { say } from '../words/en/chart.ftl';
import { Chart } from './Chart';
import classes from './Chart.module.css';

type Step = Schemas['GaugeStepOut'];

interface GaugeStepsProps {
  steps: Step[];
  pooled: Schemas['PooledStepOut'][];
  units: Units;
}

const HEIGHT = 200;
/** A gauge that shows more than so much counts in percent; fewer are bars. */
const MOST_BARS = 20;

/** Left to right what it showed, upwards what was left: an honest gauge climbs along the thin line. */
export function GaugeSteps({ steps, pooled, units }: GaugeStepsProps) {
  const full = Math.max(...steps.map((step) => step.shown), 1);
  const inPercent = full > MOST_BARS;
  const scale = inPercent ? 100 : full;
  const unit = inPercent ? '%' : '';
  const order = [...steps].sort((a, b) => a.shown - b.shown);
  const over = [...pooled].sort((a, b) => a.shown - b.shown);
  const said = order.map((step) => stepSaid(step, unit, units));
  return (
    <Chart
      name={say('what-the-gauge-showed-against')}
      said={say('what-the-gauge-showed-against-what-was', { said: said.join('; ') })}
      height={HEIGHT}
      x={{
        title: inPercent ? say('gauge-shows') : say('gauge-shows-bars'),
        domain: [0, scale],
        text: (value) => `${value}${unit}`,
        ticks: inPercent ? [0, 25, 50, 75, 100] : bars(full),
      }}
      y={{ title: say('energy-left'), domain: [0, 1], text: percent, ticks: [0, 0.5, 1] }}
      values={{
        columns: [
          say('shown'),
          say('left'),
          say('from-here'),
          say('to'),
          say('lasted-distance', { distance: units.distance }),
        ],
        rows: order.map(({ shown, energy_left_fraction: left, lasted_m }) => [
          shown,
          100 * left.value,
          100 * left.low,
          100 * left.high,
          lasted_m == null ? null : distance(lasted_m, units),
        ]),
      }}
      stops={order.map((step, at) => ({ at: step.shown, said: said[at] ?? '' }))}
    >
      {({ x, y }) => (
        <>
          <line className={classes.level} x1={x(0)} y1={y(0)} x2={x(scale)} y2={y(1)} />
          <path
            className={classes.line}
            data-voice="kelp"
            data-dashed
            d={stepPath(
              over.map((one) => [x(one.shown * scale), y(one.energy_left_fraction.value)]),
            )}
          />
          {order.map(({ shown, energy_left_fraction: left }) => (
            <line
              key={shown}
              className={classes.whisker}
              x1={x(shown)}
              x2={x(shown)}
              y1={y(Math.max(left.low, 0))}
              y2={y(Math.min(left.high, 1))}
            />
          ))}
          <path
            className={classes.line}
            d={stepPath(order.map((one) => [x(one.shown), y(one.energy_left_fraction.value)]))}
          />
          {order.map(({ shown, energy_left_fraction: left }) => (
            <circle
              key={shown}
              className={classes.dot}
              cx={x(shown)}
              cy={y(Math.min(Math.max(left.value, 0), 1))}
              r={3.4}
            />
          ))}
        </>
      )}
    </Chart>
  );
}

function stepSaid(
  { shown, energy_left_fraction: left, lasted_m }: Step,
  unit: string,
  units: Units,
) {
  const lasted =
    lasted_m == null ? '' : say('lasted-lasted-m', { lasted_m: distanceText(lasted_m, units) });
  return say('shows-left-to', {
    shown,
    unit,
    left: percent(left.value),
    low: percent(left.low),
    high: percent(left.high),
    lasted,
  });
}

/** Flat to the next step, then up: a gauge says one thing until it says the next. */
function stepPath(points: number[][]): string {
  if (points.length < 2) return '';
  return points
    .map(([x = 0, y = 0], index) =>
      index === 0 ? `M${x.toFixed(1)} ${y.toFixed(1)}` : `H${x.toFixed(1)}V${y.toFixed(1)}`,
    )
    .join('');
}

function bars(last: number): number[] {
  const step = last > 10 ? Math.ceil(last / 10) : 1;
  return Array.from({ length: Math.floor(last / step) + 1 }, (_, index) => index * step);
}
