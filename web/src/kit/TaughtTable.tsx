import { Switch, Table } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, type Schemas, unwrap } from '../api/client';
import { TESTS_KEY, type Units, type Vehicle, vehiclesQuery } from '../api/queries';
import { number } from '../format/number';
import { consumptionText } from '../format/units';
import { INPUT_WORDS } from '../format/words';
import parts from '../ui/Parts.module.css';
import { Refusal } from '../ui/Refusal';
import { say } from '../words/en/kit.ftl';
import { NamedTests } from './NamedTests';

type Taught = Schemas['TaughtOut'];

interface TaughtTableProps {
  vehicle: Vehicle;
  taught: Taught[];
  keys: Record<string, string>;
  units: Units;
}

const LESSONS: Record<string, string> = {
  trip: say('trip-meter-shown-true'),
  odometer: say('odometer-shown-true'),
  gauge_bend: say('gauge-linearity-1-linear'),
  gauge_bottom: say('left-in-the-pack-when'),
  came_of_shown: say('range-that-came-range-it'),
  consumption_wh_per_m: say('consumption-of-the-next-such'),
  run_to_run: say('variation-from-ride-to-ride'),
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
    <section className={parts.section} aria-label={say('what-its-tests-taught')}>
      <h2>{say('what-its-tests-taught')}</h2>
      {rows.length === 0 ? (
        <p>{say('nothing-yet-a-trip-meter')}</p>
      ) : (
        <>
          {!vehicle.learns && <p>{say('not-used-learning-is-off')}</p>}
          <div className={parts.table}>
            <Table>
              <Table.Thead>
                <Table.Tr>
                  <Table.Th className={parts.words}>{say('number')}</Table.Th>
                  <Table.Th>{say('value')}</Table.Th>
                  <Table.Th className={parts.words}>{say('from')}</Table.Th>
                  <Table.Th className={parts.words}>{say('used')}</Table.Th>
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
                          aria-label={say('use-lessons', {
                            lessons: LESSONS[item.name] ?? INPUT_WORDS[item.name] ?? item.name,
                          })}
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
          <p className={parts.note}>{say('switched-off-results-and-forecasts')}</p>
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
