import { Button } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, unwrap } from '../api/client';
import { TESTS_KEY } from '../api/queries';
import { MOST_COMPARED } from '../compare/most';
import { sayRemoved } from '../ui/notes';
import { Refusal } from '../ui/Refusal';
import { say } from '../words/en/logbook.ftl';
import classes from './Logbook.module.css';

interface SelectionProps {
  chosen: ReadonlySet<string>;
  onClear: () => void;
}

/** Tests that are removed or exported together; the server takes no more. */
export const MOST_AT_ONCE = 100;

/** What can be done with the tests that are chosen. */
export function Selection({ chosen, onClear }: SelectionProps) {
  const queryClient = useQueryClient();
  const refresh = () => queryClient.invalidateQueries({ queryKey: TESTS_KEY });
  const ids = [...chosen];
  const remove = useMutation({
    mutationFn: async () => unwrap(await api.POST('/api/tests/remove', { body: { ids } })),
    onSuccess: async () => {
      onClear();
      await refresh();
      const what = ids.length === 1 ? say('one-test') : say('count-tests', { count: ids.length });
      sayRemoved(what, async () => {
        unwrap(await api.POST('/api/tests/restore', { body: { ids } }));
        await refresh();
      });
    },
  });
  if (ids.length === 0) return null;
  const query = ids.map((id) => `ids=${id}`).join('&');
  return (
    <section className={classes.selection} aria-label={say('chosen-tests')}>
      <span role="status">
        {say('count-chosen', {
          count: ids.length,
          most: ids.length === MOST_AT_ONCE && say('the-most-at-once'),
        })}
      </span>
      {ids.length > 1 && ids.length <= MOST_COMPARED && (
        <Button component={Link} size="xs" to={`/compare?tests=${ids.join(',')}`}>
          {say('compare')}
        </Button>
      )}
      <Button component="a" size="xs" href={`/api/tests/bundles.zip?${query}`}>
        {say('export')}
      </Button>
      <Button size="xs" onClick={() => remove.mutate()} loading={remove.isPending}>
        {say('remove')}
      </Button>
      <Button size="xs" variant="subtle" onClick={onClear}>
        {say('clear-the-choice')}
      </Button>
      <Refusal error={remove.error} />
    </section>
  );
}
