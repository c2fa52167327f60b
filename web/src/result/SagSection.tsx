import { useElementSize } from '@mantine/hooks';
import type { Schemas } from '../api/client';
import type { Result, Units } from '../api/queries';
import { distanceText, number, percent, speed, speedText, speedUnit } from '../format/units';
import classes from './Result.module.css';
import type { Opens } from './useWorking';

interface SagSectionProps {
  sag: Schemas['SagOut'] | null | undefined;
  result: Result;
  units: Units;
  opens: Opens;
}

/** Volts at rest and pulling over what is left, the speed held, the resistance and where it faded. */
export function SagSection({ sag, result, units, opens }: SagSectionProps) {
  const ohm = result.pack.resistance_ohm;
  const fade = result.fade;
  if (sag == null && ohm == null && fade == null) return null;
  return (
    <section className={classes.section} aria-label="Sag and fade">
      <h2>Sag and fade</h2>
      {sag != null && sag.energy_left.length > 1 && (
        <div className={classes.pair}>
          <LeftChart
            left={sag.energy_left}
            lines={[
              { name: 'at rest', values: sag.rest_v, className: classes.restLine ?? '' },
              { name: 'pulling', values: sag.loaded_v, className: classes.loadLine ?? '' },
            ]}
            unit="V"
            what="Pack volts"
          />
          {sag.speed_mps.some((value) => value !== null) && (
            <LeftChart
              left={sag.energy_left}
              lines={[
                {
                  name: 'speed held',
                  values: sag.speed_mps.map((v) => (v === null ? null : speed(v, units))),
                  className: classes.speedLine ?? '',
                },
              ]}
              unit={speedUnit(units)}
              what="Speed held"
            />
          )}
        </div>
      )}
      {ohm && (
        <p>
          {opens('resistance_ohm', 'Resistance')} <b>{number(ohm.value * 1000, 0)} mΩ</b>,{' '}
          {number(ohm.low * 1000, 0)} to {number(ohm.high * 1000, 0)}.
        </p>
      )}
      {fade && (
        <p>
          The speed you could hold began to fall at{' '}
          <b>{distanceText(fade.onset_distance_m, units)}</b>
          {fade.onset_voltage_v != null && `, at ${number(fade.onset_voltage_v, 1)} V under load`}
          {fade.onset_gauge != null && `, gauge at ${fade.onset_gauge}`}; before that it was{' '}
          {speedText(fade.reference_speed_mps, units)}.
        </p>
      )}
    </section>
  );
}

interface LeftChartProps {
  left: number[];
  lines: Array<{ name: string; values: Array<number | null>; className: string }>;
  unit: string;
  what: string;
}

const HEIGHT = 150;
const EDGE = { left: 40, right: 60, top: 10, bottom: 30 };

/** Lines over what is left, from full on the left to empty on the right, as on the tideline. */
function LeftChart({ left, lines, unit, what }: LeftChartProps) {
  const { ref, width: found } = useElementSize<HTMLDivElement>();
  const width = Math.max(found, 200);
  const known = lines.flatMap((line) => line.values.filter((value) => value !== null));
  if (known.length < 2) return null;
  const low = Math.min(...known);
  const high = Math.max(...known);
  const span = high - low || 1;
  const x = (share: number) => EDGE.left + (1 - share) * (width - EDGE.left - EDGE.right);
  const y = (value: number) =>
    EDGE.top + (1 - (value - low) / span) * (HEIGHT - EDGE.top - EDGE.bottom);
  const drawn = lines.filter((line) => line.values.some((value) => value !== null));
  return (
    <div ref={ref}>
      <svg
        width="100%"
        height={HEIGHT}
        viewBox={`0 0 ${width} ${HEIGHT}`}
        role="img"
        aria-label={`${what} over what is left, ${number(low, 1)} to ${number(high, 1)} ${unit}: ${drawn
          .map((line) => line.name)
          .join(', ')}`}
      >
        {[low, high].map((value) => (
          <g key={value}>
            <line
              className={classes.hair}
              x1={EDGE.left}
              x2={width - EDGE.right}
              y1={y(value)}
              y2={y(value)}
            />
            <text className={classes.axis} x={EDGE.left - 6} y={y(value) + 4} textAnchor="end">
              {number(value, value < 100 ? 1 : 0)}
            </text>
          </g>
        ))}
        {[1, 0.5, 0].map((share) => (
          <text
            key={share}
            className={classes.axis}
            x={x(share)}
            y={HEIGHT - 14}
            textAnchor={share === 1 ? 'start' : 'middle'}
          >
            {share === 1 ? `${what}, ${unit}; full` : share === 0 ? 'empty' : percent(share)}
          </text>
        ))}
        {placed(
          drawn.map((line) => ({ ...line, end: lastOf(line.values, left) })),
          (point) => y(point.value),
        ).map((line) => (
          <g key={line.name}>
            <path className={line.className} d={pathOf(left, line.values, x, y)} />
            {drawn.length > 1 && (
              <text className={classes.axis} x={width - EDGE.right + 6} y={line.labelY + 4}>
                {line.name}
              </text>
            )}
          </g>
        ))}
      </svg>
    </div>
  );
}

interface Ended {
  end: { share: number; value: number };
}

/** Labels at the lines' emptiest ends, moved apart where they would run into each other. */
function placed<T extends Ended>(lines: T[], y: (end: Ended['end']) => number) {
  const found = lines
    .map((line) => ({ ...line, labelY: y(line.end) }))
    .sort((a, b) => a.labelY - b.labelY);
  for (let index = 1; index < found.length; index += 1) {
    const above = found[index - 1];
    const here = found[index];
    if (above && here && here.labelY - above.labelY < 14) here.labelY = above.labelY + 14;
  }
  return found;
}

function lastOf(values: Array<number | null>, left: number[]): Ended['end'] {
  const at = values.findIndex((value) => value !== null);
  return { share: left[at] ?? 0, value: values[at] ?? 0 };
}

function pathOf(
  left: number[],
  values: Array<number | null>,
  x: (share: number) => number,
  y: (value: number) => number,
): string {
  const points = values
    .map((value, index) => ({ value, share: left[index] ?? 0 }))
    .filter((point): point is { value: number; share: number } => point.value !== null);
  return points
    .map(
      (point, index) =>
        `${index === 0 ? 'M' : 'L'}${x(point.share).toFixed(1)} ${y(point.value).toFixed(1)}`,
    )
    .join('');
}
