import { Text, TextInput } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { ApiError, api, unwrap } from '../api/client';
import { type Route, routesQuery, type Units } from '../api/queries';
import { Dialog } from '../ui/Dialog';
import { DialogFoot } from '../ui/DialogFoot';
import { sayDone } from '../ui/notes';
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
  const [name, setName] = useState(route?.name ?? '');
  const [note, setNote] = useState(route?.note ?? '');
  const [legs, setLegs] = useState<LegText[]>(
    () => route?.legs.map((leg, at) => legText(leg, at, units)) ?? [BLANK_LEG],
  );
  const [readings, setReadings] = useState(() => readingsText(route?.readings_m ?? [], units));
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
    onSuccess: async (stored) => {
      await queryClient.invalidateQueries({ queryKey: routesQuery.queryKey });
      sayDone(`${stored.name} is stored.`);
      onClose();
    },
  });
  const removing = useRemoveRoute(route, onClose);
  const errors = store.error instanceof ApiError ? store.error.fields : {};
  const trouble = removing.error ?? store.error;
  return (
    <Dialog
      onClose={onClose}
      title={route ? `Change ${route.name}` : kind === 'loop' ? 'Measure a loop' : 'Add a route'}
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
        <TextInput
          label="Name"
          value={name}
          onChange={(event) => setName(event.currentTarget.value)}
          error={errors.name}
          withAsterisk
        />
        <LegRows
          legs={legs}
          units={units}
          errors={errors}
          one={kind === 'loop'}
          onChange={setLegs}
        />
        {kind === 'loop' && (
          <LoopReadings
            readings={readings}
            units={units}
            onChange={setReadings}
            onUse={(metres) => setLegs([lapOf(legs[0] ?? BLANK_LEG, metres)])}
          />
        )}
        <TextInput
          label="Note"
          value={note}
          onChange={(event) => setNote(event.currentTarget.value)}
        />
        {trouble && (
          <Text role="alert" c="var(--buoy)">
            {trouble.message}
          </Text>
        )}
        <DialogFoot remove={route ? removing : null} storing={store.isPending} onClose={onClose} />
      </form>
    </Dialog>
  );
}

/** A lap with the length that its readings gave, to the metre. */
function lapOf(leg: LegText, metres: number): LegText {
  return { ...leg, typed: { ...leg.typed, length_m: `${metres.toFixed(0)} m` } };
}
