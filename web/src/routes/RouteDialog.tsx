import { TextInput } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { api, unwrap } from '../api/client';
import { type Route, routesQuery, type Units } from '../api/queries';
import { Dialog } from '../ui/Dialog';
import { DialogFoot } from '../ui/DialogFoot';
import { sayDone } from '../ui/notes';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { say } from '../words/en/routes.ftl';
import { LegRows } from './LegRows';
import { LoopReadings } from './LoopReadings';
import { BLANK_LEG, type LegText, legBody, legText, readingsOf, readingsText } from './legForm';
import { useRemoveRoute } from './useRemoveRoute';

interface RouteDialogProps {
  kind: 'legs' | 'loop';
  route: Route | null;
  units: Units;
  onClose: () => void;
}

/** Legs of a road, or a lap with the readings of its length. */
export function RouteDialog({ kind, route, units, onClose }: RouteDialogProps) {
  const queryClient = useQueryClient();
  const [id] = useState(() => route?.id ?? crypto.randomUUID());
  const form = useFields(() => ({
    name: route?.name ?? '',
    note: route?.note ?? '',
    legs: route?.legs.map((leg, at) => legText(leg, at, units)) ?? [BLANK_LEG],
    readings: readingsText(route?.readings_m ?? [], units),
  }));
  const { name, note, legs, readings } = form.values;
  const store = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.PUT('/api/routes/{item_id}', {
          params: { path: { item_id: id } },
          body: {
            name: name.trim(),
            kind,
            note,
            legs: (kind === 'loop' ? legs.slice(0, 1) : legs).map((leg) => legBody(leg, units)),
            readings_m: kind === 'loop' ? readingsOf(readings, units) : [],
          },
        }),
      ),
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: async (stored) => {
      await queryClient.invalidateQueries({ queryKey: routesQuery.queryKey });
      sayDone(say('stored-is-saved', { stored: stored.name }));
      onClose();
    },
  });
  const removing = useRemoveRoute(route, onClose);
  return (
    <Dialog
      onClose={onClose}
      title={
        route
          ? say('change-route', { route: route.name })
          : kind === 'loop'
            ? say('measure-a-loop')
            : say('add-a-route')
      }
      size="xl"
    >
      <form
        style={{ display: 'grid', gap: 14 }}
        noValidate
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          store.mutate();
        }}
      >
        <TextInput label={say('name')} {...form.field('name')} withAsterisk />
        <LegRows
          legs={legs}
          units={units}
          errors={form.errors}
          one={kind === 'loop'}
          onChange={(changed) => form.change({ legs: changed })}
        />
        {kind === 'loop' && (
          <LoopReadings
            readings={readings}
            units={units}
            onChange={(changed) => form.change({ readings: changed })}
            onUse={(metres) => form.change({ legs: [lapOf(legs[0] ?? BLANK_LEG, metres)] })}
          />
        )}
        <TextInput label={say('note')} {...form.field('note')} />
        <Refusal error={removing.error ?? store.error} />
        <DialogFoot remove={route ? removing : null} storing={store.isPending} onClose={onClose} />
      </form>
    </Dialog>
  );
}

/** A lap with the length that its readings gave, to the metre. */
function lapOf(leg: LegText, metres: number): LegText {
  return { ...leg, typed: { ...leg.typed, length_m: `${metres.toFixed(0)} m` } };
}
