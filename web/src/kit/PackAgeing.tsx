import { SegmentedControl, Table } from '@mantine/core';
import { useState } from 'react';
import type { Units } from '../api/queries';
import { type Dot, LifeChart } from '../chart/LifeChart';
import { number } from '../format/number';
import { distanceText, percent } from '../format/units';
import { Notices } from '../ui/Notices';
import parts from '../ui/Parts.module.css';
import { WideTable } from '../ui/WideTable';
import { say } from '../words/en/kit.ftl';
import type { PackLife as Life } from './lives';
import { NamedTests } from './NamedTests';

export type Along = 'months' | 'cycles';
type Told = Life['life'];
type Point = Told['points'][number];
type Figure = 'retained_at_25c' | 'resistance_ohm' | 'range_fraction';

const WITNESS: Record<NonNullable<Told['told_by']>, { figure: Figure; what: string }> = {
  capacity: { figure: 'retained_at_25c', what: say('capacity-at-25-c-share') },
  range: { figure: 'range_fraction', what: say('range-to-cut-off-share') },
};

const AXES: Record<Along, string> = {
  months: say('months-since-its-first-test'),
  cycles: say('equivalent-full-cycles'),
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
    <section className={parts.section} aria-label={say('remaining-capacity')}>
      <RemainingCapacity life={life} along={along} onAlong={setAlong} />
      <EndsTable life={life} units={units} />
      {resistance.length > 1 && (
        <>
          <h2>{say('resistance-m-at-25-c')}</h2>
          <LifeChart
            what={say('resistance')}
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
        <h2>{say('remaining-capacity')}</h2>
        {counted && (
          <SegmentedControl
            size="xs"
            aria-label={say('along')}
            data={[
              { value: 'months', label: say('by-months') },
              { value: 'cycles', label: say('by-cycles') },
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
            text: say('share-of-fresh-by-test', {
              share: percent(share),
              fresh_by_test: life.fresh_by_test ? say('the-first') : say('the-label'),
            }),
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
    say('value-low-to-high', {
      value: number(value, 0),
      low: number(low, 0),
      high: number(high, 0),
    });
  return (
    <>
      <h2>{say('when-it-is-worn')}</h2>
      <WideTable label={say('when-it-is-worn')}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>
              {say('share-of-fresh', {
                fresh_by_test: life.fresh_by_test ? say('what-it-gave-first') : say('its-label'),
              })}
            </Table.Th>
            <Table.Th>{say('months-after-its-first-test')}</Table.Th>
            <Table.Th>{say('full-cycles')}</Table.Th>
            <Table.Th>{say('range-then')}</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {life.ends.map((end) => (
            <Table.Tr key={end.share}>
              <Table.Th className={parts.words} scope="row">
                {percent(end.share)}
                {!life.by_tests && say('going-by-packs-like-it')}
              </Table.Th>
              <Table.Td>
                {life.by_tests
                  ? span(end.months)
                  : say('within-high', { high: number(end.months.high, 0) })}
              </Table.Td>
              <Table.Td>
                {end.cycles == null
                  ? '–'
                  : life.by_tests
                    ? span(end.cycles)
                    : say('within-high', { high: number(end.cycles.high, 0) })}
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
      <h2>{say('test-by-test')}</h2>
      <WideTable label={say('test-by-test')}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>{say('test')}</Table.Th>
            <Table.Th>{say('months')}</Table.Th>
            <Table.Th>{say('cycles')}</Table.Th>
            <Table.Th>{say('ah-at-25-c')}</Table.Th>
            <Table.Th>{say('of-the-label-as-ridden')}</Table.Th>
            <Table.Th>{say('at-25-c')}</Table.Th>
            <Table.Th>{say('m-at-25-c')}</Table.Th>
            <Table.Th>{say('range-as-first-ridden')}</Table.Th>
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
  return say('value-low-to-high-act', {
    value: text(found.value),
    low: text(found.low),
    high: text(found.high),
  });
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
