import { Table } from '@mantine/core';
import type { Comparison, Units } from '../api/queries';
import parts from '../ui/Parts.module.css';
import { WideTable } from '../ui/WideTable';
import { say } from '../words/en/compare.ftl';
import { atConditions, figureText } from './sides';

/** Each run as ridden and adjusted, in figures. */
export function RunTable({ comparison, units }: { comparison: Comparison; units: Units }) {
  const text = ({ value, low, high }: { value: number; low: number; high: number }) =>
    say('figure-low-to-high', {
      value: figureText(value, comparison, units),
      low: figureText(low, comparison, units),
      high: figureText(high, comparison, units),
    });
  return (
    <WideTable label={say('runs-in-figures')}>
      <Table.Thead>
        <Table.Tr>
          <Table.Th className={parts.words}>{say('run')}</Table.Th>
          <Table.Th>{say('as-ridden-hollow')}</Table.Th>
          <Table.Th>{atConditions(comparison.question)} ●</Table.Th>
        </Table.Tr>
      </Table.Thead>
      <Table.Tbody>
        {comparison.runs.map((run) => (
          <Table.Tr key={run.key}>
            <Table.Th className={parts.words} scope="row">
              {run.side === 'first' ? 'A' : 'B'} {run.title}
            </Table.Th>
            <Table.Td>{text(run.as_found)}</Table.Td>
            <Table.Td>{text(run.carried)}</Table.Td>
          </Table.Tr>
        ))}
      </Table.Tbody>
    </WideTable>
  );
}
