import { Button, Select, TextInput } from '@mantine/core';
import { DateTimePicker } from '@mantine/dates';
import { say } from '../words/en/memory.ftl';
import '@mantine/dates/styles.css';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, unwrap } from '../api/client';
import {
  type Pack,
  packsQuery,
  type Rider,
  ridersQuery,
  TESTS_KEY,
  type Vehicle,
  vehiclesQuery,
} from '../api/queries';
import { fieldOf, sentOf } from '../format/fields';
import { offsetOf } from '../format/time';
import { useUnits } from '../format/useUnits';
import { END_REASONS, PURPOSES } from '../format/words';
import { KitPicker, kitFaults } from '../kit/KitPicker';
import { kitFields } from '../kit/kitFields';
import { useKitChoice } from '../kit/useKitChoice';
import { FieldInput } from '../ui/FieldInput';
import { sayDone } from '../ui/notes';
import { Page, Trouble, Waiting } from '../ui/Page';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import classes from './Memory.module.css';
import { MemoryTableEditor } from './MemoryTableEditor';
import { emptyTable, faultsOf, sentRows } from './table';

/** Log a ride that is over: what is remembered, in rows; the result is there at once. */
export function MemoryPage() {
  const vehicles = useQuery(vehiclesQuery);
  const packs = useQuery(packsQuery);
  const riders = useQuery(ridersQuery);
  const error = vehicles.error ?? packs.error ?? riders.error;
  return (
    <Page
      name={say('from-memory')}
      title={say('log-a-past-ride-here')}
      actions={
        <Button component={Link} to="/ride">
          {say('log-live')}
        </Button>
      }
    >
      {error && <Trouble error={error} onRetry={() => window.location.reload()} />}
      {!error && !(vehicles.data && packs.data && riders.data) && <Waiting rows={4} height={50} />}
      {vehicles.data && packs.data && riders.data && (
        <MemoryForm vehicles={vehicles.data} packs={packs.data} riders={riders.data} />
      )}
    </Page>
  );
}

interface MemoryFormProps {
  vehicles: Vehicle[];
  packs: Pack[];
  riders: Rider[];
}

const LAP = fieldOf('ride', 'lap_length_m');
const FULL = [
  { value: '', label: say('not-known-here') },
  { value: 'yes', label: say('yes-charged-full') },
  { value: 'no', label: say('no') },
];

function MemoryForm({ vehicles, packs, riders }: MemoryFormProps) {
  const units = useUnits();
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const [testId] = useState(() => crypto.randomUUID());
  const [table, setTable] = useState(emptyTable);
  const [kit, setKit] = useState(() => kitFields(vehicles, packs));
  const makeKit = useKitChoice();
  const form = useFields(() => ({
    title: '',
    purpose: 'everyday' as (typeof PURPOSES)[number]['value'],
    started: null as string | null,
    rider_id: riders[0]?.id ?? '',
    full: '',
    reason: '',
    typed: { lap_length_m: '' },
  }));
  const { title, purpose, started, rider_id, full, reason, typed } = form.values;
  const { entries, places } = sentRows(table, units);
  const store = useMutation({
    mutationFn: async () => {
      const ids = await makeKit(kit);
      return unwrap(
        await api.PUT('/api/tests/{test_id}/remembered', {
          params: { path: { test_id: testId } },
          body: {
            title: title.trim(),
            purpose,
            started_at: started ? `${started.replace(' ', 'T')}${offsetOf(started)}` : null,
            ...ids,
            rider_id: rider_id || null,
            full: full === '' ? null : full === 'yes',
            reason: reason || null,
            lap_length_m: sentOf(LAP, typed.lap_length_m, units),
            entries,
          } as never,
        }),
      );
    },
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: async (test) => {
      await queryClient.invalidateQueries({ queryKey: TESTS_KEY });
      sayDone(say('saved-in-the-logbook'));
      navigate(`/tests/${test.id}`);
    },
  });
  const [missing, setMissing] = useState<Record<string, string>>({});
  function submit(event: FormEvent) {
    event.preventDefault();
    const faults = {
      ...kitFaults(kit),
      ...(title.trim() === '' ? { title: say('give-it-a-name') } : {}),
      ...(entries.length < 2 ? { rows: say('write-at-least-two-rows') } : {}),
    };
    setMissing(faults);
    if (Object.keys(faults).length === 0) store.mutate();
  }
  return (
    <form className={classes.form} onSubmit={submit} noValidate>
      <div className={classes.two}>
        <TextInput
          label={say('ride-name')}
          withAsterisk
          maxLength={300}
          {...form.field('title')}
          error={missing.title ?? form.errors.title}
        />
        <Select
          label={say('what-are-you-testing')}
          data={PURPOSES}
          allowDeselect={false}
          {...form.field('purpose')}
        />
        <DateTimePicker
          label={say('started')}
          description={say('if-you-know-the-time')}
          inputWrapperOrder={['label', 'input', 'description', 'error']}
          valueFormat="D MMM YYYY HH:mm"
          clearable
          {...form.field('started')}
        />
      </div>
      <KitPicker
        vehicles={vehicles}
        packs={packs}
        chosen={kit}
        errors={{ ...form.errors, ...missing }}
        onChange={(changed) => setKit((before) => ({ ...before, ...changed }))}
      />
      <div className={classes.two}>
        <Select
          label={say('rider')}
          data={[
            { value: '', label: say('not-noted-choice') },
            ...riders.map((rider) => ({ value: rider.id, label: rider.name })),
          ]}
          allowDeselect={false}
          {...form.field('rider_id')}
        />
        <Select
          label={say('was-it-full-at-the')}
          data={FULL}
          allowDeselect={false}
          {...form.field('full')}
        />
        <Select
          label={say('how-it-ended')}
          data={[{ value: '', label: say('not-noted-choice') }, ...END_REASONS]}
          allowDeselect={false}
          {...form.field('reason')}
        />
        <FieldInput {...form.number(LAP, units)} />
      </div>
      <div>
        <h2>{say('what-you-noted')}</h2>
        <MemoryTableEditor
          table={table}
          units={units}
          faults={faultsOf(form.errors, places)}
          onChange={setTable}
        />
        {missing.rows && <p role="alert">{missing.rows}</p>}
      </div>
      <Refusal error={form.trouble} />
      <Button type="submit" variant="filled" size="lg" loading={store.isPending}>
        {say('save')}
      </Button>
    </form>
  );
}
