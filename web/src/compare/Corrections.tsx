import { Table } from '@mantine/core';
import core from '../api/core.json';
import type { Comparison, Units } from '../api/queries';
import parts from '../ui/Parts.module.css';
import { WideTable } from '../ui/WideTable';
import { say } from '../words/en/compare.ftl';
import { changeText } from './sides';

const FACTORS: Record<string, string> = core.factors;

/** Which conditions were adjusted between two sides, and the effect of each. */
export function Corrections({ comparison, units }: { comparison: Comparison; units: Units }) {
  if (comparison.corrections.length === 0) {
    return <p>{say('nothing-to-adjust-both-were')}</p>;
  }
  return (
    <WideTable label={say('effect-of-each-condition')}>
      <Table.Thead>
        <Table.Tr>
          <Table.Th className={parts.words}>{say('condition')}</Table.Th>
          <Table.Th className={parts.words}>{say('adjusted-on')}</Table.Th>
          <Table.Th>{say('effect')}</Table.Th>
          <Table.Th>{say('n-95-range')}</Table.Th>
        </Table.Tr>
      </Table.Thead>
      <Table.Tbody>
        {comparison.corrections.map(({ name, applied_to, change }) => (
          <Table.Tr key={name + applied_to}>
            <Table.Th className={parts.words} scope="row">
              {FACTORS[name]}
            </Table.Th>
            <Table.Td className={parts.words}>{applied_to === 'first' ? 'A' : 'B'}</Table.Td>
            <Table.Td>{changeText(change.value, comparison, units)}</Table.Td>
            <Table.Td>
              {say('change-low-to-high', {
                low: changeText(change.low, comparison, units),
                high: changeText(change.high, comparison, units),
              })}
            </Table.Td>
          </Table.Tr>
        ))}
      </Table.Tbody>
    </WideTable>
  );
}
