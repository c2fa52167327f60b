import type { Follow, FollowTable, Plan, TestDetail } from '../api/queries';
import { whoIsHere } from './acts';
import { isNewer, sameAhead } from './evidence';
import { rideOf } from './ride';
import {
  type Ahead,
  type BegunHere,
  type KeptAnswer,
  type KeptRide,
  type StartSaid,
  store,
  type Taken,
} from './store';

/** Rides that stay on this device, newest first; older ones are on the server. */
const MOST_RIDES = 10;

/**
 * Keeps what the server told of a ride. An answer may have left before something was taken: what was
 * taken since it was asked for stays beside it.
 */
export async function keepTold(
  owner: string,
  testId: string,
  detail: TestDetail,
  plan: Plan | null | undefined,
  askedAt: number,
): Promise<void> {
  await store.transaction('rw', store.rides, async () => {
    const before = await store.rides.get(testId);
    if (before && before.toldAt > askedAt) return;
    await store.rides.put({
      ...(before ?? untold(owner, testId)),
      owner,
      detail,
      plan: plan === undefined ? (before?.plan ?? null) : plan,
      taken: (before?.taken ?? []).filter((taken) => taken.at >= askedAt),
      toldAt: askedAt,
    });
    await prune(testId);
  });
}

/** Room for this ride's server answers: the oldest others go. */
async function prune(keep: string): Promise<void> {
  const all = await store.rides.toArray();
  const old = all
    .filter((ride) => ride.testId !== keep)
    .sort((a, b) => b.toldAt - a.toldAt)
    .slice(MOST_RIDES - 1);
  await store.rides.bulkDelete(old.map((ride) => ride.testId));
}

/**
 * Keeps how the server judged a ride; the table comes after the answer, and stays until a newer one. An
 * answer for another way, or of older evidence than one that is here, comes too late.
 */
export async function keepFollowed(
  testId: string,
  ahead: Ahead | null,
  follow: Follow,
  askedAt: number,
): Promise<void> {
  await store.transaction('rw', store.rides, store.settings, async () => {
    const before = await store.rides.get(testId);
    if (!before || !sameAhead(before.ahead ?? null, ahead)) return;
    const known = before.follow?.evidence;
    if (known && !isNewer(known, follow.evidence)) return;
    if (known?.revision === follow.evidence.revision && (before.followedAt ?? 0) > askedAt) return;
    const { table, ...rest } = follow;
    const { evidence } = follow;
    const kept = before.table ?? null;
    // A table of another core is not mixed with an answer of this one; and where readings contradict each
    // other, one of before would go on telling numbers. That of start values is of no core, and all there is
    // when the signal goes before the ride's own table has come.
    const foreign = !kept?.start_values && kept?.evidence?.core !== evidence.core;
    const goes = foreign || follow.matter?.code === 'contradict';
    const stays = goes ? null : kept;
    await store.rides.put({
      ...before,
      follow: { ...rest, table: null },
      table: table ? { ...table, at_s: fromWhen(table, evidence), evidence, ahead } : stays,
      followedAt: askedAt,
      previous:
        before.follow && known?.digest !== evidence.digest
          ? answerOf(before.follow)
          : (before.previous ?? null),
    });
    const { reads } = follow;
    const name = before.detail?.vehicle_name;
    if (reads && name) await store.settings.put({ key: readsOf(name), value: reads });
  });
}

/** What an answer said, for the one after it to be held against. */
export function answerOf(follow: Follow): KeptAnswer {
  // One that an older version kept may have no strip.
  return { cutoff_m: follow.strip?.cutoff_m ?? null, entries: follow.evidence.entries };
}

/** Under which key it is kept how a vehicle's own instrument reads; the next ride begins with it. */
const readsOf = (vehicle_name: string) => `reads ${vehicle_name}`;

/** After when entries are news to a table: of one that was made before anything was noted, all are. */
function fromWhen(table: FollowTable, evidence: Follow['evidence']): number {
  return evidence.entries.length === 0 ? Math.min(table.at_s, -1) : table.at_s;
}

