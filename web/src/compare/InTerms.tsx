import { Table, Text } from '@mantine/core';
import { Link } from 'react-router';
import type { Comparison, Units } from '../api/queries';
import { chance, distance, distanceText, elapsed, number, percent } from '../format/units';
import { Explained } from '../ui/Explained';
import { Fold } from '../ui/Fold';
import parts from '../ui/Parts.module.css';
import { WideTable } from '../ui/WideTable';

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
  const hundred = units.distance === 'mi' ? 'miles' : 'kilometres';
  const lines: Line[] = [
    { name: 'range to cut-off, a typical ride', of: (side) => side.range_m, text: far },
    { name: 'bad day (19 rides in 20 go further)', of: (side) => side.floor_m, text: far },
    { name: 'good day (1 ride in 20 goes further)', of: (side) => side.best_m, text: far },
    { name: '19 rides in 20, and 95% sure of that', of: (side) => side.most_m, text: far },
    {
      name: `plan on: the bad day, with ${percent(terms.reserve)} in reserve`,
      of: (side) => side.plan_on_m,
      text: far,
    },
    {
      name: `laps of ${far(terms.lap_m ?? 0)}`,
      of: (side) => side.laps,
      text: (laps) => number(laps, 1),
    },
    {
      name: 'riding until cut-off',
      of: (side) => side.hours,
      text: (hours) => elapsed(hours * 3600),
    },
    {
      name: 'at the socket',
      of: (side) => side.socket_wh_per_km,
      text: (wh) => `${number(wh / perUnit, 1)}\u00a0Wh/${units.distance}`,
    },
    {
      name: `a hundred ${hundred}, at ${number(terms.price_per_kwh, 2)} a kWh`,
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
    <Fold title="Range, time, cost and trips">
      <WideTable label="Range, time and cost of both">
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
        The charger and the price are <Link to="/method#assumptions">assumptions</Link> you can
        change.
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
          ? 'On your saved trips it makes no difference: both can do the same ones.'
          : lost
              .map(({ name, surely }) => `Only ${surely === 'first' ? 'A' : 'B'} can do ${name}.`)
              .join(' ')}
      </p>
      <WideTable label="Which of your trips each can do">
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>trip</Table.Th>
            <Table.Th>length</Table.Th>
            <Table.Th>of A’s charge</Table.Th>
            <Table.Th>of B’s charge</Table.Th>
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
