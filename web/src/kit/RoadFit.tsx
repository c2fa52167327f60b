import { Button, Group, Text } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import { TESTS_KEY, type Vehicle, vehiclesQuery } from '../api/queries';
import { inputText } from '../format/inputs';
import { withUnit } from '../format/number';
import { useUnits } from '../format/useUnits';
import { INPUT_WORDS } from '../format/words';
import classes from './Kit.module.css';
import { NamedTests } from './NamedTests';

interface RoadFitProps {
  /** As the rest of its page has it, so that all of the page changes at once and nothing moves under a finger. */
  vehicle: Vehicle;
  /** Ids of its tests by their titles. */
  keys: Record<string, string>;
}

/** What a vehicle's own tests say of its rolling, air, drive and auxiliary power. */
export function RoadFit({ vehicle, keys }: RoadFitProps) {
  const units = useUnits();
  const queryClient = useQueryClient();
  const params = { path: { item_id: vehicle.id } };
  const onSuccess = () =>
    Promise.all([
      queryClient.invalidateQueries({ queryKey: vehiclesQuery.queryKey }),
      queryClient.invalidateQueries({ queryKey: TESTS_KEY }),
    ]);
  const find = useMutation({
    mutationFn: async () => unwrap(await api.PUT('/api/vehicles/{item_id}/fit', { params })),
    onSuccess,
  });
  const forget = useMutation({
    mutationFn: async () => unwrap(await api.DELETE('/api/vehicles/{item_id}/fit', { params })),
    onSuccess,
  });
  const error = find.error ?? forget.error;
  const { fit } = vehicle;
  const fitted = (name: string, index: number) => {
    const { value, spread, unit } = inputText(
      {
        name,
        value: fit?.values[index] ?? 0,
        standard_uncertainty: 2 * (fit?.standard_uncertainties[index] ?? 0),
      },
      units,
    );
    return withUnit(`${value} ±${spread}`, unit);
  };
  return (
    <div className={classes.fit}>
      {fit ? (
        <>
          <p>
            {fit.statement} From <NamedTests titles={fit.tests} keys={keys} />.
          </p>
          <ul>
            {fit.names.map((name, index) => (
              <li key={name}>
                {INPUT_WORDS[name] ?? name}: {fitted(name, index)}
              </li>
            ))}
          </ul>
          {fit.left_out.length > 0 && <p>Left out: {fit.left_out.join('; ')}.</p>}
        </>
      ) : vehicle.learns ? (
        <p>
          Not known yet. Forecasts use similar rides or start values, with a wide band. One ride
          with logged volts, amps and speed is enough to find it.
        </p>
      ) : (
        <p>
          Learning is off: forecasts use start values for its kind, and results use assumptions for
          gauge, trip meter and pack.
        </p>
      )}
      {vehicle.fit_trouble && (
        <p role="status">
          {vehicle.fit_trouble} Limpet will try again by itself; what it has stays.
        </p>
      )}
      <Group>
        <Button size="compact-sm" onClick={() => find.mutate()} loading={find.isPending}>
          {fit ? 'Find again' : vehicle.learns ? 'Find from its tests' : 'Learn from its tests'}
        </Button>
        {vehicle.learns && (
          <Button
            size="compact-sm"
            variant="default"
            onClick={() => forget.mutate()}
            loading={forget.isPending}
          >
            Learn nothing from them
          </Button>
        )}
      </Group>
      {error && (
        <Text role="alert" c="var(--buoy)" size="sm">
          {error.message}
        </Text>
      )}
    </div>
  );
}
