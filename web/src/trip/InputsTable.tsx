import { memo } from 'react';
import type { Forecast } from '../api/queries';
import { INPUT_WORDS } from '../format/words';
import classes from './Trip.module.css';

/** Every input with its spread and where it comes from. */
export const InputsTable = memo(function InputsTable({ inputs }: { inputs: Forecast['inputs'] }) {
  return (
    <details>
      <summary>Every input and its source</summary>
      <table className={classes.table}>
        <thead>
          <tr>
            <th>Input</th>
            <th>Value</th>
            <th>± (standard)</th>
            <th>Source</th>
          </tr>
        </thead>
        <tbody>
          {inputs.map((input) => (
            <tr key={input.name}>
              <td>
                {INPUT_WORDS[input.name] ?? input.name} <small>{unitOf(input.name)}</small>
              </td>
              <td className={classes.number}>{Number(input.value.toPrecision(4))}</td>
              <td className={classes.number}>
                {Number(input.standard_uncertainty.toPrecision(2))}
              </td>
              <td>{input.source}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
});

const UNITS: ReadonlyArray<[string, string]> = [
  ['_wh_per_km', 'Wh/km'],
  ['_mps', 'm/s'],
  ['_kpa', 'kPa'],
  ['_kg', 'kg'],
  ['_m2', 'm²'],
  ['_ohm', 'Ω'],
  ['_wh', 'Wh'],
  ['_deg', '°'],
  ['_c', '°C'],
  ['_w', 'W'],
];

function unitOf(name: string): string {
  return UNITS.find(([ending]) => name.endsWith(ending))?.[1] ?? '';
}
