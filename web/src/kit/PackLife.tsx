import { SegmentedControl, Table } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { number } from '../format/number';
import { percent } from '../format/units';
import { useUnits } from '../format/useUnits';
import { GaugeSteps } from '../result/GaugeSteps';
import { Notices } from '../ui/Notices';
import { Trouble, Waiting } from '../ui/Page';
import parts from '../ui/Parts.module.css';
import { KitHead, KitLink } from './KitLifePage';
import { type Dot, LifeChart } from './LifeChart';
import { LifeTests } from './LifeTests';
import { type PackLife as Life, packLifeQuery } from './lives';
import { NamedTests } from './NamedTests';
import { pooledSteps } from './pooled';

type Along = 'months' | 'cycles';
type Point = Life['life']['points'][number];

/** A pack over its tests: what it gives, what it loses, and when to test it again. */
export function PackLife({ itemId }: { itemId: string }) {
  const query = useQuery(packLifeQuery(itemId));
  const units = useUnits();
  const [wanted, setAlong] = useState<Along>('months');
  if (query.error) return <Trouble error={query.error} onRetry={() => query.refetch()} />;
  if (query.data === undefined) return <Waiting rows={4} height={90} />;
  const { item, tests, count, keys, life } = query.data;
  const counted = life.points.some((point) => point.cycles != null);
  const along = counted ? wanted : 'months';
  const byMonth = along === 'months';
  const retained = dotsOf(life.points, along, 'retained_fraction');
  const resistance = dotsOf(life.points, along, 'resistance_ohm');
  const axis = byMonth ? 'months since its first test' : 'equivalent full cycles';
  return (
    <KitHead
      shelf="packs"
      item={item}
      links={<KitLink to={`/forecast?pack=${item.id}`}>Forecast with it</KitLink>}
    >
      <section className={parts.section} aria-label="What is left of it">
        <div className={parts.head}>
          <h2>What is left of it</h2>
          {counted && (
            <SegmentedControl
              size="xs"
              aria-label="Along"
              data={[
                { value: 'months', label: 'by months' },
                { value: 'cycles', label: 'by cycles' },
              ]}
              value={along}
              onChange={(value) => setAlong(value as Along)}
            />
          )}
        </div>
        <Notices notices={life.again} />
        {retained.length > 1 && (
          <LifeChart
            what="Capacity at 25 °C, of the label"
            along={axis}
            dots={retained}
            trend={byMonth ? life.retained_by_month : life.retained_by_cycle}
            levels={life.worn_at.map((share) => ({
              at: share * life.fresh_fraction,
              text: `${percent(share)} of ${life.fresh_by_test ? 'the first' : 'the label'}`,
            }))}
            text={percent}
          />
        )}
        {resistance.length > 1 && (
          <>
            <h2>Resistance, mΩ at 25 °C</h2>
            <LifeChart
              what="Resistance"
              along={axis}
              dots={resistance}
              trend={byMonth ? life.resistance_by_month : life.resistance_by_cycle}
              text={(value) => number(value * 1000, 0)}
            />
          </>
        )}
        <PointsTable points={life.points} keys={keys} />
      </section>
      {life.gauge.length > 0 && (
        <section className={parts.section} aria-label="Its gauge">
          <h2>What the gauge meant on it</h2>
          <GaugeSteps steps={pooledSteps(life.gauge)} pooled={[]} units={units} />
        </section>
      )}
      <LifeTests
        tests={tests}
        count={count}
        all={`/logbook?pack=${encodeURIComponent(item.name)}`}
      />
    </KitHead>
  );
}

function PointsTable({ points, keys }: { points: Point[]; keys: Record<string, string> }) {
  const told = points.filter(
    (point) => point.capacity_ah ?? point.retained_fraction ?? point.resistance_ohm,
  );
  if (told.length === 0) return null;
  return (
    <div className={parts.table}>
      <Table>
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>test</Table.Th>
            <Table.Th>months</Table.Th>
            <Table.Th>cycles</Table.Th>
            <Table.Th>Ah at 25 °C</Table.Th>
            <Table.Th>of the label</Table.Th>
            <Table.Th>mΩ at 25 °C</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {told.map((point) => (
            <Table.Tr key={point.key}>
              <Table.Td className={parts.words}>
                <NamedTests titles={[point.title]} keys={{ ...keys, [point.title]: point.key }} />
              </Table.Td>
              <Table.Td>{number(point.months, 1)}</Table.Td>
              <Table.Td>{point.cycles == null ? '–' : `${number(point.cycles, 0)}`}</Table.Td>
              <Table.Td>{withSpread(point.capacity_ah, (value) => number(value, 2))}</Table.Td>
              <Table.Td>{withSpread(point.retained_fraction, percent)}</Table.Td>
              <Table.Td>
                {withSpread(point.resistance_ohm, (value) => number(value * 1000, 0))}
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
    </div>
  );
}

function withSpread(found: Point['capacity_ah'], text: (value: number) => string): string {
  if (found == null) return '–';
  return `${text(found.value)} (${text(found.low)} to ${text(found.high)})`;
}

function dotsOf(
  points: Point[],
  along: Along,
  name: 'retained_fraction' | 'resistance_ohm',
): Dot[] {
  return points.flatMap((point) => {
    const x = point[along];
    const quantity = point[name];
    return x == null || quantity == null
      ? []
      : [{ key: point.key, title: point.title, x, quantity }];
  });
}
