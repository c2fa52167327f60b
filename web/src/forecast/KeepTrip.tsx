import { Button, TextInput } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, unwrap } from '../api/client';
import { type TripIn, tripsQuery } from '../api/queries';
import { Dialog } from '../ui/Dialog';
import { DialogFoot } from '../ui/DialogFoot';
import { sayDone } from '../ui/notes';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { useRemoval } from '../ui/useRemoval';
import { say } from '../words/en/forecast.ftl';
import type { KeptTrip } from './KeptTrips';

interface KeepTripProps {
  kept: KeptTrip | null;
  body: TripIn;
  /** Whether there is enough to ask. */
  ready: boolean;
  onKept: () => void;
}

/** Keeps a trip under a name: it has an address, and is forecast anew whenever it is opened. */
export function KeepTrip({ kept, body, ready, onKept }: KeepTripProps) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)} disabled={!ready}>
        {kept ? say('save-the-changes') : say('save-this-trip')}
      </Button>
      {open && (
        <KeepDialog kept={kept} body={body} onKept={onKept} onClose={() => setOpen(false)} />
      )}
    </>
  );
}

function KeepDialog({
  kept,
  body,
  onKept,
  onClose,
}: Omit<KeepTripProps, 'ready'> & { onClose: () => void }) {
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  const [id] = useState(() => kept?.id ?? crypto.randomUUID());
  const params = { path: { trip_id: id } };
  const form = useFields(() => ({ name: kept?.name ?? '' }));
  const store = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.PUT('/api/trips/{trip_id}', {
          params,
          body: { name: form.values.name.trim(), asked: { ...body, quick: false } },
        }),
      ),
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: async (stored) => {
      onKept();
      await queryClient.invalidateQueries({ queryKey: tripsQuery.queryKey });
      sayDone(say('stored-is-saved', { stored: stored.name }));
      onClose();
      navigate(`/forecast/${id}`);
    },
  });
  const removal = useRemoval({
    what: `“${kept?.name}”`,
    remove: async () => unwrap(await api.DELETE('/api/trips/{trip_id}', { params })),
    restore: async () => unwrap(await api.POST('/api/trips/{trip_id}/restore', { params })),
    lists: [tripsQuery.queryKey],
    onDone: () => navigate('/forecast'),
  });
  return (
    <Dialog
      onClose={onClose}
      title={kept ? say('save-kept', { kept: kept.name }) : say('save-this-trip')}
    >
      <form
        noValidate
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          store.mutate();
        }}
      >
        <TextInput
          label={say('name')}
          placeholder={say('to-the-light-on-a')}
          maxLength={100}
          withAsterisk
          {...form.field('name')}
        />
        <Refusal error={removal.error ?? form.trouble} />
        <DialogFoot remove={kept && removal} storing={store.isPending} onClose={onClose} />
      </form>
    </Dialog>
  );
}
