import { Button, Checkbox, Group } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap } from '../api/client';
import { TESTS_KEY, type Units } from '../api/queries';
import { day } from '../format/units';
import { itemsOf, shownValue } from '../sheet/sheet';
import { sayDone } from '../ui/notes';
import parts from '../ui/Parts.module.css';
import { Refusal } from '../ui/Refusal';
import { say } from '../words/en/kit.ftl';
import type { Copy } from './lives';

interface CopiesOfferProps {
  shelf: 'vehicle' | 'pack' | 'rider';
  itemId: string;
  name: string;
  copies: Copy[];
  units: Units;
  onClose: () => void;
}

/** After kit was corrected: the tests that hold it as it was before, to be corrected with it. */
export function CopiesOffer({ shelf, itemId, name, copies, units, onClose }: CopiesOfferProps) {
  const queryClient = useQueryClient();
  const [chosen, setChosen] = useState<string[]>([]);
  const carry = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.POST('/api/tests/kit/{shelf}/{item_id}', {
          params: { path: { shelf, item_id: itemId } },
          body: { tests: chosen },
        }),
      ),
    onSuccess: async (done) => {
      await queryClient.invalidateQueries({ queryKey: TESTS_KEY });
      const count = done.tests.length;
      sayDone(
        say('corrected-results-follow', {
          count,
          count_2: count === 1 ? say('test-is') : say('tests-are'),
        }),
      );
      onClose();
    },
  });
  const all = copies.length === chosen.length;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        carry.mutate();
      }}
    >
      <p>{say('is-saved-it-as-it', { name, count: copies.length })}</p>
      <Checkbox
        my="sm"
        label={say('all-of-them')}
        checked={all}
        indeterminate={!all && chosen.length > 0}
        onChange={() => setChosen(all ? [] : copies.map((copy) => copy.id))}
      />
      <ul style={{ listStyle: 'none', padding: 0, margin: 0, display: 'grid', gap: 10 }}>
        {copies.map((copy) => (
          <li key={copy.id}>
            <Checkbox
              label={`${copy.title}${copy.started_at ? `, ${day(copy.started_at)}` : ''}`}
              description={copy.differs.map((one) => differenceText(shelf, one, units)).join('; ')}
              checked={chosen.includes(copy.id)}
              onChange={(event) =>
                setChosen(
                  event.currentTarget.checked
                    ? [...chosen, copy.id]
                    : chosen.filter((id) => id !== copy.id),
                )
              }
            />
          </li>
        ))}
      </ul>
      <Refusal error={carry.error} />
      <p className={parts.note} style={{ marginTop: 14 }}>
        {say('tests-you-leave-out-stay')}
      </p>
      <Group justify="flex-end" mt="md">
        <Button variant="default" onClick={onClose}>
          {say('leave-them-as-they-are')}
        </Button>
        <Button
          type="submit"
          variant="filled"
          disabled={chosen.length === 0}
          loading={carry.isPending}
        >
          {say('correct-count', { count: chosen.length === 0 ? say('them') : chosen.length })}
        </Button>
      </Group>
    </form>
  );
}

function differenceText(
  shelf: CopiesOfferProps['shelf'],
  one: Copy['differs'][number],
  units: Units,
): string {
  const item = itemsOf(shelf).find((field) => field.name === one.field);
  const text = (value: unknown) => (item && shownValue(item, value, units)) || say('not-noted');
  return `${one.label}: ${text(one.was)} → ${text(one.now)}`;
}
