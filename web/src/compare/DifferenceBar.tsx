import { useElementSize } from '@mantine/hooks';
import type { Comparison } from '../api/queries';
import classes from './Compare.module.css';
import { shareText, signed } from './sides';

/** Narrower than this nothing is drawn [px]. */
const LEAST = 260;
const HEIGHT = 62;
const AXIS = 24;
const EDGE = 8;
/** The axis shows at least so much either side of nothing [-]. */
const SHOWN = 0.1;

/** B's difference from A with its interval, on a scale on which no difference is marked. */
export function DifferenceBar({ comparison }: { comparison: Comparison }) {
  const { ref, width: measured } = useElementSize<HTMLDivElement>();
  const share = comparison.relative_difference;
  if (!share) return null;
  const width = Math.max(measured, LEAST);
  const most = 1.1 * Math.max(Math.abs(share.low), Math.abs(share.high), SHOWN);
  const x = (value: number) => EDGE + ((value + most) / (2 * most)) * (width - 2 * EDGE);
  return (
    <div ref={ref}>
      <svg
        className={classes.overlay}
        viewBox={`0 0 ${width} ${HEIGHT}`}
        role="img"
        aria-label={`Difference of B from A: ${shareText(comparison)}`}
      >
        <line x1={EDGE} x2={width - EDGE} y1={AXIS} y2={AXIS} className={classes.hair} />
        <line x1={x(0)} x2={x(0)} y1={6} y2={AXIS + 14} className={classes.faint} />
        <text x={x(0)} y={AXIS + 30} textAnchor="middle">
          no difference
        </text>
        <line
          x1={x(share.low)}
          x2={x(share.high)}
          y1={AXIS}
          y2={AXIS}
          className={classes.interval}
        />
        <circle cx={x(share.value)} cy={AXIS} r={6} className={classes.whole} />
        {[share.low, share.high].map((end, at) => {
          // Beside the middle's words there is no room for a number.
          if (Math.abs(x(end) - x(0)) < 80) return null;
          return (
            <text key={end} x={x(end)} y={AXIS + 30} textAnchor={at === 0 ? 'start' : 'end'}>
              {signed(end)}
            </text>
          );
        })}
      </svg>
    </div>
  );
}
