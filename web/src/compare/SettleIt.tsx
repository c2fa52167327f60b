import { Button } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap } from '../api/client';
import { type Comparison, plansQuery } from '../api/queries';
import { Series } from '../plan/Series';
import { Refusal } from '../ui/Refusal';
import { say } from '../words/en/compare.ftl';
import classes from './Compare.module.css';
import type { Sides } from './sides';

interface SettleItProps {
  comparison: Comparison;
  sides: Sides;
}

/** The rides that would settle it, planned with one key, and their calendar with another. */
export function SettleIt({ comparison, sides }: SettleItProps) {
  const queryClient = useQueryClient();
  // One series of this page, however often its key is pressed.
  const [seriesId] = useState(() => crypto.randomUUID());
  const runs = comparison.settle_runs;
  const settle = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.PUT('/api/plans/series/{series_id}', {
          params: { path: { series_id: seriesId } },
          body: { ...sides, question: comparison.question, runs: runs ?? 1 },
        }),
      ),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: plansQuery.queryKey }),
  });
  if (!runs || comparison.verdict !== 'no_difference_shown') return null;
  if (settle.data) return <Series series={settle.data} />;
  return (
    <div className={classes.settle}>
      <Button variant="filled" loading={settle.isPending} onClick={() => settle.mutate()}>
        {say('settle-it-of-each', { runs })}
      </Button>
      {settle.error && <Refusal error={settle.error} />}
    </div>
  );
}
