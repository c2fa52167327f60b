import { Button, Select, Table } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { type Tides, tidesQuery, type Units } from '../api/queries';
import { distance, number, percent, speed, speedUnit, temperatureText } from '../format/units';
import { useUnits } from '../format/useUnits';
import { FirstKit } from '../kit/FirstKit';
import { useAddress } from '../places/useAddress';
import { type Kit, useKit, usualKit } from '../trip/useKit';
import { Page, Trouble, Waiting } from '../ui/Page';
import parts from '../ui/Parts.module.css';
import { WideTable } from '../ui/WideTable';
import { say } from '../words/en/compare.ftl';
import { Shown } from '../words/Shown';
import { CompareTabs } from './CompareTabs';
import classes from './Tides.module.css';

/** How far by speed, air and terrain, for the shelf by the door and for the wallet. */
export function TidesPage() {
  const { kit, error } = useKit();
  if (error) return <Trouble whole error={error} onRetry={() => window.location.reload()} />;
  if (kit === null) return <Waiting rows={4} height={60} />;
  if (kit.vehicles.length === 0 || kit.packs.length === 0) {
    return (
      <Page name={say('tide-table')} title={say('how-far-by-speed-temperature')}>
        <CompareTabs />
        <FirstKit kit={kit} next={say('back-to-the-table')} />
      </Page>
    );
  }
  return <TideTable kit={kit} />;
}

type Shelf = 'vehicle' | 'pack' | 'rider';
type Printed = 'page' | 'card';

function TideTable({ kit }: { kit: Kit }) {
  const units = useUnits();
  const [query, alterQuery] = useAddress();
  const [printed, setPrinted] = useState<Printed>('page');
  const [terrain, setTerrain] = useState('0');
  const usual = usualKit(kit);
  const shelves = { vehicle: kit.vehicles, pack: kit.packs, rider: kit.riders };
  const idOf = (shelf: Shelf) => {
    const wanted = query.get(shelf);
    return shelves[shelf].some((item) => item.id === wanted)
      ? (wanted ?? '')
      : usual[`${shelf}_id`];
  };
  const chosen = { vehicle: idOf('vehicle'), pack: idOf('pack'), rider: idOf('rider') };
  const tides = useQuery(tidesQuery(chosen.vehicle, chosen.pack, chosen.rider));
  const nameOf = (shelf: Shelf) =>
    shelves[shelf].find((item) => item.id === chosen[shelf])?.name ?? '';
  const print = (what: Printed) => {
    setPrinted(what);
    // The page that is printed is the one that is drawn by then.
    requestAnimationFrame(() => requestAnimationFrame(() => window.print()));
  };
  const table = tides.data;
  const card = table?.terrains[Number(terrain)];
  return (
    <Page
      name={say('tide-table')}
      title={
        <Shown
          say={say}
          id="how-far-kit-goes"
          values={{
            vehicle: nameOf('vehicle'),
            pack: nameOf('pack'),
            rider: nameOf('rider') && say('ridden-by-name-of', { name_of: nameOf('rider') }),
          }}
          parts={{ b: <b /> }}
        />
      }
      actions={
        table && (
          <>
            <Button onClick={() => print('card')}>{say('print-the-card')}</Button>
            <Button variant="filled" onClick={() => print('page')}>
              {say('print-the-page')}
            </Button>
          </>
        )
      }
    >
      <div data-printed={printed} className={classes.tides}>
        <div className={classes.choose}>
          <CompareTabs />
          <div className={classes.kit}>
            {(['vehicle', 'pack', 'rider'] as const).map((shelf) => (
              <Select
                key={shelf}
                label={shelf[0]?.toUpperCase() + shelf.slice(1)}
                data={shelves[shelf].map((item) => ({ value: item.id, label: item.name }))}
                value={chosen[shelf] || null}
                onChange={(id) => id && alterQuery((next) => next.set(shelf, id))}
                allowDeselect={false}
                searchable
              />
            ))}
            {table && (
              <Select
                label={say('on-the-card')}
                data={table.terrains.map((item, index) => ({
                  value: String(index),
                  label: item.name,
                }))}
                value={terrain}
                onChange={(value) => value && setTerrain(value)}
                allowDeselect={false}
              />
            )}
          </div>
        </div>
        {tides.error && <Trouble error={tides.error} onRetry={() => tides.refetch()} />}
        {!table && !tides.error && <Waiting rows={3} height={160} />}
        {table && (
          <>
            <div className={classes.page}>
              <p>
                <Shown
                  say={say}
                  id="until-is-left-large-plan"
                  values={{
                    distance: units.distance === 'mi' ? say('miles') : say('kilometres'),
                    reserve: percent(table.reserve),
                  }}
                  parts={{ b: <b /> }}
                />
              </p>
              {table.terrains.map((item, index) => (
                <Terrain key={item.name} table={table} index={index} units={units} />
              ))}
              <Basis table={table} />
            </div>
            {card && (
              <section className={classes.card} aria-label={say('the-card')}>
                <h2>
                  {nameOf('vehicle')}, {nameOf('pack')}: {card.name}
                </h2>
                <CardTable table={table} index={Number(terrain)} units={units} />
                <p>
                  {say('plan-on-this-many-in', {
                    distance: units.distance === 'mi' ? say('miles-small') : 'km',
                    reserve: percent(table.reserve),
                  })}
                </p>
              </section>
            )}
          </>
        )}
      </div>
    </Page>
  );
}

