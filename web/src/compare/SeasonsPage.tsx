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
import { say } from '../words/en/compare.ftl';
import { Shown } from '../words/Shown';
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
      <Page name={say('seasons')} title={say('how-much-does-cold-cost')}>
        <CompareTabs />
        <p>
          <Shown say={say} id="there-is-no-vehicle-yet" parts={{ a: <Link to="/kit" /> }} />
        </p>
      </Page>
    );
  }
  const choose = (
    <Select
      label={say('the-vehicle')}
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
      name={say('seasons')}
      title={
        first ? (
          <>
            {name}. <Strong text={first.said.message} />
          </>
        ) : (
          say('how-much-does-cold-cost-vehicle', { name })
        )
      }
    >
      <CompareTabs />
      {choose}
      {!seasons && <Waiting rows={4} height={80} />}
      {seasons && bands.length === 0 && (
        <>
          <p>{say('none-of-its-tests-gives')}</p>
          <Group>
            <Button component={Link} to={`/logbook?vehicle=${encodeURIComponent(name)}`}>
              {say('its-tests')}
            </Button>
            <Button component={Link} to="/plan/new">
              {say('plan-a-test')}
            </Button>
          </Group>
        </>
      )}
      {there('range_to_cutoff').length > 0 && there('wh_per_km').length > 0 && (
        <SegmentedControl
          mt="md"
          aria-label={say('which-figure')}
          data={[
            { value: 'range_to_cutoff', label: say('range') },
            { value: 'wh_per_km', label: say('consumption-title') },
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
        <p>{say('left-out-because-they-were', { unlike: seasons.unlike.join(', ') })}</p>
      )}
      {seasons && seasons.left_out > 0 && (
        <p>{say('left-out-pedalled-or-without', { left_out: seasons.left_out })}</p>
      )}
    </Page>
  );
}

const CAUSES: Record<Band['parts'][number]['name'], string> = {
  air: say('denser-air'),
  pack: say('the-pack-gives-less'),
  tyres: say('stiffer-tyres'),
  left: say('not-explained-heating-clothing'),
};

function OneSpeed({ band, units }: { band: Band; units: Units }) {
  const shown = { quantity: band.quantity };
  const unit = units.temperature;
  const degrees = (celsius: number) => (unit === '°F' ? (celsius * 9) / 5 + 32 : celsius);
  const from = number(speed(band.from_mps, units), 0);
  const to = number(speed(band.to_mps, units), 0);
  const name = say('at-from-speed-unit', {
    from: from === to ? from : say('from-to-to', { from, to }),
    speed_unit: speedUnit(units),
  });
  return (
    <section className={parts.section} aria-label={name}>
      <h2>{name}</h2>
      <p>
        <Strong text={band.said.message} />
      </p>
      {band.points.length > 1 && (
        <LifeChart
          what={`${band.quantity === 'wh_per_km' ? say('consumption-title') : say('range-to-cut-off')}, ${unitOf(shown, units)}`}
          along={say('air-unit', { unit })}
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
      <h2>{say('test-by-test')}</h2>
      <WideTable label={say('tests-name', { name: name.toLowerCase() })}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>{say('test')}</Table.Th>
            <Table.Th>{say('air')}</Table.Th>
            <Table.Th>{say('as-ridden')}</Table.Th>
            <Table.Th>{say('all-else-equal')}</Table.Th>
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
                {say('figure-low-to-high', {
                  value: figureText(run.carried.value, shown, units),
                  low: figureText(run.carried.low, shown, units),
                  high: figureText(run.carried.high, shown, units),
                })}
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
      <h2>{say('what-the-models-explain')}</h2>
      <WideTable label={say('how-much-is-what')}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>{say('for-step-colder', { step })}</Table.Th>
            <Table.Th>{say('changes-it-by')}</Table.Th>
            <Table.Th>{say('n-95-range')}</Table.Th>
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
                {say('effect-low-to-high', { low: signed(change.low), high: signed(change.high) })}
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
