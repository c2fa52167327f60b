import { SegmentedControl, Table } from '@mantine/core';
import { useState } from 'react';
import type { Units } from '../api/queries';
import { type Dot, LifeChart } from '../chart/LifeChart';
import { number } from '../format/number';
import { distanceText, percent } from '../format/units';
import { Notices } from '../ui/Notices';
import parts from '../ui/Parts.module.css';
import { WideTable } from '../ui/WideTable';
import type { PackLife as Life } from './lives';
import { NamedTests } from './NamedTests';

export type Along = 'months' | 'cycles';
type Told = Life['life'];
type Point = Told['points'][number];
type Figure = 'retained_at_25c' | 'resistance_ohm' | 'range_fraction';

const WITNESS: Record<NonNullable<Told['told_by']>, { figure: Figure; what: string }> = {
  capacity: { figure: 'retained_at_25c', what: 'Capacity at 25 °C, share of the label' },
  range: { figure: 'range_fraction', what: 'Range to cut-off, share of the first' },
};

const AXES: Record<Along, string> = {
  months: 'months since its first test',
  cycles: 'equivalent full cycles',
};

interface PackAgeingProps {
  life: Told;
  keys: Record<string, string>;
  units: Units;
}

/** What is left of a pack over its tests, when it is worn and how far it goes then. */
export function PackAgeing({ life, keys, units }: PackAgeingProps) {
  const [along, setAlong] = useState<Along>('months');
  const resistance = dotsOf(life.points, along, 'resistance_ohm');
  return (
    <section className={parts.section} aria-label="Remaining capacity">
      <RemainingCapacity life={life} along={along} onAlong={setAlong} />
      <EndsTable life={life} units={units} />
      {resistance.length > 1 && (
        <>
          <h2>Resistance, mΩ at 25 °C</h2>
          <LifeChart
            what="Resistance"
            along={AXES[along]}
            dots={resistance}
            trend={along === 'months' ? life.resistance_by_month : life.resistance_by_cycle}
            text={(value) => number(value * 1000, 0)}
          />
        </>
      )}
      <PointsTable points={life.points} keys={keys} units={units} />
    </section>
  );
}

interface RemainingCapacityProps {
  life: Told;
  along: Along;
  onAlong: (along: Along) => void;
}

/** What tests found of a pack, over months or cycles, and when to test it again. */
export function RemainingCapacity({ life, along, onAlong }: RemainingCapacityProps) {
  const counted = life.points.some((point) => point.cycles != null);
  const byMonth = along === 'months' || !counted;
  const witness = WITNESS[life.told_by ?? 'capacity'];
  const retained = dotsOf(life.points, byMonth ? 'months' : 'cycles', witness.figure);
  return (
    <>
      <div className={parts.head}>
        <h2>Remaining capacity</h2>
        {counted && (
          <SegmentedControl
            size="xs"
            aria-label="Along"
            data={[
              { value: 'months', label: 'by months' },
              { value: 'cycles', label: 'by cycles' },
            ]}
            value={along}
            onChange={(value) => onAlong(value as Along)}
          />
        )}
      </div>
      <Notices notices={life.again} />
      {retained.length > 1 && (
        <LifeChart
          what={witness.what}
          along={byMonth ? AXES.months : AXES.cycles}
          dots={retained}
          trend={byMonth ? life.retained_by_month : life.retained_by_cycle}
          levels={life.worn_at.map((share) => ({
            at: share * life.fresh_fraction,
            text: `${percent(share)} of ${life.fresh_by_test ? 'the first' : 'the label'}`,
          }))}
          text={percent}
        />
      )}
    </>
  );
}

/** When it is worn, and how far it goes then. */
function EndsTable({ life, units }: { life: Told; units: Units }) {
  if (life.ends.length === 0) return null;
  const span = ({ value, low, high }: { value: number; low: number; high: number }) =>
    `${number(value, 0)} (${number(low, 0)} to ${number(high, 0)})`;
  return (
    <>
      <h2>When it is worn</h2>
      <WideTable label="When it is worn">
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>
              share of {life.fresh_by_test ? 'what it gave first' : 'its label'}
            </Table.Th>
            <Table.Th>months after its first test</Table.Th>
            <Table.Th>full cycles</Table.Th>
            <Table.Th>range then</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {life.ends.map((end) => (
            <Table.Tr key={end.share}>
              <Table.Th className={parts.words} scope="row">
                {percent(end.share)}
                {!life.by_tests && ', going by packs like it: too few tests'}
              </Table.Th>
              <Table.Td>
                {life.by_tests ? span(end.months) : `within ${number(end.months.high, 0)}`}
              </Table.Td>
              <Table.Td>
                {end.cycles == null
                  ? '–'
                  : life.by_tests
                    ? span(end.cycles)
                    : `within ${number(end.cycles.high, 0)}`}
              </Table.Td>
              <Table.Td>
                {end.range_m == null ? '–' : distanceText(end.range_m.value, units)}
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
    </>
  );
}

interface PointsTableProps {
  points: Point[];
  keys: Record<string, string>;
  units: Units;
}

function PointsTable({ points, keys, units }: PointsTableProps) {
  const told = points.filter(
    (point) =>
      point.capacity_ah ?? point.retained_fraction ?? point.resistance_ohm ?? point.range_m,
  );
  if (told.length === 0) return null;
  return (
    <>
      <h2>Test by test</h2>
      <WideTable label="Test by test">
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>test</Table.Th>
            <Table.Th>months</Table.Th>
            <Table.Th>cycles</Table.Th>
            <Table.Th>Ah at 25 °C</Table.Th>
            <Table.Th>of the label, as ridden</Table.Th>
            <Table.Th>at 25 °C</Table.Th>
            <Table.Th>mΩ at 25 °C</Table.Th>
            <Table.Th>range as first ridden</Table.Th>
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
              <Table.Td>{withSpread(point.retained_at_25c, percent)}</Table.Td>
              <Table.Td>
                {withSpread(point.resistance_ohm, (value) => number(value * 1000, 0))}
              </Table.Td>
              <Table.Td>
                {withSpread(point.range_m, (value) => distanceText(value, units))}
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
    </>
  );
}

function withSpread(found: Point['capacity_ah'], text: (value: number) => string): string {
  if (found == null) return '–';
  return `${text(found.value)} (${text(found.low)} to ${text(found.high)})`;
}

function dotsOf(points: Point[], along: Along, name: Figure): Dot[] {
  return points.flatMap((point) => {
    const x = point[along];
    const quantity = point[name];
    return x == null || quantity == null
      ? []
      : [{ key: point.key, title: point.title, x, quantity }];
  });
}
