import { Checkbox, Text } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap } from '../api/client';
import { type Plan, planQuery } from '../api/queries';
import { say } from '../words/en/plan.ftl';

/** A checklist that remembers. */
export function BeforeYouGo({ plan, checklist: items }: { plan: Plan; checklist: string[] }) {
  const queryClient = useQueryClient();
  const tick = useMutation({
    mutationFn: async (ticked: string[]) =>
      unwrap(
        await api.PUT('/api/plans/{plan_id}/checklist', {
          params: { path: { plan_id: plan.id } },
          body: { ticked },
        }),
      ),
    onSuccess: (stored) => queryClient.setQueryData(planQuery(plan.id).queryKey, stored),
    onError: () => setTicked(plan.ticked),
  });
  // What was just tapped shows at once, in the same frame; the server's answer follows.
  const [ticked, setTicked] = useState(plan.ticked);
  const change = (wanted: string[]) => {
    setTicked(wanted);
    tick.mutate(wanted);
  };
  return (
    <section aria-label={say('before-you-go')}>
      <h2>{say('before-you-go-of-done', { done: ticked.length, all: items.length })}</h2>
      <div style={{ display: 'grid', gap: 6 }}>
        {items.map((item) => (
          <Checkbox
            key={item}
            label={item}
            checked={ticked.includes(item)}
            onChange={(event) =>
              change(
                event.currentTarget.checked
                  ? [...ticked, item]
                  : ticked.filter((other) => other !== item),
              )
            }
          />
        ))}
      </div>
      {tick.error && (
        <Text role="alert" c="var(--buoy)" size="sm">
          {tick.error.message}
        </Text>
      )}
    </section>
  );
}
