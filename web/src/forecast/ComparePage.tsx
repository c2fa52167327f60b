import { Button, MultiSelect, Stack, Table } from '@mantine/core';
import { useQueries, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { type Forecast, forecastQuery, type TripIn, tripsQuery, type Units } from '../api/queries';
import {
  chance,
  consumptionText,
  distanceText,
  elapsed,
  percent,
  temperatureText,
} from '../format/units';
import { useUnits } from '../format/useUnits';
import { bandOf } from '../tideline/band';
import { ForecastStrip } from '../trip/ForecastStrip';
import { type Kit, useKit } from '../trip/useKit';
import { Page, Trouble, Waiting } from '../ui/Page';
import parts from '../ui/Parts.module.css';
import { say } from '../words/en/forecast.ftl';
import { Shown } from '../words/Shown';
import { type KeptTrip, MOST_COMPARED } from './KeptTrips';

/** Saved trips side by side, each forecast as of now. */
export function ComparePage() {
  const [query] = useSearchParams();
  const ids = (query.get('trips') ?? '').split(',');
  const { kit, error } = useKit();
  const trips = useQuery(tripsQuery);
  const trouble = error ?? trips.error;
  if (trouble) return <Trouble whole error={trouble} onRetry={() => trips.refetch()} />;
  if (kit === null || trips.data === undefined) return <Waiting rows={4} height={60} />;
  const chosen = ids.flatMap((id) => trips.data.find((trip) => trip.id === id) ?? []);
  return (
    <Page
      name={say('compare-trips')}
      title={
        <>
          {chosen.length < 2 ? (
            <b>{say('which-trips')}</b>
          ) : (
            <Shown
              say={say}
              id="trips-side-by-side"
              values={{ count: chosen.length }}
              parts={{ b: <b /> }}
            />
          )}
        </>
      }
      actions={
        <Button component={Link} to="/forecast">
          {say('to-the-forecast')}
        </Button>
      }
    >
      {chosen.length < 2 ? (
        <Choosing trips={trips.data} chosen={chosen.map(({ id }) => id)} />
      ) : (
        <Compared trips={chosen.slice(0, MOST_COMPARED)} kit={kit} />
      )}
    </Page>
  );
}

interface ChoosingProps {
  trips: readonly KeptTrip[];
  chosen: readonly string[];
}

/** Which of the saved trips; where there are too few, how there come to be more. */
function Choosing({ trips, chosen }: ChoosingProps) {
  const [wanted, setWanted] = useState<string[]>([...chosen]);
  const navigate = useNavigate();
  if (trips.length < 2) {
    return <p>{say('forecast-a-trip-then-save', { count: trips.length })}</p>;
  }
  return (
    <Stack maw={460}>
      <MultiSelect
        label={say('saved-trips')}
        description={say('two-to-of-them', { most_compared: MOST_COMPARED })}
        data={trips.map(({ id, name }) => ({ value: id, label: name }))}
        value={wanted}
        onChange={setWanted}
        maxValues={MOST_COMPARED}
        searchable
      />
      <Button
        variant="filled"
        disabled={wanted.length < 2}
        onClick={() => navigate(`/forecast/compare?trips=${wanted.join(',')}`)}
      >
        {say('compare')}
      </Button>
    </Stack>
  );
}

interface Row {
  label: string;
  text: (forecast: Forecast, units: Units) => string;
}

const ROWS: Row[] = [
  { label: say('chance-to-arrive'), text: ({ route }) => chance(route.arrives_probability) },
  {
    label: say('left-at-the-end'),
    text: ({ route: { energy_left_fraction: left } }) =>
      say('left-low-to-high', {
        left: percent(left.value),
        low: percent(left.low),
        high: percent(left.high),
      }),
  },
  {
    label: say('range-to-the-reserve'),
    text: ({ range_to_reserve: range }, units) =>
      say('range-low-to-high', {
        range: distanceText(range.value, units),
        low: distanceText(range.low, units),
        high: distanceText(range.high, units),
      }),
  },
  {
    label: 'consumption',
    text: ({ consumption: { wh_per_km: used } }, units) =>
      `${consumptionText(used.value, units)} ±${consumptionText(2 * used.standard_uncertainty, units)}`,
  },
  { label: say('time'), text: ({ route }) => elapsed(route.duration_s.value) },
  { label: say('route-length'), text: ({ route }, units) => distanceText(route.distance_m, units) },
];

function Compared({ trips, kit }: { trips: KeptTrip[]; kit: Kit }) {
  const units = useUnits();
  const answers = useQueries({
    queries: trips.map((trip) => {
      const asked = trip.asked as TripIn;
      return { ...forecastQuery({ ...asked, quick: false }), placeholderData: undefined };
    }),
  });
  const reach = Math.max(
    ...answers.map(({ data }) => (data ? (bandOf(data)?.distance_m.at(-1) ?? 0) : 0)),
    1,
  );
  const named = (items: ReadonlyArray<{ id: string; name: string }>, id: unknown) =>
    items.find((item) => item.id === id)?.name ?? say('not-in-the-kit-any');
  const about: Array<[string, (trip: KeptTrip) => string]> = [
    ['vehicle', ({ asked }) => named(kit.vehicles, asked.vehicle_id)],
    ['pack', ({ asked }) => named(kit.packs, asked.pack_id)],
    [
      say('route'),
      ({ asked }) => (asked.route_id ? named(kit.routes, asked.route_id) : say('sketched')),
    ],
    [
      say('air'),
      ({ asked }) =>
        asked.temp_c == null ? say('not-noted') : temperatureText(Number(asked.temp_c), units),
    ],
  ];
  return (
    <>
      <div className={parts.table}>
        <Table>
          <Table.Thead>
            <Table.Tr>
              <Table.Th className={parts.words}>
                <span className="visually-hidden">{say('what')}</span>
              </Table.Th>
              {trips.map((trip) => (
                <Table.Th key={trip.id} className={parts.words} scope="col">
                  <Link to={`/forecast/${trip.id}`}>{trip.name}</Link>
                </Table.Th>
              ))}
            </Table.Tr>
          </Table.Thead>
          <Table.Tbody>
            {about.map(([label, text]) => (
              <Table.Tr key={label}>
                <Table.Th className={parts.words} scope="row">
                  {label}
                </Table.Th>
                {trips.map((trip) => (
                  <Table.Td key={trip.id} className={parts.words}>
                    {text(trip)}
                  </Table.Td>
                ))}
              </Table.Tr>
            ))}
            {ROWS.map((row) => (
              <Table.Tr key={row.label}>
                <Table.Th className={parts.words} scope="row">
                  {row.label}
                </Table.Th>
                {answers.map((answer, index) => (
                  <Table.Td key={trips[index]?.id} className={parts.words}>
                    {answer.data
                      ? row.text(answer.data, units)
                      : (answer.error?.message ?? say('being-worked-out'))}
                  </Table.Td>
                ))}
              </Table.Tr>
            ))}
          </Table.Tbody>
        </Table>
      </div>
      <p className={parts.note}>{say('each-is-forecast-as-of')}</p>
      {answers.map(
        (answer, index) =>
          answer.data && (
            <section
              key={trips[index]?.id}
              className={parts.section}
              aria-label={trips[index]?.name}
            >
              <h2>{trips[index]?.name}</h2>
              <ForecastStrip forecast={answer.data} units={units} lengthM={1.04 * reach} />
            </section>
          ),
      )}
    </>
  );
}
