import type { Comparison, Units } from '../api/queries';
import { Chart } from '../chart/Chart';
import chart from '../chart/Chart.module.css';
import { CHAR, type Frame, withAir } from '../chart/frame';
import { say } from '../words/en/compare.ftl';
import { figureOf, figureText, unitOf } from './sides';

const ROW = 30;
const TOP = 16;
/** Room for the names of rides [px]. */
const LEFT = 190;

type Run = Comparison['runs'][number];

/** Every run a dot with its interval, as ridden and adjusted to A’s conditions. */
export function Dots({ comparison, units }: { comparison: Comparison; units: Units }) {
  const { runs } = comparison;
  const figure = (value: number) => figureOf(value, comparison, units);
  const text = (value: number) => figureText(value, comparison, units);
  const unit = unitOf(comparison, units);
  const ends = runs.flatMap(({ as_found, carried }) =>
    [as_found, carried].flatMap(({ low, high }) => [figure(low), figure(high)]),
  );
  const said = runs.map(({ title, as_found, carried }) =>
    say('as-ridden-adjusted', {
      title,
      ridden: text(as_found.value),
      adjusted: text(carried.value),
    }),
  );
  return (
    <Chart
      name={say('every-ride-as-ridden-and')}
      said={say('runs-in-unit-said', { unit, said: said.join('; ') })}
      height={TOP + runs.length * ROW + 30}
      x={{
        title: say('hollow-as-ridden-filled-adjusted', { unit }),
        domain: withAir(ends),
      }}
      left={LEFT}
      values={{
        columns: [
          say('ride-here'),
          say('side'),
          say('as-ridden-unit', { unit }),
          say('adjusted-unit', { unit }),
          'from',
          'to',
        ],
        rows: runs.map(({ title, side, as_found, carried }) => [
          title,
          side === 'first' ? 'A' : 'B',
          figure(as_found.value),
          figure(carried.value),
          figure(carried.low),
          figure(carried.high),
        ]),
      }}
      runs="down"
      stops={said.map((words, row) => ({ at: TOP + row * ROW, said: words }))}
    >
      {(frame) =>
        runs.map((run, row) => (
          <Row key={run.key} frame={frame} run={run} at={TOP + row * ROW} figure={figure} />
        ))
      }
    </Chart>
  );
}

interface RowProps {
  frame: Frame;
  run: Run;
  at: number;
  figure: (value: number) => number;
}

function Row({ frame, run: { side, title, as_found, carried }, at, figure }: RowProps) {
  const x = (value: number) => frame.x(figure(value));
  const most = Math.floor(frame.left / (CHAR * frame.em)) - 4;
  return (
    <g>
      <text x={0} y={at + 4}>
        {side === 'first' ? 'A' : 'B'} {shortened(title, most)}
      </text>
      <line
        className={chart.hair}
        x1={x(as_found.low)}
        x2={x(as_found.high)}
        y1={at - 5}
        y2={at - 5}
      />
      <circle className={chart.dot} data-hollow cx={x(as_found.value)} cy={at - 5} r={4} />
      <line
        className={chart.whisker}
        data-side={side}
        x1={x(carried.low)}
        x2={x(carried.high)}
        y1={at + 5}
        y2={at + 5}
      />
      {side === 'first' ? (
        <circle className={chart.dot} cx={x(carried.value)} cy={at + 5} r={5} />
      ) : (
        <rect
          className={chart.dot}
          data-side={side}
          x={x(carried.value) - 5}
          y={at}
          width={10}
          height={10}
        />
      )}
    </g>
  );
}

/** Long names lose their middle, for runs differ at the end; the table under the drawing has them whole. */
const shortened = (title: string, most: number) =>
  title.length > most
    ? `${title.slice(0, Math.ceil(0.6 * most) - 1)}…${title.slice(-Math.floor(0.4 * most))}`
    : title;
