import { Button, Select, TextInput } from '@mantine/core';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiError, api, unwrap } from '../api/client';
import {
  type Now,
  type Pack,
  type Rider,
  TESTS_KEY,
  type TestFound,
  type Vehicle,
} from '../api/queries';
import { clock } from '../format/units';
import { useUnits } from '../format/useUnits';
import { END_REASONS } from '../format/words';
import { KitPicker, kitFaults } from '../kit/KitPicker';
import { type KitFields, NEW } from '../kit/kitFields';
import { useKitChoice } from '../kit/useKitChoice';
import { usual } from '../ride/lastRide';
import { sayDone } from '../ui/notes';
import { Refusal } from '../ui/Refusal';
import { useFields } from '../ui/useFields';
import { say } from '../words/en/letin.ftl';
import { type Brought, type Choice, type Look, type Part, takeOf, UNCHOSEN } from './choices';
import { JoinLook } from './JoinLook';
import classes from './LetIn.module.css';
import { LogLook } from './LogLook';
import { RecordsLook } from './RecordsLook';
import { TrackLook } from './TrackLook';

export interface Kit {
  vehicles: Vehicle[];
  packs: Pack[];
  riders: Rider[];
  /** What was ridden last. */
  newest: Now;
}

interface RideCardProps {
  dropId: string;
  number: number;
  of: number;
  parts: Part[];
  looks: ReadonlyMap<number, Look>;
  choices: ReadonlyMap<number, Choice>;
  kit: Kit;
  zone: string;
  /** The test that it is to stand beside, where one was chosen. */
  into: TestFound | null;
  onChoose: (key: number, changed: Partial<Choice>) => void;
  /** The pack of the kit that was chosen, null for a new one. */
  onPack: (packId: string | null) => void;
  onDone: () => void;
  /** Let go of all that was dropped, also of what is being stored. */
  onCancel: () => void;
}

const FULL = [
  { value: '', label: say('full-unknown') },
  { value: 'yes', label: say('full-yes') },
  { value: 'no', label: say('no') },
];

/** One ride out of what was dropped: its parts as they look, and what they are saved as. */
export function RideCard(props: RideCardProps) {
  const { dropId, parts, looks, choices, kit, zone, into, onChoose, onPack, onDone, onCancel } =
    props;
  const units = useUnits();
  const choiceOf = (key: number) => choices.get(key) ?? UNCHOSEN;
  const taken = parts.filter((part) => !choiceOf(part.key).left);
  const timed = taken.filter((part) => {
    const look = looks.get(part.key);
    return look?.kind === 'log' || (look?.kind === 'track' && look.timed);
  });
  const lead = timed.find((part) => looks.get(part.key)?.kind === 'log') ?? timed[0];
  const title =
    props.of > 1
      ? say('ride-number', { number: props.number, of: props.of })
      : parts.length > 1
        ? say('one-ride-of', { count: parts.length })
        : say('one-ride');
  return (
    <section className={classes.card} aria-label={title}>
      {(props.of > 1 || parts.length > 1) && <h2>{title}</h2>}
      {parts.map((part) => {
        const look = looks.get(part.key);
        const choice = choiceOf(part.key);
        return (
          <div key={part.key}>
            <div className={classes.head}>
              <h3>
                {look?.kind === 'log'
                  ? say('log-of-rows', { name: part.name, rows: look.of_rows ?? 0 })
                  : part.name}
              </h3>
              {parts.length > 1 && (
                <Button
                  size="compact-sm"
                  variant="subtle"
                  onClick={() => onChoose(part.key, { left: !choice.left })}
                >
                  {choice.left ? say('take-it') : say('leave-out')}
                </Button>
              )}
            </div>
            {!choice.left && (look?.rides ?? []).length > 1 && (
              <Select
                label={say('which-ride')}
                description={say('which-ride-about')}
                data={ridesOf(look)}
                value={String(choice.ride ?? '')}
                allowDeselect={false}
                onChange={(value) =>
                  onChoose(part.key, {
                    ride: value === '' || value === null ? null : Number(value),
                  })
                }
                w="22rem"
                mb="sm"
              />
            )}
            {part.seen != null && (
              <p className={classes.quiet}>{say('seen-before', { name: part.seen.name })}</p>
            )}
            {choice.left ? null : part.what === 'picture' ? (
              <p className={classes.quiet}>{say('a-picture')}</p>
            ) : look?.kind === 'log' ? (
              <LogLook
                look={look}
                units={units}
                onMapping={(mapping) => onChoose(part.key, { mapping, use: 'log' })}
              />
            ) : look?.kind === 'track' ? (
              <TrackLook
                look={look}
                choice={choice}
                units={units}
                onChoose={(changed) => onChoose(part.key, changed)}
              />
            ) : look?.kind === 'records' ? (
              <RecordsLook
                look={look}
                choice={choice}
                units={units}
                onChoose={(changed) => onChoose(part.key, changed)}
              />
            ) : null}
          </div>
        );
      })}
      {lead !== undefined &&
        timed
          .filter((part) => part.key !== lead.key)
          .map((part) => (
            <Joined
              key={part.key}
              dropId={dropId}
              first={lead}
              second={part}
              looks={looks}
              choices={choices}
              zone={zone}
              onChoose={onChoose}
            />
          ))}
      <TakeForm
        dropId={dropId}
        parts={parts}
        looks={looks}
        choices={choices}
        kit={kit}
        zone={zone}
        into={into}
        onPack={onPack}
        onDone={onDone}
        onCancel={onCancel}
      />
    </section>
  );
}

