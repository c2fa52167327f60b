import { Text } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { type SavedTest, testsSavedHere } from '../api/keeping';
import { say } from '../words/en/roadside.ftl';
import { type RideHere, ridesHere } from './kept';

/** So many of each are listed. */
const MOST_LISTED = 8;

/** What this device can open without a signal: its rides, and the tests that were looked at last. */
export function SavedHere() {
  const saved = useQuery({
    queryKey: [say('saved-here')],
    queryFn: async () => {
      const [rides, tests] = await Promise.all([ridesHere(), testsSavedHere()]);
      return { rides, tests };
    },
    retry: false,
    gcTime: 0,
  }).data;
  if (!saved) return null;
  const rows = rowsOf(saved.rides, saved.tests);
  if (rows.length === 0) return <Text>{say('nothing-is-saved-on-this')}</Text>;
  return (
    <nav aria-label={say('saved-on-this-device')}>
      <Text fw={600}>{say('saved-on-this-device')}</Text>
      <ul style={{ margin: '0.4rem 0 0', paddingLeft: '1.2rem' }}>
        {rows.map((row) => (
          <li key={row.path} style={{ padding: '0.35rem 0' }}>
            <Link to={row.path}>{row.words}</Link>
          </li>
        ))}
      </ul>
    </nav>
  );
}

function rowsOf(rides: readonly RideHere[], tests: readonly SavedTest[]) {
  const under = rides.filter((ride) => !ride.ended).slice(0, MOST_LISTED);
  return [
    ...under.map((ride) => ({
      path: `/ride/${ride.id}`,
      words: say('title-under-way', { title: ride.title }),
    })),
    ...tests
      .filter((test) => !under.some((ride) => ride.id === test.id))
      .slice(0, MOST_LISTED)
      .map((test) => ({ path: `/tests/${test.id}`, words: test.title })),
  ];
}
