import { useElementSize } from '@mantine/hooks';
import type { Comparison, Units } from '../api/queries';
import { number } from '../format/units';
import classes from './Compare.module.css';
import { figureOf, figureText, unitOf } from './sides';

/** Narrower than this nothing is drawn [px]. */
const LEAST = 260;
const ROW = 30;

/** Every run a dot with its interval, as ridden and adjusted to A’s conditions. */
export function Dots({ comparison, units }: { comparison: Comparison; units: Units }) {
  const { ref, width: measured } = useElementSize<HTMLDivElement>();
  const width = Math.max(measured, LEAST);
  const left = Math.min(270, 0.45 * width);
  const { runs } = comparison;
  const values = runs.flatMap(({ as_found, carried }) => [
    as_found.low,
    as_found.high,
    carried.low,
    carried.high,
  ]);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const x = (value: number) =>
    left + 14 + ((value - low) / Math.max(high - low, 1e-9)) * (width - left - 30);
  const bottom = runs.length * ROW + 8;
  const said = runs
    .map(
      ({ title, as_found, carried }) =>
        `${title}: ${figureText(as_found.value, comparison, units)} as ridden, ${figureText(carried.value, comparison, units)} adjusted`,
    )
    .join('; ');
  return (
    <div ref={ref}>
      <svg
        className={classes.dots}
        viewBox={`0 0 ${width} ${bottom + 20}`}
        role="img"
        aria-label={`Runs in ${unitOf(comparison, units)}. ${said}`}
      >
        {runs.map((run, row) => {
          const at = 16 + row * ROW;
          return (
            <g key={run.key} data-side={run.side}>
              <text x={0} y={at + 4}>
                {run.side === 'first' ? 'A' : 'B'} {shortened(run.title, Math.floor(left / 9) - 3)}
              </text>
              <line
                x1={x(run.as_found.low)}
                x2={x(run.as_found.high)}
                y1={at - 5}
                y2={at - 5}
                className={classes.faint}
              />
              <circle cx={x(run.as_found.value)} cy={at - 5} r={4} className={classes.hollow} />
              <line
                x1={x(run.carried.low)}
                x2={x(run.carried.high)}
                y1={at + 5}
                y2={at + 5}
                className={classes.heavy}
              />
              {run.side === 'first' ? (
                <circle cx={x(run.carried.value)} cy={at + 5} r={5} className={classes.full} />
              ) : (
                <rect
                  x={x(run.carried.value) - 5}
                  y={at}
                  width={10}
                  height={10}
                  className={classes.full}
                />
              )}
            </g>
          );
        })}
        {[low, (low + high) / 2, high].map((value, at) => (
          // The last stands before its end: a long figure would leave the drawing.
          <text
            key={value}
            x={at === 2 ? width : x(value)}
            y={bottom + 14}
            textAnchor={at === 2 ? 'end' : 'middle'}
          >
            {number(figureOf(value, comparison, units), 1)}
          </text>
        ))}
      </svg>
    </div>
  );
}

/** Long names lose their middle, for runs differ at the end; the table under the drawing has them whole. */
const shortened = (title: string, most: number) =>
  title.length > most
    ? `${title.slice(0, Math.ceil(0.6 * most) - 1)}…${title.slice(-Math.floor(0.4 * most))}`
    : title;
