import { memo } from 'react';
import type { Forecast, Units } from '../api/queries';
import { INPUT_WORDS } from '../format/words';
import classes from '../ui/Desk.module.css';
import { inputText } from './spans';

/** Every input with its spread and where it comes from. */
export const InputsTable = memo(function InputsTable({
  inputs,
  units,
}: {
  inputs: Forecast['inputs'];
  units: Units;
}) {
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
          {inputs.map((input) => {
            const { value, spread, unit } = inputText(input, units);
            return (
              <tr key={input.name}>
                <td>
                  {INPUT_WORDS[input.name] ?? input.name} <small>{unit}</small>
                </td>
                <td className={classes.number}>{value}</td>
                <td className={classes.number}>{spread}</td>
                <td>{input.source}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </details>
  );
});
