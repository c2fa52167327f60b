import core from '../api/core.json';
import type { Comparison, Units } from '../api/queries';
import { Chart } from '../chart/Chart';
import chart from '../chart/Chart.module.css';
import { wide } from '../chart/frame';
import { say } from '../words/en/compare.ftl';
import classes from './Compare.module.css';
import { changeText, figureOf, shows, stepsOf, unitOf } from './sides';

/** Room for the figure of a row [px]. */
const RIGHT = 100;
const ROW = 30;
const TOP = 15;

const WORDS: Record<string, string> = {
  ...core.factors,
  rest: say('several-conditions-together'),
  ridden: say('as-ridden'),
  equal: say('at-equal-conditions'),
};

/** On a phone's screen the longest of them are told shorter [px]. */
const NARROW = 480;
const SHORT: Record<string, string> = {
  equal: say('alike'),
  rest: say('not-explained'),
};

/** From the difference as ridden, condition by condition, to the one at equal conditions. */
export function Steps({ comparison, units }: { comparison: Comparison; units: Units }) {
  const { as_found, difference } = comparison;
  if (!as_found || !difference) return null;
  const figure = (value: number) => figureOf(value, comparison, units);
  const unit = unitOf(comparison, units);
  const rows = [
    { name: 'ridden', from: 0, to: as_found.value, whole: true },
    ...stepsOf(comparison)
      .filter(({ from, to }) => shows(to - from, comparison, units))
      .map((step) => ({ ...step, whole: false })),
    { name: 'equal', from: 0, to: difference.value, whole: true },
  ].map((row) => ({
    ...row,
    words: WORDS[row.name] ?? row.name,
    change: changeText(row.to - row.from, comparison, units),
  }));
  const ends = rows.flatMap(({ from, to }) => [figure(from), figure(to), 0]);
  const said = rows.map(({ words, change }) => `${words}: ${change}`);
  return (
    <Chart
      name={say('what-explains-the-difference')}
      said={said.join('; ')}
      height={rows.length * ROW + 42}
      x={{
        title: say('b-over-a-unit', { unit }),
        domain: [Math.min(...ends), Math.max(...ends, Math.min(...ends) + 1e-9)],
      }}
      left={Math.min(200, Math.max(...rows.map(({ words }) => wide(words) + 10)))}
      right={RIGHT}
      values={{
        columns: [say('step'), say('change-unit', { unit }), say('from'), say('to')],
        rows: rows.map(({ words, from, to }) => [
          words,
          figure(to - from),
          figure(from),
          figure(to),
        ]),
      }}
      runs="down"
      stops={said.map((words, row) => ({ at: TOP + row * ROW, said: words }))}
    >
      {({ x, width, height, bottom }) => (
        <>
          <line className={classes.hair} x1={x(0)} x2={x(0)} y1={0} y2={height - bottom} />
          {rows.map(({ name, words, from, to, whole, change }, row) => {
            const at = TOP + row * ROW;
            const [low, high] = [x(figure(Math.min(from, to))), x(figure(Math.max(from, to)))];
            return (
              <g key={name}>
                <text x={0} y={at + 4} className={whole ? chart.strong : undefined}>
                  {(width < NARROW ? SHORT[name] : undefined) ?? words}
                </text>
                <rect
                  x={low}
                  width={Math.max(high - low, 1.5)}
                  y={at - 9}
                  height={18}
                  className={whole ? classes.whole : classes.step}
                />
                <text x={width} y={at + 4} textAnchor="end">
                  {change}
                </text>
              </g>
            );
          })}
        </>
      )}
    </Chart>
  );
}
