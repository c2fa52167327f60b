import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { Trouble, Waiting } from '../ui/Page';
import { newestQuery } from './newest';
import { addressOf, dealt, type Sides } from './sides';

/** Tests chosen in the logbook are dealt to two sides, and the address says so. */
export function Dealing({ ids }: { ids: string[] }) {
  const navigate = useNavigate();
  const tests = useQuery(newestQuery);
  useEffect(() => {
    if (!tests.data) return;
    const rows = ids.flatMap((id) => tests.data.items.find((test) => test.id === id) ?? []);
    // What is older than the newest hundred is asked for by its id alone.
    const missing = ids.filter((id) => !rows.some((row) => row.id === id));
    const { first, second } = dealt(rows);
    const sides = first.length ? { first, second: [...second, ...missing] } : halves(missing);
    navigate(addressOf(sides, null), { replace: true });
  }, [tests.data, ids, navigate]);
  if (tests.error) return <Trouble whole error={tests.error} onRetry={() => tests.refetch()} />;
  return <Waiting rows={4} height={60} />;
}

const halves = ([one, ...others]: string[]): Sides => ({
  first: one === undefined ? [] : [one],
  second: others,
});
