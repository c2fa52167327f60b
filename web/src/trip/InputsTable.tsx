import { Table } from '@mantine/core';
import { memo } from 'react';
import type { Forecast, Units } from '../api/queries';
import { inputText } from '../format/inputs';
import { INPUT_WORDS } from '../format/words';
import classes from '../ui/Desk.module.css';
import { say } from '../words/en/trip.ftl';

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
      <summary>{say('every-input-and-its-source')}</summary>
      <Table className={classes.table}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th>{say('input')}</Table.Th>
            <Table.Th>{say('value')}</Table.Th>
            <Table.Th>{say('standard')}</Table.Th>
            <Table.Th>{say('source')}</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {inputs.map((input) => {
            const { value, spread, unit } = inputText(input, units);
            return (
              <Table.Tr key={input.name}>
                <Table.Td>
                  {INPUT_WORDS[input.name] ?? input.name} <small>{unit}</small>
                </Table.Td>
                <Table.Td className={classes.number}>{value}</Table.Td>
                <Table.Td className={classes.number}>{spread}</Table.Td>
                <Table.Td>{input.source}</Table.Td>
              </Table.Tr>
            );
          })}
        </Table.Tbody>
      </Table>
    </details>
  );
});
