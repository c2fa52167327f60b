import type { Units, Vehicle } from '../api/queries';
import { say } from '../words/en/format.ftl';
import { fieldOf, lineOf, sentOf, typedText, unitOf } from './fields';
import { percent } from './units';

const BELOW = fieldOf('step_down', 'below_v');
const HELD = fieldOf('step_down', 'max_speed_mps');

/** "20%" or "2 of 5" as a share of a full gauge; null for anything else. */
function gaugeShare(typed: string): number | null {
  const part = typed.match(/^\s*([\d.,]+)\s*(?:%|(?:of|\/)\s*(\d+))\s*$/);
  if (!part) return null;
  return Number((part[1] ?? '').replace(',', '.')) / Number(part[2] ?? 100);
}

/** "44 V: 20 km/h; 20%: 10 km/h; 1 of 5: 6 km/h" as the API takes it. */
export function limpTable(typed: string, units: Units) {
  return typed
    .split(';')
    .map((row) => row.trim())
    .filter((row) => row !== '')
    .map((row) => {
      const [from = '', held = ''] = row.split(':');
      const gauge = gaugeShare(from);
      return {
        ...(gauge === null ? { below_v: sentOf(BELOW, from, units) } : { gauge }),
        max_speed_mps: sentOf(HELD, held, units),
      };
    });
}

/** The other way round, in the rider's units. */
export function limpText(rows: Vehicle['step_down'], units: Units): string {
  return rows
    .map((row) => {
      const from =
        row.gauge == null
          ? `${typedText(BELOW, row.below_v, units)} ${unitOf(BELOW, units)}`
          : percent(row.gauge);
      return `${from}: ${typedText(HELD, row.max_speed_mps, units)} ${unitOf(HELD, units)}`;
    })
    .join('; ');
}

/** How a limp table is written. */
export function limpHint(units: Units): string {
  const rows = [
    { below_v: 44, gauge: null, max_speed_mps: 5.5 },
    { below_v: null, gauge: 0.1, max_speed_mps: 2.8 },
  ].map((row) => ({ ...row, max_speed_mps: roughly(row.max_speed_mps, units) }));
  return say('slows-when-low', { limp_text: limpText(rows, units) });
}

/** A speed that is a whole number to the rider [m/s]. */
function roughly(mps: number, units: Units): number {
  const { factor } = lineOf(HELD.kind, units);
  return Math.round(mps / factor) * factor;
}
