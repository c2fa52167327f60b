import type { Method } from '../api/queries';
import { number } from '../format/units';
import { METHOD_WORDS } from '../format/words';
import { ticks } from '../tideline/geometry';
import classes from './Result.module.css';

interface MethodChartProps {
  methods: Method[];
  unit: string;
  scale: (value: number) => number;
  empty: string;
}

const WIDTH = 300;
const LEFT = 132;
const ROW = 27;

/** Intervals on one axis. The used one is full and heavy; one that disagrees is a square. */
export function MethodChart({ methods, unit, scale, empty }: MethodChartProps) {
  if (methods.length === 0) return <p>{empty}</p>;
  const used = methods.find((method) => method.used) ?? methods[0];
  const values = methods.map((method) => scale(method.quantity.value));
  const centre = used ? scale(used.quantity.value) : 0;
  // Wide enough for every value and for the used interval; a wilder interval runs off the edge.
  const reach = Math.max(
    ...values.map((value) => Math.abs(value - centre) * 1.35),
    used ? scale(used.quantity.high) * 2.2 - centre * 2.2 : 0,
    centre * 0.06,
  );
  const low = centre - reach;
  const high = centre + reach;
  const x = (value: number) => LEFT + 6 + ((value - low) / (high - low)) * (WIDTH - LEFT - 12);
  const clip = (value: number) => Math.min(Math.max(x(value), LEFT), WIDTH);
  const bottom = methods.length * ROW + 6;
  const axis = ticks(high * 1.5, (high - low) / 2.5).filter((tick) => tick >= low && tick <= high);
  return (
    <figure style={{ margin: 0 }}>
      <svg
        width="100%"
        viewBox={`0 0 ${WIDTH} ${bottom + 22}`}
        role="img"
        aria-label={`Methods in ${unit}: ${methods.map((method) => said(method, scale, unit)).join('; ')}`}
      >
        {methods.map((method, index) => {
          const y = 14 + index * ROW;
          const at = x(scale(method.quantity.value));
          const stroke = method.used
            ? 'var(--tide)'
            : method.agrees
              ? 'var(--kelp)'
              : 'var(--shell)';
          return (
            <g key={method.method}>
              <title>{method.note}</title>
              <text className={classes.method} x={0} y={y + 4} fontWeight={method.used ? 650 : 400}>
                {METHOD_WORDS[method.method] ?? method.method}
              </text>
              <line
                x1={clip(scale(method.quantity.low))}
                x2={clip(scale(method.quantity.high))}
                y1={y}
                y2={y}
                stroke={stroke}
                strokeWidth={method.used ? 4 : 1.6}
              />
              {method.agrees ? (
                <circle
                  cx={at}
                  cy={y}
                  r={method.used ? 5 : 3.6}
                  fill={method.used ? stroke : 'var(--paper)'}
                  stroke={stroke}
                  strokeWidth={1.6}
                />
              ) : (
                <rect
                  x={at - 4}
                  y={y - 4}
                  width={8}
                  height={8}
                  fill="var(--paper)"
                  stroke={stroke}
                  strokeWidth={2}
                />
              )}
            </g>
          );
        })}
        <line x1={LEFT} x2={WIDTH} y1={bottom} y2={bottom} stroke="var(--hair)" />
        <text className={classes.axis} x={0} y={bottom + 16}>
          {unit}
        </text>
        {axis.map((tick) => (
          <text
            key={tick}
            className={classes.axis}
            x={Math.min(Math.max(x(tick), LEFT + 12), WIDTH - 14)}
            y={bottom + 16}
            textAnchor="middle"
          >
            {number(tick)}
          </text>
        ))}
      </svg>
      <details>
        <summary className={classes.note}>As a table</summary>
        <ul className={classes.warnings}>
          {methods.map((method) => (
            <li key={method.method}>
              {said(method, scale, unit)}. {method.note}
            </li>
          ))}
        </ul>
      </details>
    </figure>
  );
}

function said(method: Method, scale: (value: number) => number, unit: string): string {
  const words = METHOD_WORDS[method.method] ?? method.method;
  const value = number(scale(method.quantity.value));
  const span = `${number(scale(method.quantity.low))} to ${number(scale(method.quantity.high))}`;
  const verdict = method.used ? 'used' : method.agrees ? 'agrees' : 'does not agree';
  return `${words} ${value} ${unit} (${span}), ${verdict}`;
}
