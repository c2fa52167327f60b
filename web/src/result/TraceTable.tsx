import type { Traces, Units } from '../api/queries';
import { clock, distance, number } from '../format/units';
import classes from './Result.module.css';
import { lookOf } from './traceOptions';

interface TraceTableProps {
  traces: Traces;
  units: Units;
  startedAt: string | null | undefined;
}

const ROWS = 40;

/** The traces in figures, some forty rows of what is shown. */
export function TraceTable({ traces, units, startedAt }: TraceTableProps) {
  const step = Math.max(1, Math.floor(traces.time_s.length / ROWS));
  const rows = traces.time_s.map((_, index) => index).filter((index) => index % step === 0);
  return (
    <details className={classes.entries}>
      <summary className={classes.note}>As a table</summary>
      <table>
        <thead>
          <tr>
            <th>clock</th>
            {traces.distance_m != null && <th>{units.distance}</th>}
            {traces.channels.map((channel) => (
              <th key={channel.name}>
                {lookOf(channel.name).label}, {lookOf(channel.name).unit(units)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((index) => (
            <tr key={index}>
              <td>{clock(startedAt, traces.time_s[index] ?? 0)}</td>
              {traces.distance_m != null && (
                <td>{number(distance(traces.distance_m[index] ?? 0, units), 2)}</td>
              )}
              {traces.channels.map((channel) => {
                const value = channel.mean[index];
                const look = lookOf(channel.name);
                return (
                  <td key={channel.name}>
                    {value == null ? '–' : number(look.scale(value, units), look.digits)}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
