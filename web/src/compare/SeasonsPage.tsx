import { Button, Group, SegmentedControl, Select, Table } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { type Quantity, type Units, vehiclesQuery } from '../api/queries';
import { LifeChart } from '../chart/LifeChart';
import { number, percent, speed, speedUnit, temperatureText } from '../format/units';
import { useUnits } from '../format/useUnits';
import { type Seasons, seasonsQuery } from '../kit/lives';
import { Notices } from '../ui/Notices';
import { Page, Trouble, Waiting } from '../ui/Page';
import parts from '../ui/Parts.module.css';
import { Strong } from '../ui/Strong';
import { WideTable } from '../ui/WideTable';
import { CompareTabs } from './CompareTabs';
import { riddenInMost } from './everySeason';
import { newestQuery } from './newest';
import { figureOf, figureText, unitOf } from './sides';

type Band = Seasons['seasons']['bands'][number];
type Figure = Band['quantity'];

/** How much cold costs to a vehicle, by speed. */
export function SeasonsPage() {
  const [query, setQuery] = useSearchParams();
  const vehicles = useQuery(vehiclesQuery);
  const asked = query.get('vehicle');
  const newest = useQuery({ ...newestQuery, enabled: asked === null });
  if (vehicles.error)
    return <Trouble whole error={vehicles.error} onRetry={() => vehicles.refetch()} />;
  // Without the newest tests any vehicle is as good as another: their failure is not this page's.
  if (!vehicles.data || newest.isLoading) return <Waiting rows={3} height={60} />;
  const likely = riddenInMost(newest.data?.items ?? []);
  const chosen =
    vehicles.data.find((vehicle) => vehicle.id === asked) ??
    vehicles.data.find((vehicle) => vehicle.name === likely) ??
    vehicles.data[0];
  if (!chosen) {
    return (
      <Page name="Seasons" title="How much does cold cost?">
        <CompareTabs />
        <p>
          There is no vehicle yet. <Link to="/kit">Make one</Link>, and ride it in more than one
          season.
        </p>
      </Page>
    );
  }
  const choose = (
    <Select
      label="The vehicle"
      data={vehicles.data.map((vehicle) => ({ value: vehicle.id, label: vehicle.name }))}
      value={chosen.id}
      onChange={(id) => id && setQuery({ vehicle: id })}
      allowDeselect={false}
      searchable
      maw={340}
      mt="md"
    />
  );
  return <Weathered key={chosen.id} vehicleId={chosen.id} name={chosen.name} choose={choose} />;
}

interface WeatheredProps {
  vehicleId: string;
  name: string;
  choose: React.ReactNode;
}

function Weathered({ vehicleId, name, choose }: WeatheredProps) {
  const found = useQuery(seasonsQuery(vehicleId));
  const units = useUnits();
  const [wanted, setWanted] = useState<Figure>('range_to_cutoff');
  if (found.error) return <Trouble whole error={found.error} onRetry={() => found.refetch()} />;
  const seasons = found.data?.seasons;
  const there = (figure: Figure) => seasons?.bands.filter((band) => band.quantity === figure) ?? [];
  const figure = there(wanted).length > 0 ? wanted : 'wh_per_km';
  const bands = there(figure);
  // What tells something comes before what waits for another season.
  const first = bands.find((band) => band.verdict !== 'too_few') ?? bands[0];
  return (
    <Page
      name="Seasons"
      title={
        first ? (
          <>
            {name}. <Strong text={first.said.message} />
          </>
        ) : (
          `${name}: how much does cold cost?`
        )
      }
    >
      <CompareTabs />
      {choose}
      {!seasons && <Waiting rows={4} height={80} />}
      {seasons && bands.length === 0 && (
        <>
          <p>
            None of its tests gives both a speed and an air temperature. Add the temperature to a
            test’s sheet, or ride one test in warm air and one in cold.
          </p>
          <Group>
            <Button component={Link} to={`/logbook?vehicle=${encodeURIComponent(name)}`}>
              Its tests
            </Button>
            <Button component={Link} to="/plan/new">
              Plan a test
            </Button>
          </Group>
        </>
      )}
      {there('range_to_cutoff').length > 0 && there('wh_per_km').length > 0 && (
        <SegmentedControl
          mt="md"
          aria-label="Which figure"
          data={[
            { value: 'range_to_cutoff', label: 'Range' },
            { value: 'wh_per_km', label: 'Consumption' },
          ]}
          value={figure}
          onChange={(value) => setWanted(value as Figure)}
        />
      )}
      {bands.map((band) => (
        <OneSpeed key={`${band.quantity} ${band.from_mps}`} band={band} units={units} />
      ))}
      <Notices notices={seasons?.warnings ?? []} />
      {seasons && seasons.unlike.length > 0 && (
        <p>
          Left out, because they were ridden too differently from the others at their speed:{' '}
          {seasons.unlike.join(', ')}. Ride the same way in both.
        </p>
      )}
      {seasons && seasons.left_out > 0 && (
        <p>
          {seasons.left_out === 1 ? 'One test is' : `${seasons.left_out} tests are`} left out:
          pedalled, or without a speed or a temperature.
        </p>
      )}
    </Page>
  );
}

