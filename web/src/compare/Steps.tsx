import { useElementSize } from '@mantine/hooks';
import core from '../api/core.json';
import type { Comparison, Units } from '../api/queries';
import classes from './Compare.module.css';
import { changeText, shows, stepsOf } from './sides';

/** Narrower than this nothing is drawn [px]. */
const LEAST = 260;
const RIGHT = 110;
const ROW = 30;

const WORDS: Record<string, string> = { ...core.factors, rest: 'several conditions together' };

/** On a phone's screen the longest of them are told shorter [px]. */
const NARROW = 480;
const SHORT: Record<string, string> = {
  'at equal conditions': 'alike',
  rest: 'not explained',
};

/** From the difference as ridden, condition by condition, to the one at equal conditions. */
export function Steps({ comparison, units }: { comparison: Comparison; units: Units }) {
  const { ref, width: measured } = useElementSize<HTMLDivElement>();
  const width = Math.max(measured, LEAST);
  const left = Math.min(230, 0.42 * width);
  const { as_found, difference } = comparison;
  if (!as_found || !difference) return null;
  const rows = [
    { name: 'as ridden', from: 0, to: as_found.value, whole: true },
    ...stepsOf(comparison)
      .filter(({ from, to }) => shows(to - from, comparison, units))
      .map((step) => ({ ...step, whole: false })),
    { name: 'at equal conditions', from: 0, to: difference.value, whole: true },
  ];
  const ends = rows.flatMap(({ from, to }) => [from, to, 0]);
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const x = (value: number) =>
    left + ((value - low) / Math.max(high - low, 1e-9)) * (width - left - RIGHT);
  return (
    <div ref={ref}>
      <svg
        className={classes.steps}
        viewBox={`0 0 ${width} ${rows.length * ROW + 6}`}
        role="img"
        aria-label={rows
          .map(
            ({ name, from, to }) =>
              `${WORDS[name] ?? name}: ${changeText(to - from, comparison, units)}`,
          )
          .join('; ')}
      >
        <line x1={x(0)} x2={x(0)} y1={0} y2={rows.length * ROW} className={classes.hair} />
        {rows.map(({ name, from, to, whole }, row) => {
          const at = row * ROW + 6;
          return (
            <g key={name}>
              <text x={0} y={at + 13} fontWeight={whole ? 650 : 400}>
                {(width < NARROW ? SHORT[name] : undefined) ?? WORDS[name] ?? name}
              </text>
              <rect
                x={Math.min(x(from), x(to))}
                width={Math.max(Math.abs(x(to) - x(from)), 1.5)}
                y={at}
                height={18}
                className={whole ? classes.whole : classes.step}
              />
              <text x={width} y={at + 13} textAnchor="end">
                {changeText(to - from, comparison, units)}
              </text>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
