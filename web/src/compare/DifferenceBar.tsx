import type { Comparison } from '../api/queries';
import { Chart } from '../chart/Chart';
import { say } from '../words/en/compare.ftl';
import classes from './Compare.module.css';
import { shareText, signed } from './sides';

const HEIGHT = 84;
const ROW = 22;
const EDGE = 24;
/** The axis shows at least so much either side of nothing [-]. */
const SHOWN = 0.1;

/** B's difference from A with its interval, on a scale on which no difference is marked. */
export function DifferenceBar({ comparison }: { comparison: Comparison }) {
  const share = comparison.relative_difference;
  if (!share) return null;
  const most = 1.1 * Math.max(Math.abs(share.low), Math.abs(share.high), SHOWN);
  const ends: Array<[string, number]> = [
    [say('lowest'), share.low],
    [say('best-estimate'), share.value],
    [say('highest'), share.high],
  ];
  return (
    <Chart
      name={say('difference-of-b-from-a')}
      said={say('difference-of-b-from-a-said', { share_text: shareText(comparison) })}
      height={HEIGHT}
      x={{
        title: say('b-compared-with-a'),
        domain: [-most, most],
        text: (value) => (value === 0 ? say('no-difference') : signed(value)),
        ticks: [share.low, 0, share.high].filter(
          // Beside the middle's words there is no room for a number.
          (value) => value === 0 || Math.abs(value) > 0.3 * most,
        ),
      }}
      left={EDGE}
      right={EDGE}
      values={{
        columns: [say('difference-of-b-from-a-axis'), '%'],
        rows: ends.map(([words, value]) => [words, 100 * value]),
      }}
      stops={ends.map(([words, value]) => ({
        at: value,
        said: `${words} ${signed(value)}`,
      }))}
    >
      {({ x, width, height, bottom }) => (
        <>
          <line className={classes.hair} x1={EDGE} x2={width - EDGE} y1={ROW} y2={ROW} />
          <line className={classes.faint} x1={x(0)} x2={x(0)} y1={4} y2={height - bottom} />
          <line
            className={classes.interval}
            x1={x(share.low)}
            x2={x(share.high)}
            y1={ROW}
            y2={ROW}
          />
          <circle className={classes.whole} cx={x(share.value)} cy={ROW} r={6} />
        </>
      )}
    </Chart>
  );
}