/** The rides that a log holds, by when they were. */
function ridesOf(look: Look | undefined) {
  const rides = look?.rides ?? [];
  return [
    { value: '', label: say('all-of-it') },
    ...rides.map((ride, at) => ({
      value: String(at),
      label: say('ride-from-to', {
        number: at + 1,
        from: clock(look?.started_at, ride.from_s),
        to: clock(look?.started_at, ride.to_s),
      }),
    })),
  ];
}

interface JoinedProps {
  dropId: string;
  first: Part;
  second: Part;
  looks: RideCardProps['looks'];
  choices: RideCardProps['choices'];
  zone: string;
  onChoose: RideCardProps['onChoose'];
}

function Joined({ dropId, first, second, looks, choices, zone, onChoose }: JoinedProps) {
  const body = {
    first: {
      ...takeOf(first, looks.get(first.key), choices.get(first.key) ?? UNCHOSEN),
      offset_s: 0,
    },
    second: {
      ...takeOf(second, looks.get(second.key), choices.get(second.key) ?? UNCHOSEN),
      offset_s: 0,
    },
    zone,
  };
  const match = useQuery({
    queryKey: ['imports', dropId, 'match', body],
    queryFn: async () =>
      unwrap(
        await api.POST('/api/imports/{drop_id}/match', {
          params: { path: { drop_id: dropId } },
          body,
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const chosen = choices.get(second.key)?.offset_s ?? null;
  const proposed = match.data?.sure ? (match.data.offset_s ?? null) : null;
  // A sure match is taken until its rider moves it.
  useEffect(() => {
    if (chosen === null && proposed !== null) onChoose(second.key, { offset_s: proposed });
  }, [chosen, proposed, second.key, onChoose]);
  if (match.data === undefined) return match.error ? <Refusal error={match.error} /> : null;
  return (
    <JoinLook
      match={match.data}
      offset={chosen ?? 0}
      onOffset={(offset_s) => onChoose(second.key, { offset_s })}
    />
  );
}

type TakeFormProps = Omit<RideCardProps, 'number' | 'of' | 'onChoose'>;

/** What was ridden, and the button that saves it. */
function TakeForm({
  dropId,
  parts,
  looks,
  choices,
  kit,
  zone,
  into,
  onPack,
  onDone,
  onCancel,
}: TakeFormProps) {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const [id, setId] = useState(() => crypto.randomUUID());
  const begun = usual(kit.vehicles, kit.packs, kit.riders, kit.newest);
  const [chosen, setChosen] = useState<KitFields>(begun);
  const [missing, setMissing] = useState<Record<string, string>>({});
  useEffect(() => onPack(chosen.pack_id === NEW ? null : chosen.pack_id), [chosen.pack_id, onPack]);
  const makeKit = useKitChoice();
  const form = useFields(() => ({
    title: (parts[0]?.name ?? '').replace(/\.[A-Za-z0-9]+$/, '').replace(/[_]+/g, ' '),
    rider_id: begun.rider_id,
    full: '',
    reason: '',
    typed: {},
  }));
  const { title, rider_id, full, reason } = form.values;
  const takes = parts.map((part) =>
    takeOf(part, looks.get(part.key), choices.get(part.key) ?? UNCHOSEN),
  );
  const kept = takes.filter((take) => take.use !== 'leave');
  const records = kept.find((take) => take.use === 'records');
  const track = kept.length === 1 ? looks.get(kept[0]?.key ?? -1) : undefined;
  const asRoute = kept.length === 1 && kept[0]?.use === 'track';
  const mustBeRoute = asRoute && track?.timed === false;
  const faults = parts.some((part) => (looks.get(part.key)?.faults ?? []).length > 0);
  const count = records
    ? (looks.get(records.key)?.records ?? []).filter(
        (record) => record.faults.length === 0 && !records.skip?.includes(record.row),
      ).length
    : 0;
  const store = useMutation({
    mutationFn: async ({ route, again }: { route: boolean; again: boolean }) => {
      const needsKit = !route && into === null;
      const ids = needsKit ? await makeKit(chosen) : {};
      return unwrap(
        await api.POST('/api/imports/{drop_id}/store', {
          params: { path: { drop_id: dropId } },
          body: {
            id,
            title: title.trim(),
            parts: kept.map((take) => (route ? { ...take, use: 'route' } : take)),
            ...ids,
            rider_id: needsKit ? rider_id || null : null,
            full: full === '' ? null : full === 'yes',
            reason: reason || null,
            test_id: into?.id ?? null,
            zone,
            again,
          } as never,
        }),
      );
    },
    onMutate: form.settle,
    onError: (error) => {
      // What was refused is sent anew under an id of its own.
      setId(crypto.randomUUID());
      form.refuse(error);
    },
    onSuccess: async (brought: Brought) => {
      await queryClient.invalidateQueries({ queryKey: TESTS_KEY });
      await queryClient.invalidateQueries({ queryKey: ['imports'], exact: true });
      if (brought.routes.length > 0) {
        await queryClient.invalidateQueries({ queryKey: ['routes'] });
        sayDone(say('saved-route'));
        navigate('/kit/routes');
      } else if (into !== null) {
        sayDone(say('saved-beside'));
        navigate(`/tests/${into.id}`);
      } else if (brought.tests.length === 1) {
        sayDone(say('saved'));
        onDone();
        navigate(`/tests/${brought.tests[0]}`);
      } else {
        sayDone(say('saved-rides', { count: brought.tests.length }));
        onDone();
        navigate('/logbook');
      }
    },
  });
  const stage = useQuery({
    queryKey: ['imports', dropId, 'stage'],
    queryFn: async () =>
      unwrap(
        await api.GET('/api/imports/{drop_id}/stage', { params: { path: { drop_id: dropId } } }),
      ),
    enabled: store.isPending,
    refetchInterval: store.isPending ? STAGE_MS : false,
    retry: false,
  }).data?.stage;
  function send(route: boolean, again = false) {
    const wrong = route || into !== null ? {} : kitFaults(chosen);
    setMissing(wrong);
    if (Object.keys(wrong).length === 0) store.mutate({ route, again });
  }
  if (kept.length === 0) return null;
  const twice = store.error instanceof ApiError && store.error.status === 409;
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        send(mustBeRoute);
      }}
    >
      {into === null ? (
        <div className={classes.form}>
          {records === undefined && (
            <TextInput label={say('ride-name')} maxLength={300} {...form.field('title')} />
          )}
          {!mustBeRoute && (
            <>
              <KitPicker
                vehicles={kit.vehicles}
                packs={kit.packs}
                chosen={chosen}
                errors={{ ...form.errors, ...missing }}
                onChange={(changed) => setChosen((before) => ({ ...before, ...changed }))}
              />
              <Select
                label={say('rider')}
                data={[
                  { value: '', label: say('not-noted-choice') },
                  ...kit.riders.map((rider) => ({ value: rider.id, label: rider.name })),
                ]}
                allowDeselect={false}
                {...form.field('rider_id')}
              />
              <Select
                label={say('was-it-full')}
                data={FULL}
                allowDeselect={false}
                {...form.field('full')}
              />
              {records === undefined && (
                <Select
                  label={say('how-it-ended')}
                  data={[{ value: '', label: say('not-noted-choice') }, ...END_REASONS]}
                  allowDeselect={false}
                  {...form.field('reason')}
                />
              )}
            </>
          )}
        </div>
      ) : (
        <p>{say('into-test', { title: into.title })}</p>
      )}
      {mustBeRoute && <p className={classes.quiet}>{say('as-route-instead')}</p>}
      <Refusal error={form.trouble} />
      {store.error instanceof ApiError &&
        (store.error.problem.faults ?? []).map((fault) => (
          <p key={fault.message} className={classes.quiet}>
            {fault.file}: {fault.message}
          </p>
        ))}
      <div className={classes.foot}>
        <Button
          type="submit"
          variant="filled"
          size="lg"
          loading={store.isPending}
          disabled={faults}
        >
          {mustBeRoute
            ? say('as-a-route')
            : records
              ? say('take-rides', { count })
              : say('save-to-logbook')}
        </Button>
        {asRoute && !mustBeRoute && into === null && (
          <Button onClick={() => send(true)} disabled={store.isPending}>
            {say('as-a-route')}
          </Button>
        )}
        {twice && <Button onClick={() => send(mustBeRoute, true)}>{say('save-it-again')}</Button>}
        {store.isPending && (
          <>
            <span role="status">{stageSaid(stage)}</span>
            <Button onClick={onCancel}>{say('cancel')}</Button>
          </>
        )}
      </div>
    </form>
  );
}

/** How often it is asked how far the storing is [ms]. */
const STAGE_MS = 700;

function stageSaid(stage: string | undefined): string {
  if (stage === 'working out') return say('working-out');
  return stage === 'saving' ? say('saving') : say('reading');
}
