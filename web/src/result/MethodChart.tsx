import type { Method } from '../api/queries';
import { Chart } from '../chart/Chart';
import chart from '../chart/Chart.module.css';
import { type Frame, wide } from '../chart/frame';
import { number } from '../format/units';
import { METHOD_WORDS } from '../format/words';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';

interface MethodChartProps {
  methods: Method[];
  what: string;
  unit: string;
  scale: (value: number) => number;
  empty: string;
}

const ROW = 27;
const TOP = 18;
/** No label is so long that nothing is left for its interval [px]. */
const MOST_LABEL = 150;

/** Intervals on one axis. The used one is full and heavy; one that disagrees is a square. */
export function MethodChart({ methods, what, unit, scale, empty }: MethodChartProps) {
  if (methods.length === 0) return <p>{empty}</p>;
  const label = Math.max(...methods.map((method) => wide(named(method)) + 14));
  const said = methods.map((method) => methodSaid(method, scale, unit));
  return (
    <Chart
      name={say('methods-for-what', { what })}
      said={say('methods-in-unit-said', { unit, said: said.join('; ') })}
      height={TOP + methods.length * ROW + 36}
      x={{ title: `${what}, ${unit}`, domain: shownSpan(methods, scale), text: (at) => number(at) }}
      left={Math.min(label, MOST_LABEL)}
      values={{
        columns: [say('method'), unit, say('from'), say('to'), say('verdict'), say('note-here')],
        rows: methods.map((method) => [
          named(method),
          scale(method.quantity.value),
          scale(method.quantity.low),
          scale(method.quantity.high),
          verdictOf(method),
          method.note,
        ]),
      }}
      runs="down"
      stops={said.map((words, row) => ({ at: TOP + row * ROW, said: words }))}
    >
      {(frame) =>
        methods.map((method, at) => (
          <Interval
            key={method.method}
            frame={frame}
            method={method}
            scale={scale}
            y={TOP + at * ROW}
          />
        ))
      }
    </Chart>
  );
}

interface IntervalProps {
  frame: Frame;
  method: Method;
  scale: (value: number) => number;
  y: number;
}

function Interval({ frame, method, scale, y }: IntervalProps) {
  const { low, high, value } = method.quantity;
  const within = (at: number) =>
    Math.min(Math.max(frame.x(scale(at)), frame.left), frame.width - frame.right);
  const at = frame.x(scale(value));
  const voice = method.used ? say('used') : method.agrees ? say('agrees') : 'against';
  return (
    <g className={classes.interval} data-voice={voice}>
      <text className={method.used ? chart.strong : undefined} x={0} y={y + 4}>
        {named(method)}
      </text>
      <line x1={within(low)} x2={within(high)} y1={y} y2={y} />
      {method.agrees ? (
        <circle cx={at} cy={y} r={method.used ? 5 : 3.6} />
      ) : (
        <rect x={at - 4} y={y - 4} width={8} height={8} />
      )}
    </g>
  );
}

/** Wide enough for every value and for the used interval; a wilder interval runs off the edge. */
function shownSpan(methods: Method[], scale: (value: number) => number): [number, number] {
  const used = methods.find((method) => method.used) ?? methods[0];
  const centre = used ? scale(used.quantity.value) : 0;
  const reach = Math.max(
    ...methods.map((method) => Math.abs(scale(method.quantity.value) - centre) * 1.35),
    used ? scale(used.quantity.high) * 2.2 - centre * 2.2 : 0,
    centre * 0.06,
  );
  return [centre - reach, centre + reach];
}

const named = (method: Method) => METHOD_WORDS[method.method] ?? method.method;

const verdictOf = (method: Method) =>
  method.used ? say('used') : method.agrees ? say('agrees') : say('does-not-agree');

function methodSaid(method: Method, scale: (value: number) => number, unit: string): string {
  const { low, high, value } = method.quantity;
  const span = say('span-low-to-high', { low: number(scale(low)), high: number(scale(high)) });
  return `${named(method)} ${number(scale(value))} ${unit} (${span}), ${verdictOf(method)}`;
}
