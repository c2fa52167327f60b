import { Button, Select, Text, TextInput } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, unwrap } from '../api/client';
import {
  type Now,
  nowQuery,
  type Pack,
  packsQuery,
  type Rider,
  ridersQuery,
  TESTS_KEY,
  type TestFound,
  type Vehicle,
  vehiclesQuery,
} from '../api/queries';
import { fieldOf, fieldsOf, sentFields, typedFields } from '../format/fields';
import { localIso } from '../format/time';
import { clock, day } from '../format/units';
import { useReserve } from '../format/useReserve';
import { useUnits } from '../format/useUnits';
import { PURPOSES, SAFETY } from '../format/words';
import { type KitFields, KitPicker, kitFaults, kitFields } from '../kit/KitPicker';
import { useKitChoice } from '../kit/useKitChoice';
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
  return (
    <Page
      name="Ride"
      title="Log a ride by hand."
      actions={
        <>
          <Button component={Link} to="/plan/new">
            Plan it first
          </Button>
          <Button component={Link} to="/ride/memory">
            I have ridden it already
          </Button>
        </>
      }
    >
      {under.length > 0 && <UnderWay tests={under} />}
      <StartForm
        vehicles={vehicles.data}
        packs={packs.data}
        riders={riders.data}
        newest={now.data}
      />
    </Page>
  );
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
  vehicles: Vehicle[];
  packs: Pack[];
  riders: Rider[];
  newest: Now | undefined;
}

function StartForm({ vehicles, packs, riders, newest }: StartFormProps) {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const units = useUnits();
  const reserve = useReserve();
  const [testId] = useState(() => crypto.randomUUID());
  const form = useFields(() => ({
    ...usual(vehicles, packs, riders, newest),
    title: '',
    purpose: 'everyday' as (typeof PURPOSES)[number]['value'],
    typed: typedFields(fieldsOf('ride'), { reserve }, units),
  }));
  const { title, purpose, typed, rider_id, ...kit } = form.values;
  const makeKit = useKitChoice();
  const [missing, setMissing] = useState<Record<string, string>>({});
  const start = useMutation({
    mutationFn: async () => {
      const ids = await makeKit(kit);
      remember(REMEMBERED, { ...ids, rider_id });
      return unwrap(
        await api.PUT('/api/tests/{test_id}', {
          params: { path: { test_id: testId } },
          body: {
            title: title.trim() || suggestedTitle(vehicles, kit),
            purpose,
            started_at: localIso(new Date()),
            ...ids,
            rider_id: rider_id || null,
            ...(sentFields(fieldsOf('ride'), typed, units) as { reserve: number | null }),
          },
        }),
      );
    },
    onMutate: form.settle,
    onError: form.refuse,
    onSuccess: () => {
      queryClient.invalidateQueries({ queryKey: TESTS_KEY });
      navigate(`/ride/${testId}`);
    },
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    const faults = kitFaults(kit);
    setMissing(faults);
    if (Object.keys(faults).length === 0) start.mutate();
  }
  return (
    <form className={classes.start} onSubmit={submit}>
      <TextInput
        label="What is it?"
        placeholder={suggestedTitle(vehicles, kit)}
        {...form.field('title')}
      />
      <Select
        label="The question"
        data={[...PURPOSES]}
        {...form.field('purpose')}
        allowDeselect={false}
      />
      <KitPicker
        vehicles={vehicles}
        packs={packs}
        chosen={kit}
        errors={{ ...form.errors, ...missing }}
        onChange={form.change}
      />
      <div className={classes.two}>
        <Select
          label="Rider"
          data={[
            { value: '', label: 'Not said' },
            ...riders.map((rider) => ({ value: rider.id, label: rider.name })),
          ]}
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

function suggestedTitle(vehicles: Vehicle[], kit: KitFields): string {
  const name =
    vehicles.find((item) => item.id === kit.vehicle_id)?.name ??
    (kit.vehicle_name.trim() || 'Ride');
  const today = new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long' });
  return `${name}, ${today}`;
}

/** The kit of the last ride from this device; failing that, of the newest test; an empty kit is made. */
function usual(
  vehicles: Vehicle[],
  packs: Pack[],
  riders: Rider[],
  newest: Now | undefined,
): KitFields & { rider_id: string } {
  const stored: Partial<Choice> = remembered(REMEMBERED, isRecord) ?? {};
  const pick = (
    list: Array<{ id: string; name: string }>,
    id: string | undefined,
    name: string | undefined,
  ) =>
    (list.find((item) => item.id === id) ?? list.find((item) => item.name === name) ?? list[0])?.id;
  const begun = kitFields(vehicles, packs);
  return {
    ...begun,
    vehicle_id: pick(vehicles, stored.vehicle_id, newest?.vehicle_name) ?? begun.vehicle_id,
    pack_id: pick(packs, stored.pack_id, newest?.pack_name) ?? begun.pack_id,
    rider_id: pick(riders, stored.rider_id, newest?.rider_name) ?? '',
  };
}
