import { useElementSize } from '@mantine/hooks';
import type { Schemas } from '../api/client';
import type { Units } from '../api/queries';
import { distanceText, percent } from '../format/units';
import classes from '../result/Result.module.css';

interface GaugeStepsProps {
  steps: Schemas['GaugeStepOut'][];
  pooled: Schemas['PooledStepOut'][];
  units: Units;
}

const HEIGHT = 190;
const LEFT = 44;
const RIGHT = 12;
const TOP = 12;
const BOTTOM = 34;

/** Left to right what it showed, upwards what was left: an honest gauge climbs along the thin line. */
export function GaugeSteps({ steps, pooled, units }: GaugeStepsProps) {
  const { ref, width: found } = useElementSize<HTMLDivElement>();
  const width = Math.max(found, 240);
  const full = Math.max(...steps.map((step) => step.shown), 1);
  const scale = full > 20 ? 100 : full;
  const x = (shown: number) => LEFT + (shown / scale) * (width - LEFT - RIGHT);
  const y = (left: number) => TOP + (1 - left) * (HEIGHT - TOP - BOTTOM);
  const order = [...steps].sort((a, b) => a.shown - b.shown);
  const line = stepLine(order.map((step) => [x(step.shown), y(step.energy_left_fraction.value)]));
  const over = [...pooled].sort((a, b) => a.shown - b.shown);
  const pooledLine = stepLine(
    over.map((step) => [x(step.shown * scale), y(step.energy_left_fraction.value)]),
  );
  const unit = full > 20 ? '%' : '';
  const described = order
    .map(
      (step) =>
        `shows ${step.shown}${unit}: ${percent(step.energy_left_fraction.value)} left, ` +
        `${percent(step.energy_left_fraction.low)} to ${percent(step.energy_left_fraction.high)}`,
    )
    .join('; ');
  const shownTicks = full > 20 ? [0, 25, 50, 75, 100] : range(full);
  return (
    <div ref={ref}>
      <svg
        className={classes.chart}
        width="100%"
        height={HEIGHT}
        viewBox={`0 0 ${width} ${HEIGHT}`}
        role="img"
        aria-label={`What the gauge showed against what was left. ${described}`}
      >
        <line className={classes.honest} x1={x(0)} y1={y(0)} x2={x(scale)} y2={y(1)} />
        {[0, 0.5, 1].map((left) => (
          <g key={left}>
            <line className={classes.hair} x1={LEFT} x2={width - RIGHT} y1={y(left)} y2={y(left)} />
            <text className={classes.axis} x={LEFT - 6} y={y(left) + 4} textAnchor="end">
              {percent(left)}
            </text>
          </g>
        ))}
        {shownTicks.map((tick) => (
          <text
            key={tick}
            className={classes.axis}
            x={x(tick)}
            y={HEIGHT - 18}
            textAnchor={tick === scale ? 'end' : 'middle'}
          >
            {tick}
            {unit}
          </text>
        ))}
        <text className={classes.axis} x={width - RIGHT} y={HEIGHT - 3} textAnchor="end">
          shown
        </text>
        <text className={classes.axis} x={LEFT} y={HEIGHT - 3}>
          energy left ↑
        </text>
        {pooledLine && <path className={classes.pooled} d={pooledLine} />}
        {order.map((step) => (
          <line
            key={step.shown}
            className={classes.whisker}
            x1={x(step.shown)}
            x2={x(step.shown)}
            y1={y(Math.max(step.energy_left_fraction.low, 0))}
            y2={y(Math.min(step.energy_left_fraction.high, 1))}
          />
        ))}
        {line && <path className={classes.steps} d={line} />}
        {order.map((step) => (
          <circle
            key={step.shown}
            className={classes.dot}
            cx={x(step.shown)}
            cy={y(Math.min(Math.max(step.energy_left_fraction.value, 0), 1))}
            r={3.4}
          >
            <title>
              {`Shows ${step.shown}${unit}: ${percent(step.energy_left_fraction.value)} left` +
                (step.lasted_m == null ? '' : `, lasted ${distanceText(step.lasted_m, units)}`)}
            </title>
          </circle>
        ))}
      </svg>
      <details>
        <summary className={classes.note}>As a table</summary>
        <ul className={classes.warnings}>
          {[...order].reverse().map((step) => (
            <li key={step.shown}>
              Shows {step.shown}
              {unit}: {percent(step.energy_left_fraction.value)} left (
              {percent(step.energy_left_fraction.low)} to {percent(step.energy_left_fraction.high)})
              {step.lasted_m == null ? '' : `, lasted ${distanceText(step.lasted_m, units)}`}
            </li>
          ))}
        </ul>
      </details>
    </div>
  );
}

/** Flat to the next step, then up: a gauge says one thing until it says the next. */
function stepLine(points: number[][]): string | null {
  if (points.length < 2) return null;
  return points
    .map(([x = 0, y = 0], index) =>
      index === 0 ? `M${x.toFixed(1)} ${y.toFixed(1)}` : `H${x.toFixed(1)}V${y.toFixed(1)}`,
    )
    .join('');
}

function range(last: number): number[] {
  const step = last > 10 ? Math.ceil(last / 10) : 1;
  return Array.from({ length: Math.floor(last / step) + 1 }, (_, index) => index * step);
}
