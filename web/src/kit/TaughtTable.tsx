import { Switch, Table } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, type Schemas, unwrap } from '../api/client';
import { TESTS_KEY, type Units, type Vehicle, vehiclesQuery } from '../api/queries';
import { number } from '../format/number';
import { consumptionText } from '../format/units';
import { INPUT_WORDS } from '../format/words';
import parts from '../ui/Parts.module.css';
import { Refusal } from '../ui/Refusal';
import { NamedTests } from './NamedTests';

type Taught = Schemas['TaughtOut'];

interface TaughtTableProps {
  vehicle: Vehicle;
  taught: Taught[];
  keys: Record<string, string>;
  units: Units;
}

const LESSONS: Record<string, string> = {
  trip: 'Trip meter: shown ÷ true',
  odometer: 'Odometer: shown ÷ true',
  gauge_bend: 'Gauge linearity (1 = linear)',
  gauge_bottom: 'Left in the pack when the gauge shows empty',
  came_of_shown: 'Range that came ÷ range it showed',
  consumption_wh_per_m: 'Consumption of the next such ride',
  run_to_run: 'Variation from ride to ride',
};

/** Numbers that are shares of something, and read in percent. */
const SHARES = new Set(['gauge_bottom', 'run_to_run']);

/** What its tests taught of its instruments and its use: each with where it is from, on or off. */
export function TaughtTable({ vehicle, taught, keys, units }: TaughtTableProps) {
  const queryClient = useQueryClient();
  const store = useMutation({
    mutationFn: async (leftAside: string[]) =>
      unwrap(
        await api.PUT('/api/vehicles/{item_id}/lessons', {
          params: { path: { item_id: vehicle.id } },
          body: { left_aside: leftAside },
        }),
      ),
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: vehiclesQuery.queryKey });
      await queryClient.invalidateQueries({ queryKey: TESTS_KEY });
    },
  });
  const aside = store.isPending ? store.variables : vehicle.left_aside;
  const rows = taught.map((item, index) => ({
    ...item,
    // One switch for what is learned together.
    leads: taught.findIndex((other) => other.lesson === item.lesson) === index,
  }));
  return (
    <section className={parts.section} aria-label="What its tests taught">
      <h2>What its tests taught</h2>
      {rows.length === 0 ? (
        <p>
          Nothing yet. A trip meter is learned when a ride also has a GPS distance or laps; a gauge
          when amp-hours are read beside it.
        </p>
      ) : (
        <>
          {!vehicle.learns && <p>Not used: learning is off, see below.</p>}
          <div className={parts.table}>
            <Table>
              <Table.Thead>
                <Table.Tr>
                  <Table.Th className={parts.words}>number</Table.Th>
                  <Table.Th>value</Table.Th>
                  <Table.Th className={parts.words}>from</Table.Th>
                  <Table.Th className={parts.words}>used</Table.Th>
                </Table.Tr>
              </Table.Thead>
              <Table.Tbody>
                {rows.map((item) => (
                  <Table.Tr key={`${item.name} ${item.of}`}>
                    <Table.Td className={parts.words}>
                      {LESSONS[item.name] ?? INPUT_WORDS[item.name] ?? item.name}
                      {item.of && <span className={parts.note}> {item.of}</span>}
                    </Table.Td>
                    <Table.Td>{valueText(item, units)}</Table.Td>
                    <Table.Td className={parts.words}>
                      <NamedTests titles={item.tests} keys={keys} />
                    </Table.Td>
                    <Table.Td className={parts.words}>
                      {item.leads && (
                        <Switch
                          size="xs"
                          aria-label={`Use: ${LESSONS[item.name] ?? INPUT_WORDS[item.name] ?? item.name}`}
                          checked={vehicle.learns && !aside.includes(item.lesson)}
                          disabled={!vehicle.learns || store.isPending}
                          onChange={(event) =>
                            store.mutate(
                              event.currentTarget.checked
                                ? aside.filter((name) => name !== item.lesson)
                                : [...aside, item.lesson],
                            )
                          }
                        />
                      )}
                    </Table.Td>
                  </Table.Tr>
                ))}
              </Table.Tbody>
            </Table>
          </div>
          <p className={parts.note}>
            Switched off, results and forecasts use the assumptions instead.
          </p>
        </>
      )}
      <Refusal error={store.error} />
    </section>
  );
}

function valueText(item: Taught, units: Units): string {
  const { value, standard_uncertainty: std, unit } = item.value;
  if (unit === 'Wh/km')
    return `${consumptionText(value, units)} ±${consumptionText(2 * std, units)}`;
  const share = SHARES.has(item.name);
  const text = (size: number) => (share ? `${number(100 * size, 1)}%` : number(size, 3));
  return std > 0 ? `${text(value)} ±${text(2 * std)}` : text(value);
}