const CAUSES: Record<Band['parts'][number]['name'], string> = {
  air: 'denser air',
  pack: 'the pack gives less',
  tyres: 'stiffer tyres',
  left: 'not explained: heating, clothing, slower legs, chance',
};

function OneSpeed({ band, units }: { band: Band; units: Units }) {
  const shown = { quantity: band.quantity };
  const unit = units.temperature;
  const degrees = (celsius: number) => (unit === '°F' ? (celsius * 9) / 5 + 32 : celsius);
  const from = number(speed(band.from_mps, units), 0);
  const to = number(speed(band.to_mps, units), 0);
  const name = `At ${from === to ? from : `${from} to ${to}`} ${speedUnit(units)}`;
  return (
    <section className={parts.section} aria-label={name}>
      <h2>{name}</h2>
      <p>
        <Strong text={band.said.message} />
      </p>
      {band.points.length > 1 && (
        <LifeChart
          what={`${band.quantity === 'wh_per_km' ? 'Consumption' : 'Range to cut-off'}, ${unitOf(shown, units)}`}
          along={`air, ${unit}`}
          dots={band.points.map(({ temp_c, run }) => ({
            key: run.key,
            title: run.title,
            x: degrees(temp_c),
            quantity: shownIn(run.carried, band, units),
          }))}
          trend={lineOf(band, degrees, units)}
          text={(value) => number(value, 1)}
        />
      )}
      {band.parts.length > 0 && <Causes band={band} units={units} />}
      <h2>Test by test</h2>
      <WideTable label={`Tests ${name.toLowerCase()}`}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>test</Table.Th>
            <Table.Th>air</Table.Th>
            <Table.Th>as ridden</Table.Th>
            <Table.Th>all else equal</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {band.points.map(({ temp_c, run }) => (
            <Table.Tr key={run.key}>
              <Table.Td className={parts.words}>
                <Link to={`/tests/${run.key}`}>{run.title}</Link>
              </Table.Td>
              <Table.Td>{temperatureText(temp_c, units)}</Table.Td>
              <Table.Td>{figureText(run.as_found.value, shown, units)}</Table.Td>
              <Table.Td>
                {figureText(run.carried.value, shown, units)} (
                {figureText(run.carried.low, shown, units)} to{' '}
                {figureText(run.carried.high, shown, units)})
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
    </section>
  );
}

/** How much of it is what, by the models, and what is left over. */
function Causes({ band, units }: { band: Band; units: Units }) {
  const step = units.temperature === '°F' ? '18 °F' : '10 °C';
  const signed = (share: number) =>
    Math.abs(share) < 0.005 ? percent(0) : `${share > 0 ? '+' : '−'}${percent(Math.abs(share))}`;
  return (
    <>
      <h2>What the models explain</h2>
      <WideTable label="How much is what">
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>for {step} colder</Table.Th>
            <Table.Th>changes it by</Table.Th>
            <Table.Th>95% range</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {band.parts.map(({ name, change }) => (
            <Table.Tr key={name}>
              <Table.Th className={parts.words} scope="row">
                {CAUSES[name]}
              </Table.Th>
              <Table.Td>{signed(change.value)}</Table.Td>
              <Table.Td>
                {signed(change.low)} to {signed(change.high)}
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
    </>
  );
}

/** A figure as it is read, so that a scale has round numbers of the reader's own unit. */
function shownIn(quantity: Quantity, { quantity: figure }: Band, units: Units): Quantity {
  const told = (value: number) => figureOf(value, { quantity: figure }, units);
  return {
    ...quantity,
    value: told(quantity.value),
    low: told(quantity.low),
    high: told(quantity.high),
  };
}

function lineOf(band: Band, degrees: (celsius: number) => number, units: Units) {
  if (band.at.length === 0) return null;
  const line = band.at.map(({ figure }) => shownIn(figure, band, units));
  return {
    x: band.at.map(({ temp_c }) => degrees(temp_c)),
    value: line.map(({ value }) => value),
    low: line.map(({ low }) => low),
    high: line.map(({ high }) => high),
  };
}
