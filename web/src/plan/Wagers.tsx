import { Table } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { wagersQuery } from '../api/queries';
import { number, percent } from '../format/units';
import parts from '../ui/Parts.module.css';
import { WideTable } from '../ui/WideTable';

/** Who guesses best over the rides whose guesses were opened; nothing before there is one. */
export function Wagers() {
  const wagers = useQuery(wagersQuery);
  if (wagers.error) return <p role="alert">{wagers.error.message}</p>;
  if (!wagers.data || wagers.data.length === 0) return null;
  const [best] = wagers.data;
  return (
    <section className={parts.section} aria-label="Who guesses best">
      <h2>
        {best?.is_forecast ? 'The forecast guesses best' : `${best?.name} guesses best`} so far
      </h2>
      <WideTable label="Guesses over all rides">
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>who</Table.Th>
            <Table.Th>rides</Table.Th>
            <Table.Th>average error</Table.Th>
            <Table.Th>too high, out of 10</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {wagers.data.map((one) => (
            <Table.Tr key={`${one.is_forecast} ${one.name}`}>
              <Table.Th className={parts.words} scope="row">
                {one.name}
              </Table.Th>
              <Table.Td>{one.rides}</Table.Td>
              <Table.Td>{percent(one.score)}</Table.Td>
              <Table.Td>{number(one.high_of_ten, 0)}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
      <p>
        Scored so that an honest guess does best in the long run. The forecast is scored by its
        whole spread, a guess by its one number.
      </p>
    </section>
  );
}
