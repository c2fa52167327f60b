import { Table } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { wagersQuery } from '../api/queries';
import { number, percent } from '../format/units';
import parts from '../ui/Parts.module.css';
import { WideTable } from '../ui/WideTable';
import { say } from '../words/en/plan.ftl';

/** Who guesses best over the rides whose guesses were opened; nothing before there is one. */
export function Wagers() {
  const wagers = useQuery(wagersQuery);
  if (wagers.error) return <p role="alert">{wagers.error.message}</p>;
  if (!wagers.data || wagers.data.length === 0) return null;
  const [best] = wagers.data;
  return (
    <section className={parts.section} aria-label={say('who-guesses-best')}>
      <h2>
        {say('is-forecast-so-far', {
          is_forecast: best?.is_forecast
            ? say('the-forecast-guesses-best')
            : say('best-guesses-best', { best: best?.name }),
        })}
      </h2>
      <WideTable label={say('guesses-over-all-rides')}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>{say('who-column')}</Table.Th>
            <Table.Th>{say('rides')}</Table.Th>
            <Table.Th>{say('average-error')}</Table.Th>
            <Table.Th>{say('too-high-out-of-10')}</Table.Th>
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
      <p>{say('scored-so-that-an-honest')}</p>
    </section>
  );
}
