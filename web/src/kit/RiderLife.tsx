import { Table } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { LifeChart } from '../chart/LifeChart';
import { fieldOf, shownWithUnit } from '../format/fields';
import { day } from '../format/units';
import { useUnits } from '../format/useUnits';
import { Trouble, Waiting } from '../ui/Page';
import parts from '../ui/Parts.module.css';
import { say } from '../words/en/kit.ftl';
import { KitHead } from './KitHead';
import { LifeTests } from './LifeTests';
import { riderLifeQuery } from './lives';
import { NamedTests } from './NamedTests';

const MASS = fieldOf('rider', 'mass_kg');
const DAYS_PER_MONTH = 365.25 / 12;

/** A rider over the tests that were ridden: what was weighed at each. */
export function RiderLife({ itemId }: { itemId: string }) {
  const query = useQuery(riderLifeQuery(itemId));
  const units = useUnits();
  if (query.error) return <Trouble whole error={query.error} onRetry={() => query.refetch()} />;
  if (query.data === undefined) return <Waiting rows={3} height={90} />;
  const { item, tests, count, life } = query.data;
  const dated = life.filter((point) => point.started_at != null);
  const first = Date.parse(dated[0]?.started_at ?? '');
  const text = (kg: number) => shownWithUnit(MASS, kg, units);
  return (
    <KitHead shelf="riders" item={item}>
      {life.length > 0 && (
        <section className={parts.section} aria-label={say('mass-over-time')}>
          <h2>{say('mass-over-time')}</h2>
          {dated.length > 1 && (
            <LifeChart
              what={say('mass')}
              along={say('months-since-the-first-test')}
              dots={dated.map((point) => ({
                key: point.test_id,
                title: point.title,
                x: (Date.parse(point.started_at ?? '') - first) / 86_400_000 / DAYS_PER_MONTH,
                quantity: exact(point.mass_kg),
              }))}
              text={text}
            />
          )}
          <div className={parts.table}>
            <Table>
              <Table.Thead>
                <Table.Tr>
                  <Table.Th className={parts.words}>{say('test')}</Table.Th>
                  <Table.Th className={parts.words}>{say('day')}</Table.Th>
                  <Table.Th>{say('rider-here')}</Table.Th>
                  <Table.Th>{say('gear')}</Table.Th>
                </Table.Tr>
              </Table.Thead>
              <Table.Tbody>
                {life.map((point) => (
                  <Table.Tr key={point.test_id}>
                    <Table.Td className={parts.words}>
                      <NamedTests titles={[point.title]} keys={{ [point.title]: point.test_id }} />
                    </Table.Td>
                    <Table.Td className={parts.words}>{day(point.started_at)}</Table.Td>
                    <Table.Td>{text(point.mass_kg)}</Table.Td>
                    <Table.Td>{point.gear_kg == null ? '–' : text(point.gear_kg)}</Table.Td>
                  </Table.Tr>
                ))}
              </Table.Tbody>
            </Table>
          </div>
        </section>
      )}
      <LifeTests
        tests={tests}
        count={count}
        all={`/logbook?rider=${encodeURIComponent(item.name)}`}
      />
    </KitHead>
  );
}

/** A number that nobody gave a spread. */
function exact(value: number) {
  return { value, low: value, high: value, standard_uncertainty: 0, unit: 'kg', coverage: 0.95 };
}
