import { Button, NumberInput, Slider } from '@mantine/core';
import { useMemo } from 'react';
import { Chart } from '../chart/Chart';
import chart from '../chart/Chart.module.css';
import { linePath } from '../chart/paths';
import { number } from '../format/units';
import { say } from '../words/en/letin.ftl';
import type { Match } from './choices';
import classes from './LetIn.module.css';

interface JoinLookProps {
  match: Match;
  /** Seconds that the second is moved by, beyond what the clocks say. */
  offset: number;
  onOffset: (seconds: number) => void;
}

/** How far the slider reaches to each side [s]. */
const REACH = 600;

/** Two recordings of one ride on one clock: both as curves, the second moved by hand or by key. */
export function JoinLook({ match, offset, onOffset }: JoinLookProps) {
  const [first, second] = match.curves;
  const lines = useMemo(() => {
    if (first === undefined || second === undefined) return null;
    const bySpeed = first.speed_mps.length > 0 && second.speed_mps.length > 0;
    return [first, second].map((curve) => {
      const values = bySpeed || curve.power_w.length === 0 ? curve.speed_mps : curve.power_w;
      const top = Math.max(1e-6, ...values.map((value) => Math.abs(value ?? 0)));
      return {
        name: curve.name,
        time: curve.time_s,
        shares: values.map((v) => (v === null ? null : v / top)),
      };
    });
  }, [first, second]);
  if (lines === null || first === undefined || second === undefined) return null;
  const [one, other] = lines;
  if (one === undefined || other === undefined) return null;
  const moved = (match.by_clocks_s ?? 0) + offset;
  const start = Math.min(0, (other.time[0] ?? 0) + moved) / 60;
  const end = Math.max(one.time.at(-1) ?? 1, (other.time.at(-1) ?? 1) + moved) / 60;
  return (
    <div>
      <p className={classes.sums}>{say('one-clock', { first: first.name, second: second.name })}</p>
      <p className={classes.quiet} role="status">
        {match.by_clocks_s === null
          ? say('no-clocks')
          : say('clocks-apart', { seconds: number(match.by_clocks_s, 0), first: first.name })}{' '}
        {match.said}
      </p>
      <Chart
        name={say('one-clock', { first: first.name, second: second.name })}
        said={say('join-said', {
          first: first.name,
          second: second.name,
          seconds: number(offset, 1),
        })}
        height={150}
        x={{ title: say('minutes'), domain: [start, end] }}
        values={{
          columns: [say('minutes'), first.name, second.name],
          rows: one.time.map((time, at) => [time / 60, one.shares[at] ?? null, null]),
        }}
        stops={[]}
        bare
      >
        {(frame) => {
          const bottom = frame.height - frame.bottom;
          const path = (line: typeof one, by: number) =>
            linePath(
              line.shares.map((share, at) =>
                share === null
                  ? null
                  : ([
                      frame.x(((line.time[at] ?? 0) + by) / 60),
                      bottom - share * (bottom - frame.top - 4),
                    ] as const),
              ),
            );
          return (
            <g>
              <path className={chart.line} data-voice="ink" d={path(one, 0)} />
              <path className={chart.line} data-voice="tide" d={path(other, moved)} />
              <text className={chart.axis} x={frame.left} y={bottom - 8}>
                {one.name}
                <tspan dx={12} fill="var(--tide)">
                  {other.name}
                </tspan>
              </text>
            </g>
          );
        }}
      </Chart>
      <Slider
        thumbLabel={say('move-by', { name: second.name })}
        min={-REACH}
        max={REACH}
        step={0.5}
        value={Math.max(-REACH, Math.min(REACH, offset))}
        label={null}
        onChange={onOffset}
        my="xs"
      />
      <div className={classes.foot}>
        <NumberInput
          label={say('move-by', { name: second.name })}
          value={Math.round(offset * 10) / 10}
          step={0.5}
          decimalScale={1}
          onChange={(value) => onOffset(Number(value) || 0)}
          w="14rem"
        />
        <Button onClick={() => onOffset(offset - 1)}>{say('earlier')}</Button>
        <Button onClick={() => onOffset(offset + 1)}>{say('later')}</Button>
        {match.offset_s !== null && (
          <Button onClick={() => onOffset(match.offset_s ?? 0)}>{say('use-proposal')}</Button>
        )}
      </div>
    </div>
  );
}