interface TerrainProps {
  table: Tides;
  index: number;
  units: Units;
}

const ABOUT: Record<string, string> = {
  flat: say('flat'),
  rolling: say('rolling'),
  hilly: say('hilly'),
};

function Terrain({ table, index, units }: TerrainProps) {
  const item = table.terrains[index];
  if (!item) return null;
  const far = (cells: number[][][], row: number, column: number) =>
    number(distance(cells[index]?.[row]?.[column] ?? 0, units), 0);
  const climb = units.distance === 'mi' ? item.climb_m_per_km * 5.28 : item.climb_m_per_km;
  const name = ABOUT[item.name] ?? item.name;
  return (
    <section className={parts.section} aria-label={name}>
      <h2>
        {name}: {number(climb, 0)}{' '}
        {units.distance === 'mi' ? say('ft-up-a-mile') : say('m-up-a-kilometre')}
      </h2>
      <WideTable label={say('how-far-item', { item: item.name })}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>{say('air')}</Table.Th>
            {table.speeds_mps.map((at) => (
              <Table.Th key={at}>
                {number(speed(at, units), 0)} {speedUnit(units)}
              </Table.Th>
            ))}
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {table.temps_c.map((temp, row) => (
            <Table.Tr key={temp}>
              <Table.Th className={parts.words} scope="row">
                {temperatureText(temp, units)}
              </Table.Th>
              {table.speeds_mps.map((at, column) => (
                <Table.Td key={at}>
                  <b className={classes.floor}>{far(table.floor_m, row, column)}</b>
                  <span className={classes.rest}>
                    {far(table.typical_m, row, column)} · {far(table.best_m, row, column)}
                  </span>
                </Table.Td>
              ))}
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
    </section>
  );
}

function CardTable({ table, index, units }: TerrainProps) {
  return (
    <Table>
      <Table.Thead>
        <Table.Tr>
          <Table.Th>{speedUnit(units)}</Table.Th>
          {table.speeds_mps.map((at) => (
            <Table.Th key={at}>{number(speed(at, units), 0)}</Table.Th>
          ))}
        </Table.Tr>
      </Table.Thead>
      <Table.Tbody>
        {table.temps_c.map((temp, row) => (
          <Table.Tr key={temp}>
            <Table.Th scope="row">{temperatureText(temp, units)}</Table.Th>
            {table.speeds_mps.map((at, column) => (
              <Table.Td key={at}>
                {number(distance(table.floor_m[index]?.[row]?.[column] ?? 0, units), 0)}
              </Table.Td>
            ))}
          </Table.Tr>
        ))}
      </Table.Tbody>
    </Table>
  );
}

/** What the table rests on: fitted tests, or what is assumed of such vehicles. */
function Basis({ table }: { table: Tides }) {
  return (
    <p>
      <Shown
        say={say}
        id="in-a-usual-wind-forecast"
        values={{
          own_tests:
            table.own_tests.length > 0
              ? say('by-its-own-tests', {
                  own_tests: table.own_tests.slice(0, 6).join(', '),
                  count:
                    table.own_tests.length > 6
                      ? say('and-count-more', { count: table.own_tests.length - 6 })
                      : '',
                })
              : say('no-test-of-this-kit'),
        }}
        parts={{ a: <Link to="/forecast" /> }}
      />
    </p>
  );
}
