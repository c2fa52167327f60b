import { Button, Select, Text, TextInput } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, unwrap } from '../api/client';
import {
  type Now,
  nowQuery,
  packsQuery,
  ridersQuery,
  TESTS_KEY,
  type TestFound,
  vehiclesQuery,
} from '../api/queries';
import { fieldOf, fieldsOf, RESERVE, sentFields, typedFields } from '../format/fields';
import { localIso } from '../format/time';
import { clock, day } from '../format/units';
import { useUnits } from '../format/useUnits';
import { PURPOSES, SAFETY } from '../format/words';
import { FieldInput } from '../ui/FieldInput';
import { Page, Trouble, Waiting } from '../ui/Page';
import { Refusal } from '../ui/Refusal';
import { isRecord, remember, remembered } from '../ui/remembered';
import { useFields } from '../ui/useFields';
import classes from './Ride.module.css';

const REMEMBERED = 'limpet-last-ride';

interface Choice {
  vehicle_id: string;
  pack_id: string;
  rider_id: string;
}

/** Before the first metre: what is ridden, by whom, and to which question. */
export function RideStartPage() {
  const now = useQuery(nowQuery);
  const vehicles = useQuery(vehiclesQuery);
  const packs = useQuery(packsQuery);
  const riders = useQuery(ridersQuery);
  const error = vehicles.error ?? packs.error ?? riders.error;
  if (error) return <Trouble error={error} onRetry={() => window.location.reload()} />;
  if (!vehicles.data || !packs.data || !riders.data || now.isPending)
    return <Waiting rows={4} height={50} />;
  const under = now.data?.under_way ?? [];
  const lacking = [
    vehicles.data.length === 0 ? { to: '/kit/vehicles', what: 'a vehicle' } : null,
    packs.data.length === 0 ? { to: '/kit/packs', what: 'a pack' } : null,
  ].filter((item) => item !== null);
  return (
    <Page
      name="Ride"
      title="Log a ride by hand."
      actions={
        <Button component={Link} to="/plan/new">
          Plan it first
        </Button>
      }
    >
      {under.length > 0 && <UnderWay tests={under} />}
      {lacking.length > 0 ? (
        <div className={classes.start}>
          <p>A ride needs {lacking.map((item) => item.what).join(' and ')} in your kit first.</p>
          {lacking.map((item) => (
            <Button key={item.to} component={Link} to={item.to} variant="filled">
              Add {item.what}
            </Button>
          ))}
        </div>
      ) : (
        <StartForm
          vehicles={named(vehicles.data)}
          packs={named(packs.data)}
          riders={named(riders.data)}
          newest={now.data}
        />
      )}
    </Page>
  );
}

function named(items: Array<{ id: string; name: string }>) {
  return items.map((item) => ({ value: item.id, label: item.name }));
}

function UnderWay({ tests }: { tests: TestFound[] }) {
  return (
    <div className={classes.under}>
      <Text fw={650}>Under way</Text>
      {tests.map((test) => (
        <Link key={test.id} to={`/ride/${test.id}`}>
          {test.title}, begun {day(test.started_at)} at {clock(test.started_at, 0)}
        </Link>
      ))}
    </div>
  );
}

interface StartFormProps {
  vehicles: Array<{ value: string; label: string }>;
  packs: Array<{ value: string; label: string }>;
  riders: Array<{ value: string; label: string }>;
  newest: Now | undefined;
}

function StartForm({ vehicles, packs, riders, newest }: StartFormProps) {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const units = useUnits();
  const [testId] = useState(() => crypto.randomUUID());
  const form = useFields(() => ({
    ...usual(vehicles, packs, riders, newest),
    title: '',
    purpose: 'everyday' as (typeof PURPOSES)[number]['value'],
    typed: typedFields(fieldsOf('ride'), { reserve: RESERVE }, units),
  }));
  const { title, purpose, typed, ...choice } = form.values;
  const start = useMutation({
    mutationFn: async () => {
      return unwrap(
        await api.PUT('/api/tests/{test_id}', {
          params: { path: { test_id: testId } },
          body: {
            title: title.trim() || suggestedTitle(vehicles, choice.vehicle_id),
            purpose,
            started_at: localIso(new Date()),
            vehicle_id: choice.vehicle_id,
            pack_id: choice.pack_id,
            rider_id: choice.rider_id || null,
            ...(sentFields(fieldsOf('ride'), typed, units) as { reserve: number | null }),
          },
        }),
      );
    },
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: () => {
      remember(REMEMBERED, choice);
      queryClient.invalidateQueries({ queryKey: TESTS_KEY });
      navigate(`/ride/${testId}`);
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    start.mutate();
  }
  return (
    <form className={classes.start} onSubmit={submit}>
      <TextInput
        label="What is it?"
        placeholder={suggestedTitle(vehicles, choice.vehicle_id)}
        {...form.field('title')}
      />
      <Select
        label="The question"
        data={[...PURPOSES]}
        {...form.field('purpose')}
        allowDeselect={false}
      />
      <div className={classes.two}>
        <Select
          label="Vehicle"
          data={vehicles}
          {...form.field('vehicle_id')}
          allowDeselect={false}
        />
        <Select label="Pack" data={packs} {...form.field('pack_id')} allowDeselect={false} />
        <Select
          label="Rider"
          data={[{ value: '', label: 'Not said' }, ...riders]}
          {...form.field('rider_id')}
          allowDeselect={false}
        />
        {['reserve', 'lap_length_m'].map((name) => (
          <FieldInput key={name} {...form.number(fieldOf('ride', name), units)} />
        ))}
      </div>
      <Refusal error={form.trouble} />
      <Button type="submit" variant="filled" size="lg" loading={start.isPending}>
        Start
      </Button>
      <div className={classes.cautions}>
        <p>
          {SAFETY.standing} {SAFETY.law}
        </p>
        <p>
          {SAFETY.fading} {SAFETY.failing}
        </p>
      </div>
    </form>
  );
}

function suggestedTitle(vehicles: StartFormProps['vehicles'], id: string | undefined): string {
  const name = vehicles.find((item) => item.value === id)?.label ?? 'Ride';
  const today = new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long' });
  return `${name}, ${today}`;
}

/** The kit of the last ride from this device; failing that, of the newest test. */
function usual(
  vehicles: StartFormProps['vehicles'],
  packs: StartFormProps['packs'],
  riders: StartFormProps['riders'],
  newest: Now | undefined,
): Choice {
  const stored: Partial<Choice> = remembered(REMEMBERED, isRecord) ?? {};
  const pick = (
    list: Array<{ value: string; label: string }>,
    id: string | undefined,
    name: string | undefined,
  ) =>
    (list.find((item) => item.value === id) ?? list.find((item) => item.label === name) ?? list[0])
      ?.value ?? '';
  return {
    vehicle_id: pick(vehicles, stored.vehicle_id, newest?.vehicle_name),
    pack_id: pick(packs, stored.pack_id, newest?.pack_name),
    rider_id: pick(riders, stored.rider_id, newest?.rider_name),
  };
}
