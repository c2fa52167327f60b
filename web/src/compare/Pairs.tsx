import { Table } from '@mantine/core';
import { Fragment } from 'react';
import type { Comparison, Units } from '../api/queries';
import { distanceText, elapsed, number, temperatureText } from '../format/units';
import { Fold } from '../ui/Fold';
import parts from '../ui/Parts.module.css';
import { WideTable } from '../ui/WideTable';
import { say } from '../words/en/compare.ftl';

type At = Comparison['pairs'][number]['first'];

/** Two single rides at the same places. */
export function Pairs({ comparison, units }: { comparison: Comparison; units: Units }) {
  const { pairs } = comparison;
  if (pairs.length === 0) return null;
  const named = (pair: Comparison['pairs'][number]) =>
    pair.by === 'lap'
      ? say('lap-pair', { pair: pair.name })
      : pair.by === 'distance'
        ? distanceText(pair.first.at_m, units)
        : pair.name;
  const wh = (value: number | null) => (value === null ? '–' : `${number(value, 0)} Wh`);
  const volts = (value: number | null) => (value === null ? '–' : `${number(value, 1)} V`);
  // What neither ride noted anywhere is no column.
  const more = [
    {
      name: 'gauge',
      of: (at: At) => at.gauge,
      told: (value: number) => number(value, 0),
    },
    {
      name: 'warmth',
      of: (at: At) => at.temp_c,
      told: (value: number) => temperatureText(value, units),
    },
  ].filter(({ of }) => pairs.some(({ first, second }) => (of(first) ?? of(second)) !== null));
  return (
    <Fold title={say('at-the-same-places')}>
      <WideTable label={say('both-at-the-same-places')}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>{say('place-here')}</Table.Th>
            <Table.Th>{say('a-after')}</Table.Th>
            <Table.Th>{say('b-after')}</Table.Th>
            <Table.Th>{say('a-used')}</Table.Th>
            <Table.Th>{say('b-used')}</Table.Th>
            <Table.Th>{say('a-volts')}</Table.Th>
            <Table.Th>{say('b-volts')}</Table.Th>
            {more.map(({ name }) => (
              <Fragment key={name}>
                <Table.Th>A {name}</Table.Th>
                <Table.Th>B {name}</Table.Th>
              </Fragment>
            ))}
            <Table.Th>{say('b-over-a')}</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {pairs.map((pair) => (
            <Table.Tr key={`${pair.by} ${pair.name} ${pair.first.time_s}`}>
              <Table.Th className={parts.words} scope="row">
                {named(pair)}
              </Table.Th>
              <Table.Td>{elapsed(pair.first.time_s)}</Table.Td>
              <Table.Td>{elapsed(pair.second.time_s)}</Table.Td>
              <Table.Td>{wh(pair.first.energy_wh)}</Table.Td>
              <Table.Td>{wh(pair.second.energy_wh)}</Table.Td>
              <Table.Td>{volts(pair.first.voltage_v)}</Table.Td>
              <Table.Td>{volts(pair.second.voltage_v)}</Table.Td>
              {more.map(({ name, of, told }) => (
                <Fragment key={name}>
                  {[of(pair.first), of(pair.second)].map((value, side) => (
                    <Table.Td key={side === 0 ? 'A' : 'B'}>
                      {value === null ? '–' : told(value)}
                    </Table.Td>
                  ))}
                </Fragment>
              ))}
              <Table.Td>{pair.more_wh === null ? '–' : `${number(pair.more_wh, 0)} Wh`}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
    </Fold>
  );
}
