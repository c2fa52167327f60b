import { Button, Group, Text } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import { TESTS_KEY, type Vehicle, vehiclesQuery } from '../api/queries';
import { inputText } from '../format/inputs';
import { withUnit } from '../format/number';
import { useUnits } from '../format/useUnits';
import { INPUT_WORDS } from '../format/words';
import { say } from '../words/en/kit.ftl';
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
            {say('statement-from', { statement: fit.statement })}{' '}
            <NamedTests titles={fit.tests} keys={keys} />.
          </p>
          <ul>
            {fit.names.map((name, index) => (
              <li key={name}>
                {INPUT_WORDS[name] ?? name}: {fitted(name, index)}
              </li>
            ))}
          </ul>
          {fit.left_out.length > 0 && (
            <p>{say('left-out-left-out', { left_out: fit.left_out.join('; ') })}</p>
          )}
        </>
      ) : vehicle.learns ? (
        <p>{say('not-known-yet-forecasts-use')}</p>
      ) : (
        <p>{say('learning-is-off-forecasts-use')}</p>
      )}
      {vehicle.fit_trouble && (
        <p role="status">{say('limpet-will-try-again-by', { fit_trouble: vehicle.fit_trouble })}</p>
      )}
      <Group>
        <Button size="compact-sm" onClick={() => find.mutate()} loading={find.isPending}>
          {fit
            ? say('find-again')
            : vehicle.learns
              ? say('find-from-its-tests')
              : say('learn-from-its-tests')}
        </Button>
        {vehicle.learns && (
          <Button
            size="compact-sm"
            variant="default"
            onClick={() => forget.mutate()}
            loading={forget.isPending}
          >
            {say('learn-nothing-from-them')}
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
