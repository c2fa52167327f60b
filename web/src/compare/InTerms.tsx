import { Table, Text } from '@mantine/core';
import { Link } from 'react-router';
import type { Comparison, Units } from '../api/queries';
import { chance, distance, distanceText, elapsed, number, percent } from '../format/units';
import { Explained } from '../ui/Explained';
import { Fold } from '../ui/Fold';
import parts from '../ui/Parts.module.css';
import { WideTable } from '../ui/WideTable';
import { say } from '../words/en/compare.ftl';
import { Shown } from '../words/Shown';

type Terms = NonNullable<Comparison['terms']>;

type Side = Terms['first'];

interface Line {
  name: string;
  of: (side: Side) => number | null;
  text: (value: number) => string;
}

/** What a rider asks about a side, a line each; lines that neither side can answer are left out. */
function linesOf(terms: Terms, units: Units): Line[] {
  const far = (metres: number) => distanceText(metres, units);
  const perUnit = distance(1000, units);
  const hundred = units.distance === 'mi' ? say('miles-small') : say('kilometres-small');
  const lines: Line[] = [
    { name: say('range-to-cut-off-a'), of: (side) => side.range_m, text: far },
    { name: say('bad-day-19-rides-in'), of: (side) => side.floor_m, text: far },
    { name: say('good-day-1-ride-in'), of: (side) => side.best_m, text: far },
    { name: say('n-19-rides-in-20-and'), of: (side) => side.most_m, text: far },
    {
      name: say('plan-on-the-bad-day', { reserve: percent(terms.reserve) }),
      of: (side) => side.plan_on_m,
      text: far,
    },
    {
      name: say('laps-of-far', { far: far(terms.lap_m ?? 0) }),
      of: (side) => side.laps,
      text: (laps) => number(laps, 1),
    },
    {
      name: say('riding-until-cut-off'),
      of: (side) => side.hours,
      text: (hours) => elapsed(hours * 3600),
    },
    {
      name: say('at-the-socket'),
      of: (side) => side.socket_wh_per_km,
      text: (wh) => `${number(wh / perUnit, 1)}\u00a0Wh/${units.distance}`,
    },
    {
      name: say('a-hundred-at-a-kwh', { hundred, price_per_kwh: number(terms.price_per_kwh, 2) }),
      of: (side) => side.cost_per_km,
      text: (cost) => number((100 * cost) / perUnit, 2),
    },
  ];
  return lines.filter(({ of }) => of(terms.first) !== null || of(terms.second) !== null);
}

interface InTermsProps {
  terms: Terms;
  units: Units;
  /** Under which conditions both are told. */
  at: string;
}

/** Both sides in the terms that a rider asks in, and which of the own ways each makes. */
export function InTerms({ terms, units, at }: InTermsProps) {
  return (
    <Fold title={say('range-time-cost-and-trips')}>
      <WideTable label={say('range-time-and-cost-of')}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>{at}</Table.Th>
            <Table.Th>A</Table.Th>
            <Table.Th>B</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {linesOf(terms, units).map(({ name, of, text }) => (
            <Table.Tr key={name}>
              <Table.Th className={parts.words} scope="row">
                <Explained text={name} />
              </Table.Th>
              {[of(terms.first), of(terms.second)].map((value, side) => (
                <Table.Td key={side === 0 ? 'A' : 'B'}>
                  {value === null ? '–' : text(value)}
                </Table.Td>
              ))}
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
      <Text size="sm" mt="xs">
        <Shown
          say={say}
          id="the-charger-and-the-price"
          parts={{ a: <Link to="/method#assumptions" /> }}
        />
      </Text>
      {terms.trips.length > 0 && <Ways terms={terms} units={units} />}
    </Fold>
  );
}

function Ways({ terms, units }: { terms: Terms; units: Units }) {
  const lost = terms.trips.filter(({ surely }) => surely === 'first' || surely === 'second');
  return (
    <>
      <p>
        {lost.length === 0
          ? say('on-your-saved-trips-it')
          : lost
              .map(({ name, surely }) =>
                say('only-can-do', { surely: surely === 'first' ? 'A' : 'B', name }),
              )
              .join(' ')}
      </p>
      <WideTable label={say('which-of-your-trips-each')}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>{say('trip')}</Table.Th>
            <Table.Th>{say('length')}</Table.Th>
            <Table.Th>{say('of-as-charge')}</Table.Th>
            <Table.Th>{say('of-bs-charge')}</Table.Th>
            <Table.Th>{say('a-makes-it')}</Table.Th>
            <Table.Th>{say('b-makes-it')}</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {terms.trips.map((trip) => (
            <Table.Tr key={trip.name}>
              <Table.Th className={parts.words} scope="row">
                {trip.name}
              </Table.Th>
              <Table.Td>{distanceText(trip.length_m, units)}</Table.Td>
              <Table.Td>{percent(trip.first_share)}</Table.Td>
              <Table.Td>{percent(trip.second_share)}</Table.Td>
              <Table.Td>{chance(trip.first_chance)}</Table.Td>
              <Table.Td>{chance(trip.second_chance)}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
    </>
  );
}