/** Keeps what the rider says of the way that is left; what was judged of another way goes. */
export async function keepAhead(testId: string, ahead: Ahead | null): Promise<void> {
  const owner = await whoIsHere();
  await store.transaction('rw', store.rides, async () => {
    const before = (await store.rides.get(testId)) ?? untold(owner, testId);
    // The table stays: by it the device has an answer for the new way at once.
    await store.rides.put({ ...before, ahead, follow: null, followedAt: 0, previous: null });
  });
}

/** A ride that this device knows of, by its name. */
export interface RideHere {
  id: string;
  title: string;
  started_at: string;
  ended: boolean;
}

/** Rides of whoever is here that this device keeps, the newest first. */
export async function ridesHere(): Promise<RideHere[]> {
  const who = await whoIsHere();
  const [kept, acts] = await Promise.all([
    store.rides.where('owner').equals(who).toArray(),
    store.acts.where('owner').equals(who).sortBy('seq'),
  ]);
  const ids = new Set([...kept.map((ride) => ride.testId), ...acts.map((act) => act.testId)]);
  const rides = [...ids].flatMap((id) => {
    const own = acts.filter((act) => act.testId === id);
    const ride = rideOf(
      id,
      kept.find((one) => one.testId === id),
      own,
    );
    if (ride === null) return [];
    const ended = ride.state === 'ended';
    return [{ id, title: ride.title, started_at: ride.started_at ?? '', ended }];
  });
  return rides.sort((a, b) => b.started_at.localeCompare(a.started_at));
}

export function untold(owner: string, testId: string): KeptRide {
  return { testId, owner, detail: null, plan: null, begun: null, taken: [], toldAt: 0 };
}

/** The plan of a ride that begins here, with the table that was made of it in advance. */
export async function keepPlan(testId: string, plan: Plan, followed: Follow | null): Promise<void> {
  const owner = await whoIsHere();
  await store.transaction('rw', store.rides, async () => {
    const before = (await store.rides.get(testId)) ?? untold(owner, testId);
    const table = followed?.table;
    // Every entry of the ride comes after it, the one before the first metre too.
    const { evidence } = followed ?? {};
    const kept = table && evidence ? { ...table, at_s: -1, evidence, ahead: null } : null;
    await store.rides.put({ ...before, plan, table: kept });
  });
}

/**
 * Leaves the start values' own table of a ride on this device, where no better one is: it may begin without
 * anybody having been asked.
 *
 * @param said what was chosen before it began; of a ride that has such a table, undefined keeps that
 */
export async function keepStartTable(
  testId: string,
  said: StartSaid | undefined,
  gaugeSteps: number | null,
): Promise<void> {
  const owner = await whoIsHere();
  // The page ships with them: they come from this device where there is no signal.
  const [{ default: values }, { startTable }] = await Promise.all([
    import('./start-values.json'),
    import('./startTable'),
  ]);
  await store.transaction('rw', store.rides, store.settings, async () => {
    const before = (await store.rides.get(testId)) ?? untold(owner, testId);
    const about = said ?? before.table?.start_values;
    if (!about || (before.table && !before.table.start_values)) return;
    const read = (await store.settings.get(readsOf(about.vehicle_name)))?.value as Follow['reads'];
    const reads = read ? { ...read, shown_m: 0, at_m: 0 } : null;
    await store.rides.put({
      ...before,
      table: { ...startTable(values, about, gaugeSteps), reads },
    });
  });
}

/** Adds what the server has just taken; within the transaction that forgets its act. */
export async function addTaken(
  owner: string,
  testId: string,
  taken: Taken | null,
  begun: BegunHere | null,
): Promise<void> {
  const before = (await store.rides.get(testId)) ?? untold(owner, testId);
  await store.rides.put({
    ...before,
    begun: begun ?? before.begun,
    taken: taken ? [...before.taken, taken] : before.taken,
  });
}
