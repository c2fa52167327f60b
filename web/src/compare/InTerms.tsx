import { Table } from '@mantine/core';
import type { Comparison, Units } from '../api/queries';
import { chance, distanceText, elapsed, percent } from '../format/units';
import parts from '../ui/Parts.module.css';
import { WideTable } from '../ui/WideTable';

type Terms = NonNullable<Comparison['terms']>;

/** Both sides in the terms that a rider asks in, and which of the own ways each makes. */
export function InTerms({ terms, units }: { terms: Terms; units: Units }) {
  const rows = [
    { name: 'range to cut-off', told: (side: Terms['first']) => distanceText(side.range_m, units) },
    {
      name: `plan on, ${percent(terms.reserve)} kept`,
      told: (side: Terms['first']) => distanceText(side.plan_on_m, units),
    },
    {
      name: 'riding until cut-off',
      told: (side: Terms['first']) => (side.hours == null ? '–' : elapsed(side.hours * 3600)),
    },
  ];
  return (
    <section aria-label="What it means">
      <h2>What it means</h2>
      <WideTable label="Both in range and time">
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>at A’s conditions</Table.Th>
            <Table.Th>A</Table.Th>
            <Table.Th>B</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {rows.map(({ name, told }) => (
            <Table.Tr key={name}>
              <Table.Th className={parts.words} scope="row">
                {name}
              </Table.Th>
              <Table.Td>{told(terms.first)}</Table.Td>
              <Table.Td>{told(terms.second)}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
      {terms.trips.length > 0 && <Ways terms={terms} units={units} />}
    </section>
  );
}

function Ways({ terms, units }: { terms: Terms; units: Units }) {
  const lost = terms.trips.filter(({ surely }) => surely === 'first' || surely === 'second');
  return (
    <>
      <p>
        {lost.length === 0
          ? 'On the ways that you keep it makes no difference: both make the same ones surely.'
          : lost
              .map(
                ({ name, surely }) =>
                  `Only ${surely === 'first' ? 'A' : 'B'} makes ${name} surely.`,
              )
              .join(' ')}
      </p>
      <WideTable label="Which of your ways each makes">
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>way</Table.Th>
            <Table.Th>length</Table.Th>
            <Table.Th>A makes it</Table.Th>
            <Table.Th>B makes it</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {terms.trips.map((trip) => (
            <Table.Tr key={trip.name}>
              <Table.Th className={parts.words} scope="row">
                {trip.name}
              </Table.Th>
              <Table.Td>{distanceText(trip.length_m, units)}</Table.Td>
              <Table.Td>{chance(trip.first_chance)}</Table.Td>
              <Table.Td>{chance(trip.second_chance)}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
    </>
  );
}
