import { Button, Progress, Text } from '@mantine/core';
import { Dropzone } from '@mantine/dropzone';
import '@mantine/dropzone/styles.css';
import {
  keepPreviousData,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { ApiError, api, unwrap } from '../api/client';
import { nowQuery, packsQuery, ridersQuery, TESTS_KEY, vehiclesQuery } from '../api/queries';
import { day } from '../format/units';
import { sayDone, sayTrouble } from '../ui/notes';
import { Page, Trouble, Waiting } from '../ui/Page';
import { say } from '../words/en/letin.ftl';
import { type Choice, type Drop, type Look, type Part, takeOf, UNCHOSEN } from './choices';
import classes from './LetIn.module.css';
import { takeBrought, useBrought } from './pending';
import { RideCard } from './RideCard';
import { takeShared } from './shared';
import { useDrop } from './useDrop';

/** Bring in whatever there is: dropped or chosen, looked at, and saved only when its rider says so. */
export function ImportPage() {
  const dropped = useDrop();
  const choose = useRef<() => void>(null);
  const waiting = useBrought();
  const { send } = dropped;
  // Files that were dropped elsewhere come along.
  // biome-ignore lint/correctness/useExhaustiveDependencies: sent once for each handing over
  useEffect(() => {
    if (waiting === 0) return;
    const files = takeBrought();
    if (files.length > 0) void send(files);
  }, [waiting]);
  const [search] = useSearchParams();
  const shared = search.get('shared') !== null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was shared is taken once
  useEffect(() => {
    if (!shared) return;
    takeShared().then(
      (files) => {
        if (files.length > 0) void send(files);
      },
      () => undefined,
    );
  }, [shared]);
  const faults = dropped.error instanceof ApiError ? (dropped.error.problem.faults ?? []) : [];
  return (
    <Page
      name={say('import')}
      title={dropped.drop ? say('import-looked-at') : say('import-title')}
      actions={dropped.drop && <Button onClick={dropped.forget}>{say('start-again')}</Button>}
    >
      {dropped.drop === null && (
        <>
          <Dropzone
            openRef={choose}
            activateOnClick={false}
            enablePointerEvents
            multiple
            useFsAccessApi={false}
            onDrop={(files) => files.length > 0 && dropped.send(files)}
            className={classes.drop}
            aria-label={say('files-to-import')}
          >
            <Text>{say('drop-anything')}</Text>
            <Text c="var(--soft)" size="sm">
              {say('what-is-read')} {say('nothing-is-saved-yet')}
            </Text>
            <Button variant="filled" mt="sm" onClick={() => choose.current?.()}>
              {say('choose-files')}
            </Button>
          </Dropzone>
          {dropped.share !== null && (
            <div role="status">
              <p>
                {dropped.share < 100
                  ? say('sending-share', { share: dropped.share })
                  : say('opening')}
              </p>
              <Progress value={dropped.share} aria-label={say('opening')} />
              <Button mt="sm" onClick={dropped.forget}>
                {say('cancel')}
              </Button>
            </div>
          )}
          {dropped.error && (
            <div role="alert">
              <Text fw={650}>{dropped.error.message}</Text>
              {faults.map((fault) => (
                <Text key={fault.message}>
                  {fault.file} {fault.message}
                </Text>
              ))}
            </div>
          )}
          <Before />
        </>
      )}
      {dropped.drop && (
        <Looked
          key={dropped.drop.id}
          drop={dropped.drop}
          files={dropped.files}
          onDone={dropped.forget}
        />
      )}
    </Page>
  );
}

/** What was imported before, each with a way back. */
function Before() {
  const queryClient = useQueryClient();
  const before = useQuery({
    queryKey: ['imports'],
    queryFn: async () => unwrap(await api.GET('/api/imports')),
  });
  const undo = useMutation({
    mutationFn: async (id: string) =>
      unwrap(
        await api.POST('/api/imports/{brought_id}/undo', { params: { path: { brought_id: id } } }),
      ),
    onSuccess: async () => {
      await queryClient.invalidateQueries({ queryKey: ['imports'] });
      await queryClient.invalidateQueries({ queryKey: TESTS_KEY });
      sayDone(say('undone'));
    },
    onError: (error) => sayTrouble(error.message),
  });
  if (before.data === undefined || before.data.length === 0) return null;
  return (
    <section aria-label={say('imported-before')}>
      <h2>{say('imported-before')}</h2>
      <ul className={classes.list}>
        {before.data.map((brought) => (
          <li key={brought.id}>
            <span>
              {say('imported-of', {
                name: brought.name,
                when: day(brought.created_at),
                files: brought.files.join(', '),
              })}
            </span>
            <Button
              size="compact-sm"
              loading={undo.isPending && undo.variables === brought.id}
              onClick={() => undo.mutate(brought.id)}
            >
              {say('undo')}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;

interface LookedProps {
  drop: Drop;
  files: readonly File[];
  onDone: () => void;
}

/** What was dropped, ride by ride. */
function Looked({ drop, files, onDone }: LookedProps) {
  const [search] = useSearchParams();
  const intoId = search.get('test');
  const [choices, setChoices] = useState<ReadonlyMap<number, Choice>>(new Map());
  const [packId, setPackId] = useState<string | null>(null);
  const vehicles = useQuery(vehiclesQuery);
  const packs = useQuery(packsQuery);
  const riders = useQuery(ridersQuery);
  const now = useQuery(nowQuery);
  const into = useQuery({
    queryKey: ['imports', 'into', intoId],
    queryFn: async () =>
      unwrap(
        await api.GET('/api/tests/{test_id}', {
          params: { path: { test_id: intoId ?? '' }, query: { kept: true } },
        }),
      ),
    enabled: intoId !== null,
  });
  const choose = useCallback((key: number, changed: Partial<Choice>) => {
    setChoices((before) =>
      new Map(before).set(key, { ...(before.get(key) ?? UNCHOSEN), ...changed }),
    );
  }, []);
  // The loose files of a bundle belong to it.
  const loose = drop.parts.some((part) => part.what === 'bundle' && part.form === 'file');
  const seen = useMemo(
    () =>
      loose ? [] : drop.parts.filter((part) => part.what === 'table' || part.what === 'track'),
    [drop, loose],
  );
  const answers = useQueries({
    queries: seen.map((part) => {
      const choice = choices.get(part.key) ?? UNCHOSEN;
      const body = {
        use: choice.use ?? null,
        mapping: choice.mapping ?? null,
        record_columns: choice.record_columns ?? null,
        cut: choice.cut,
        zone: ZONE,
        pack_id: part.what === 'table' ? packId : null,
      };
      return {
        queryKey: ['imports', drop.id, 'look', part.key, body],
        queryFn: async () =>
          unwrap(
            await api.POST('/api/imports/{drop_id}/parts/{key}/look', {
              params: { path: { drop_id: drop.id, key: part.key } },
              body,
            }),
          ),
        placeholderData: keepPreviousData,
        retry: false,
        staleTime: Number.POSITIVE_INFINITY,
      };
    }),
  });
  // Until a choice is answered its part looks as it did: what is typed beside it stays.
  const [kept] = useState(() => new Map<number, Look>());
  const looks = new Map<number, Look>();
  const refused: Array<{ part: Part; why: string[] }> = drop.parts
    .filter((part) => part.fault !== '')
    .map((part) => ({ part, why: [part.fault] }));
  seen.forEach((part, at) => {
    const answer = answers[at];
    if (answer?.data) kept.set(part.key, answer.data);
    const look = kept.get(part.key);
    if (look !== undefined) looks.set(part.key, look);
    if (answer?.error) {
      const faults = answer.error instanceof ApiError ? (answer.error.problem.faults ?? []) : [];
      refused.push({
        part,
        why: faults.length > 0 ? faults.map((f) => f.message) : [answer.error.message],
      });
    }
  });
  const waiting = answers.some(
    (answer, at) => answer.isPending && !answer.error && !looks.has(seen[at]?.key ?? -1),
  );
  const error = vehicles.error ?? packs.error ?? riders.error ?? now.error ?? into.error;
  const kit =
    vehicles.data && packs.data && riders.data && now.data
      ? { vehicles: vehicles.data, packs: packs.data, riders: riders.data, newest: now.data }
      : null;
  const rides = useRides(drop, seen, looks, choices, waiting);
  const pictures = drop.parts.filter(
    (part) => part.what === 'picture' && part.fault === '' && !loose,
  );
  const bundles = drop.parts.filter((part) => part.what === 'bundle');
  return (
    <>
      {error && <Trouble error={error} onRetry={() => window.location.reload()} />}
      {refused.length > 0 && (
        <div className={classes.check} role="alert">
          <b>{say('not-taken')}</b>
          <ul>
            {refused.map(({ part, why }) =>
              why.map((text) => (
                <li key={`${part.key}${text}`}>
                  {say('part-fault', { name: part.name, fault: text })}
                </li>
              )),
            )}
          </ul>
        </div>
      )}
      {bundles.some((part) => part.form !== 'account') && (
        <BundleCard files={files} onDone={onDone} />
      )}
      {bundles.some((part) => part.form === 'account') && (
        <AccountCard dropId={drop.id} onDone={onDone} />
      )}
      {(waiting || kit === null) && seen.length > 0 && <Waiting rows={5} height={44} />}
      {!waiting &&
        kit !== null &&
        (intoId === null || into.data) &&
        rides.map((ride, at) => (
          <RideCard
            key={ride.map((part) => part.key).join()}
            dropId={drop.id}
            number={at + 1}
            of={rides.length}
            parts={at === 0 ? [...ride, ...pictures] : ride}
            looks={looks}
            choices={choices}
            kit={kit}
            zone={ZONE}
            into={into.data ? ({ id: into.data.id, title: into.data.title } as never) : null}
            onChoose={choose}
            onPack={setPackId}
            onDone={rides.length > 1 ? () => undefined : onDone}
            onCancel={onDone}
          />
        ))}
    </>
  );
}

/** Which parts are of one ride: by their clocks, as soon as all of them are looked at. */
function useRides(
  drop: Drop,
  seen: Part[],
  looks: ReadonlyMap<number, Look>,
  choices: ReadonlyMap<number, Choice>,
  waiting: boolean,
): Part[][] {
  const timed = seen.filter((part) => {
    const look = looks.get(part.key);
    return (
      look !== undefined &&
      look.faults.length === 0 &&
      (look.kind === 'log' || (look.kind === 'track' && look.timed))
    );
  });
  const takes = timed.map((part) =>
    takeOf(part, looks.get(part.key), { ...(choices.get(part.key) ?? UNCHOSEN), left: false }),
  );
  const found = useQuery({
    queryKey: ['imports', drop.id, 'rides', takes.map((take) => [take.key, take.mapping?.time])],
    queryFn: async () =>
      unwrap(
        await api.POST('/api/imports/{drop_id}/rides', {
          params: { path: { drop_id: drop.id } },
          body: { id: drop.id, parts: takes, zone: ZONE } as never,
        }),
      ),
    enabled: !waiting && timed.length > 1,
    placeholderData: keepPreviousData,
    retry: false,
  }).data;
  const groups =
    timed.length > 1 ? (found ?? [timed.map((part) => part.key)]) : timed.map((part) => [part.key]);
  const inRides = new Set(groups.flat());
  const others = seen
    .filter((part) => looks.has(part.key) && !inRides.has(part.key))
    .map((part) => [part]);
  return [
    ...groups.map((keys) => seen.filter((part) => keys.includes(part.key))),
    ...others,
  ].filter((ride) => ride.length > 0);
}

/** All of an account out of its zip, whole or not at all. */
function AccountCard({ dropId, onDone }: { dropId: string; onDone: () => void }) {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const [id] = useState(() => crypto.randomUUID());
  const take = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.POST('/api/imports/{drop_id}/account/{brought_id}', {
          params: { path: { drop_id: dropId, brought_id: id } },
        }),
      ),
    onSuccess: async (brought) => {
      await queryClient.invalidateQueries();
      sayDone(say('saved-rides', { count: brought.tests.length }));
      onDone();
      navigate('/logbook');
    },
  });
  const faults = take.error instanceof ApiError ? (take.error.problem.faults ?? []) : [];
  return (
    <section className={classes.card}>
      <p>{say('it-is-an-account')}</p>
      {take.error && (
        <div role="alert">
          <Text fw={650}>{take.error.message}</Text>
          {faults.map((fault) => (
            <Text key={fault.message}>
              {fault.file} {fault.message}
            </Text>
          ))}
        </div>
      )}
      <div className={classes.foot}>
        <Button variant="filled" size="lg" loading={take.isPending} onClick={() => take.mutate()}>
          {say('take-all-of-it')}
        </Button>
      </div>
    </section>
  );
}

/** A bundle of Limpet's own is saved as it is. */
function BundleCard({ files, onDone }: { files: readonly File[]; onDone: () => void }) {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const [id] = useState(() => crypto.randomUUID());
  const take = useMutation({
    mutationFn: async () => {
      const body = new FormData();
      body.append('id', id);
      for (const file of files) body.append('files', file);
      return unwrap(
        await api.POST('/api/tests/import', { body: body as never, bodySerializer: () => body }),
      );
    },
    onSuccess: (test) => {
      queryClient.invalidateQueries({ queryKey: TESTS_KEY });
      sayDone(say('saved'));
      onDone();
      navigate(`/tests/${test.id}`);
    },
  });
  const faults = take.error instanceof ApiError ? (take.error.problem.faults ?? []) : [];
  return (
    <section className={classes.card}>
      <p>{say('it-is-a-bundle')}</p>
      {take.error && (
        <div role="alert">
          <Text fw={650}>{take.error.message}</Text>
          <ul>
            {faults.map((fault) => (
              <li key={`${fault.file}:${fault.line}:${fault.column}:${fault.message}`}>
                <b>
                  {fault.file}
                  {fault.line > 0 ? say('line-line', { line: fault.line }) : ''}
                  {fault.column > 0 ? say('column-column', { column: fault.column }) : ''}
                </b>{' '}
                {fault.message}
              </li>
            ))}
          </ul>
        </div>
      )}
      <div className={classes.foot}>
        <Button variant="filled" size="lg" loading={take.isPending} onClick={() => take.mutate()}>
          {say('save-the-bundle')}
        </Button>
      </div>
    </section>
  );
}
