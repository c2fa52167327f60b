import { Button, Input, SegmentedControl, Select, Text, TextInput } from '@mantine/core';
import { useMediaQuery } from '@mantine/hooks';
import { useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import { useLiveQuery } from 'dexie-react-hooks';
import { type FormEvent, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import {
  type Now,
  nowQuery,
  type Pack,
  type Plan,
  type PlanRow,
  packsQuery,
  planFollowQuery,
  planQuery,
  plansQuery,
  type Rider,
  ridersQuery,
  TESTS_KEY,
  type Vehicle,
  vehiclesQuery,
} from '../api/queries';
import {
  fieldOf,
  fieldsOf,
  numberIn,
  sentFields,
  type TypedFields,
  typedFields,
} from '../format/fields';
import { localIso } from '../format/time';
import { useReserve } from '../format/useReserve';
import { useUnits } from '../format/useUnits';
import { listOf, PURPOSES, SAFETY } from '../format/words';
import { KitPicker, kitFaults } from '../kit/KitPicker';
import { type KitFields, NEW } from '../kit/kitFields';
import { useKitChoice } from '../kit/useKitChoice';
import { waitingOf } from '../plan/waiting';
import { startRide } from '../roadside/acts';
import { keepPlan, keepStartTable, ridesHere } from '../roadside/kept';
import { voltsOf } from '../roadside/ride';
import type { BegunHere, StartSaid } from '../roadside/store';
import { FieldInput } from '../ui/FieldInput';
import { Page, Trouble, Waiting } from '../ui/Page';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { say } from '../words/en/ride.ftl';
import { LOCALE } from '../words/locale';
import { gaugeTold } from './gauge';
import { rememberChoice, rememberedChoice, usual } from './lastRide';
import classes from './Ride.module.css';
import { StorageNote, StorageWord } from './StorageWord';
import { UnderWay } from './UnderWay';

/** Plans that wait to be ridden, newest first. */
const MOST_PLANS = 4;

/** Whether it is full: what came off its charger is, what nobody knows is anything. */
const CHARGES = [
  { value: 'just_charged', label: say('just-charged') },
  { value: 'not_full', label: say('not-full') },
  { value: '', label: say('dont-know') },
];
const PROPULSIONS = [{ value: '', label: say('not-noted-choice') }, ...listOf('propulsion')];
const MOST_PACKS = 4;
const PACK_COUNTS = Array.from({ length: MOST_PACKS }, (_, index) => ({
  value: String(index + 1),
  label: index === 0 ? '1' : String(index + 1),
}));
const SEVERAL = listOf('packs_use').filter((item) => item.value !== 'single');

/** Before the first metre: what is ridden, by whom, and to which question. */
export function RideStartPage() {
  const now = useQuery(nowQuery);
  const vehicles = useQuery(vehiclesQuery);
  const packs = useQuery(packsQuery);
  const riders = useQuery(ridersQuery);
  const planned = useQuery(plansQuery);
  const rows = waitingOf(planned.data ?? []).slice(0, MOST_PLANS);
  // Whole, for a ride of theirs may begin without a signal.
  const plans = useQueries({ queries: rows.map((row) => planQuery(row.id)) }).flatMap(
    (found) => found.data ?? [],
  );
  // And how each would stand at its start: without a signal it is followed by that table.
  useQueries({ queries: plans.map((plan) => planFollowQuery(plan.id)) });
  const here = useLiveQuery(ridesHere);
  // What is at hand from last time serves without a signal; only where there is nothing, it is missed.
  if (!vehicles.data || !packs.data || !riders.data) {
    const error = vehicles.error ?? packs.error ?? riders.error;
    if (error) return <Trouble whole error={error} onRetry={() => window.location.reload()} />;
    return <Waiting rows={4} height={50} />;
  }
  // Nothing comes in above a button afterwards: a thumb that was on its way would start another ride.
  if (now.isPending || planned.isPending || here === undefined) {
    return <Waiting rows={4} height={50} />;
  }
  const lists = { vehicles: vehicles.data, packs: packs.data, riders: riders.data };
  return (
    <Page
      name={say('ride')}
      title={say('log-a-ride')}
      actions={
        <>
          <Button component={Link} to="/plan/new">
            {say('plan-it-first')}
          </Button>
          <Button component={Link} to="/ride/memory">
            {say('log-a-past-ride')}
          </Button>
          <Button component={Link} to="/ride/practice">
            {say('practice')}
          </Button>
        </>
      }
    >
      <UnderWay now={now.data} here={here} />
      <StartForm {...lists} newest={now.data} rows={rows} plans={plans} />
    </Page>
  );
}

interface StartFormProps {
  vehicles: Vehicle[];
  packs: Pack[];
  riders: Rider[];
  newest: Now | undefined;
  /** Plans that wait for their ride, and those of them that are here whole. */
  rows: PlanRow[];
  plans: Plan[];
}

function StartForm({ vehicles, packs, riders, newest, rows, plans }: StartFormProps) {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const units = useUnits();
  const reserve = useReserve();
  const [testId] = useState(() => crypto.randomUUID());
  const form = useFields(() => ({
    ...usual(vehicles, packs, riders, newest),
    title: '',
    purpose: 'everyday' as (typeof PURPOSES)[number]['value'],
    typed: {
      ...typedFields(fieldsOf('ride'), { reserve }, units),
      target_speed_mps: rememberedChoice().target_speed_mps ?? '',
      gear_kg: rememberedChoice().gear_kg ?? '',
    } as TypedFields,
    charge: '',
    packs: '1',
    packs_use: 'in_parallel',
    propulsion: rememberedChoice().propulsion ?? '',
  }));
  const {
    title,
    purpose,
    typed,
    rider_id,
    charge,
    packs: count,
    packs_use,
    propulsion,
    ...kit
  } = form.values;
  const makeKit = useKitChoice();
  const narrow = useMediaQuery('(max-width: 25em)') ?? false;
  const [missing, setMissing] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);

  /** On the device first: the ride is there whether or not anybody answers. */
  async function begin(begun: BegunHere, path: string, body: object, plan?: Plan) {
    await startRide(testId, begun, { method: 'PUT', path, body });
    if (!plan) {
      const gauge = gaugeTold(begun.vehicle_name);
      // Nothing waits for it: a signal that hangs keeps nobody from starting.
      keepStartTable(testId, startSaid(begun.vehicle_name), gauge?.steps ?? null).catch(
        console.warn,
      );
    }
    if (plan) {
      const followed = queryClient.getQueryData(planFollowQuery(plan.id).queryKey);
      await keepPlan(testId, plan, followed ?? null);
    }
    queryClient.invalidateQueries({ queryKey: TESTS_KEY });
    navigate(`/ride/${testId}`);
  }

  async function start() {
    const made = kit.vehicle_id === NEW || kit.pack_id === NEW ? await makeKit(kit) : kit;
    const ids = { vehicle_id: made.vehicle_id, pack_id: made.pack_id };
    const { target_speed_mps = '', gear_kg = '' } = typed;
    rememberChoice({ ...ids, rider_id, propulsion, target_speed_mps, gear_kg });
    const begun = begunOf(
      { ...kit, ...ids, rider_id },
      title.trim() || suggestedTitle(vehicles, kit),
    );
    await begin(begun, `/api/tests/${testId}`, {
      title: begun.title,
      purpose,
      started_at: begun.started_at,
      ...ids,
      rider_id: rider_id || null,
      charge: charge || null,
      propulsion: propulsion || null,
      packs_used: Number(count),
      packs_use: count === '1' ? null : packs_use,
      ...sentFields(fieldsOf('ride'), typed, units),
    });
  }

  function begunOf(chosen: KitFields & { rider_id: string }, name: string): BegunHere {
    const pack = packs.find((item) => item.id === chosen.pack_id);
    return {
      title: name,
      started_at: localIso(new Date()),
      vehicle_name:
        vehicles.find((item) => item.id === chosen.vehicle_id)?.name ?? chosen.vehicle_name,
      pack_name: pack?.name ?? chosen.pack_name,
      rider_name: riders.find((item) => item.id === chosen.rider_id)?.name ?? '',
      lap_length_m: lapOf(typed),
      ...voltsOf(pack),
    };
  }

  function startSaid(vehicle_name: string): StartSaid {
    const pack = packs.find((item) => item.id === kit.pack_id);
    const guessed = (name: string) => pack?.taken.includes(name) ?? true;
    return {
      vehicle_name,
      kind: vehicles.find((item) => item.id === kit.vehicle_id)?.kind ?? kit.vehicle_kind,
      chemistry: pack?.chemistry ?? '',
      series: guessed('series') ? null : (pack?.series ?? null),
      rated_ah: guessed('rated_ah') ? null : (pack?.rated_ah ?? null),
      rated_wh: pack?.rated_wh ?? null,
      charge: charge === 'just_charged' || charge === 'not_full' ? charge : '',
      packs: Number(count),
      packs_use: count === '1' ? null : packs_use,
      reserve: numberIn(fieldOf('ride', 'reserve'), typed.reserve ?? '', units),
      lap_length_m: lapOf(typed),
    };
  }

  function lapOf(fields: TypedFields): number | null {
    return numberIn(fieldOf('ride', 'lap_length_m'), fields.lap_length_m ?? '', units);
  }

  function ride(plan: Plan) {
    const chosen = {
      ...kit,
      vehicle_id: String(plan.asked.vehicle_id),
      pack_id: String(plan.asked.pack_id),
      rider_id: String(plan.asked.rider_id ?? ''),
    };
    const begun = begunOf(chosen, plan.title);
    const path = `/api/plans/${plan.id}/ride/${testId}`;
    const body = { started_at: begun.started_at, charge: charge || null };
    begin(begun, path, body, plan).catch(form.refuse);
  }

  function submit(event: FormEvent) {
    event.preventDefault();
    const faults = kitFaults(kit);
    setMissing(faults);
    if (Object.keys(faults).length > 0 || busy) return;
    form.settle();
    setBusy(true);
    start()
      .catch(form.refuse)
      .finally(() => setBusy(false));
  }
  return (
    <form className={classes.start} onSubmit={submit}>
      {rows.length > 0 && (
        <div className={classes.planned}>
          <Text fw={650}>{say('planned')}</Text>
          {rows.map(({ id, title: name }) => {
            const plan = plans.find((one) => one.id === id);
            return (
              <Button
                key={id}
                size="lg"
                h="auto"
                mih={50}
                py="xs"
                styles={{ label: { whiteSpace: 'normal' } }}
                variant="default"
                disabled={plan === undefined}
                onClick={() => plan && ride(plan)}
              >
                {say('start-name', { name })}
              </Button>
            );
          })}
        </div>
      )}
      <Button type="submit" variant="filled" size="lg" loading={busy}>
        {kit.vehicle_id === NEW || kit.pack_id === NEW
          ? say('start')
          : say('start-with-and', {
              vehicle_name: begunOf({ ...kit, rider_id }, '').vehicle_name,
              pack_name: begunOf({ ...kit, rider_id }, '').pack_name,
            })}
      </Button>
      <Refusal error={form.trouble} />
      <StorageWord />
      <TextInput
        label={say('ride-name')}
        placeholder={suggestedTitle(vehicles, kit)}
        {...form.field('title')}
      />
      <Select
        label={say('what-are-you-testing')}
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
      <Input.Wrapper
        label={say('is-it-full')}
        description={say('just-charged-off-its-charger')}
        labelElement="div"
      >
        <SegmentedControl
          fullWidth
          size="lg"
          aria-label={say('is-it-full')}
          orientation={narrow ? 'vertical' : 'horizontal'}
          styles={{ indicator: { boxShadow: 'none', border: '1px solid var(--ink)' } }}
          data={CHARGES}
          value={charge}
          onChange={(value) => form.change({ charge: value })}
        />
      </Input.Wrapper>
      <div className={classes.two}>
        <Select
          label={say('how-many-packs')}
          data={PACK_COUNTS}
          {...form.field('packs')}
          allowDeselect={false}
        />
        {count !== '1' && (
          <Select
            label={say('how-they-are-used')}
            data={SEVERAL}
            {...form.field('packs_use')}
            allowDeselect={false}
          />
        )}
      </div>
      <div className={classes.row}>
        <Select
          label={say('ridden')}
          data={PROPULSIONS}
          {...form.field('propulsion')}
          allowDeselect={false}
        />
        {['target_speed_mps', 'gear_kg'].map((name) => (
          <FieldInput key={name} {...form.number(fieldOf('ride', name), units)} />
        ))}
      </div>
      <div className={classes.two}>
        <Select
          label={say('rider')}
          data={[
            { value: '', label: say('not-noted-choice') },
            ...riders.map((rider) => ({ value: rider.id, label: rider.name })),
          ]}
          {...form.field('rider_id')}
          allowDeselect={false}
        />
        {['reserve', 'lap_length_m'].map((name) => (
          <FieldInput key={name} {...form.number(fieldOf('ride', name), units)} />
        ))}
      </div>
      <div className={classes.cautions}>
        <p>
          {SAFETY.standing} {SAFETY.law}
        </p>
        <p>
          {SAFETY.fading} {SAFETY.failing}
        </p>
      </div>
      <StorageNote />
    </form>
  );
}

function suggestedTitle(vehicles: Vehicle[], kit: KitFields): string {
  const name =
    vehicles.find((item) => item.id === kit.vehicle_id)?.name ??
    (kit.vehicle_name.trim() || say('ride'));
  const today = new Date().toLocaleDateString(LOCALE, { day: 'numeric', month: 'long' });
  return `${name}, ${today}`;
}
