import type { Follow, Pack, Plan, TestDetail } from '../api/queries';
import { type Readings, saidBy } from './entry';
import type { Act, Ahead, BegunHere, KeptAnswer, KeptRide, KeptTable } from './store';

export interface RideEntry extends Readings {
  id: string;
  /** Whether it is on the server's disk, on this device alone, or was not taken. */
  where: 'stored' | 'unsent' | 'refused';
  /** How often it had been changed when the server last told it; missing where it never did. */
  changes?: number;
}

/** A ride as this device has it: what the server told, with all that was done here since. */
export interface Ride {
  id: string;
  title: string;
  started_at: string | null;
  state: 'riding' | 'ended';
  vehicle_name: string;
  pack_name: string;
  rider_name: string;
  lap_length_m: number | null;
  full_v: number | null;
  cutoff_v: number | null;
  /** The most that such cells can have; null where nobody knows how many there are. */
  most_v: number | null;
  /** In the order in which they were noted. */
  entries: RideEntry[];
  detail: TestDetail | null;
  plan: Plan | null;
  toldAt: number;
  /** The newest evidence of this ride that the server has told of. */
  revision: number;
  /** How the server last judged it, for the way that is wanted now. */
  follow: Follow | null;
  table: KeptTable | null;
  followedAt: number;
  /** The server's answer before that one. */
  previous: KeptAnswer | null;
  ahead: Ahead | null;
  unsent: Act[];
  refused: Act[];
}

/**
 * A ride from what is kept of it and the acts that are still here, in their order; null when neither
 * says what it is. A later act of the same entry stands in for an earlier one.
 */
export function rideOf(testId: string, kept: KeptRide | undefined, acts: Act[]): Ride | null {
  const begun = begunOf(kept, acts);
  if (begun === null) return null;
  const detail = kept?.detail ?? null;
  const entries = new Map<string, RideEntry>();
  for (const entry of detail?.entries ?? []) {
    const { id, changes } = entry;
    entries.set(id, { ...saidBy(entry), id, changes, where: 'stored' });
  }
  let state: Ride['state'] = detail?.state === 'ended' ? 'ended' : 'riding';
  for (const taken of kept?.taken ?? []) {
    if (taken.state) state = taken.state;
    else if (taken.entry === null) entries.delete(taken.id);
    else {
      const { id, changes } = taken;
      entries.set(id, { ...taken.entry, id, changes, where: 'stored' });
    }
  }
  for (const act of acts) {
    const { shown } = act;
    if (shown.kind === 'entry') {
      const where = act.refused ? 'refused' : 'unsent';
      // How often the one beneath was changed: what is sent next says what it was made from.
      const changes = entries.get(act.id)?.changes;
      entries.set(act.id, { ...shown.entry, id: act.id, changes, where });
    } else if (act.refused) {
      // What was not taken has not happened.
    } else if (shown.kind === 'removal') entries.delete(act.id);
    else if (shown.kind === 'ending') state = 'ended';
    else if (shown.kind === 'again') state = 'riding';
  }
  return {
    id: testId,
    ...begun,
    state,
    entries: [...entries.values()].sort((a, b) => a.time_s - b.time_s),
    detail,
    plan: kept?.plan ?? null,
    toldAt: kept?.toldAt ?? 0,
    revision: Math.max(
      detail?.revision ?? 0,
      kept?.follow?.evidence?.revision ?? 0,
      ...(kept?.taken ?? []).map((taken) => taken.revision ?? 0),
    ),
    // What was kept by a version that named no evidence is no answer any more.
    follow: kept?.follow?.evidence ? kept.follow : null,
    table: kept?.table?.evidence && kept.table.follow_table === 2 ? kept.table : null,
    followedAt: kept?.followedAt ?? 0,
    previous: kept?.previous ?? null,
    ahead: kept?.ahead ?? null,
    unsent: acts.filter((act) => !act.refused),
    refused: acts.filter((act) => act.refused),
  };
}

function begunOf(
  kept: KeptRide | undefined,
  acts: Act[],
): (BegunHere & Pick<Ride, 'most_v'>) | null {
  const detail = kept?.detail;
  if (detail) {
    return {
      title: detail.title,
      started_at: detail.started_at ?? '',
      vehicle_name: detail.vehicle_name,
      pack_name: detail.pack_name,
      rider_name: detail.rider_name,
      lap_length_m: detail.sheet?.lap_length_m ?? null,
      ...voltsOf(detail.sheet?.pack),
    };
  }
  const start = acts.find((act) => act.shown.kind === 'start')?.shown;
  const begun = start?.kind === 'start' ? start.begun : (kept?.begun ?? null);
  // What was begun by an older version says nothing of the most.
  return begun && { ...begun, most_v: begun.most_v ?? null };
}

/** What an entry says, without what this device knows of it. */
export function saidIn(entry: RideEntry): Readings {
  const { id: _, where: __, changes: ___, ...said } = entry;
  return said;
}

type PackVolts = Partial<
  Pick<Pack, 'full_v' | 'cutoff_v' | 'likely_full_v' | 'likely_cutoff_v' | 'most_v'>
>;

/** What a pack's volts may read, by what was said of it or what is likely. */
export function voltsOf(pack: PackVolts | undefined): Pick<Ride, 'full_v' | 'cutoff_v' | 'most_v'> {
  return {
    full_v: pack?.full_v ?? pack?.likely_full_v ?? null,
    cutoff_v: pack?.cutoff_v ?? pack?.likely_cutoff_v ?? null,
    most_v: pack?.most_v ?? null,
  };
}

/** Laps completed so far: what was counted last, wherever it was counted. */
export function lapsOf(ride: Pick<Ride, 'entries'>): number {
  return Math.max(0, ...ride.entries.map((entry) => Math.floor(entry.laps ?? 0)));
}

/** Whether it stands still, as far as was noted. */
export function isStanding(ride: Pick<Ride, 'entries'>): boolean {
  const last = ride.entries.filter((entry) => entry.kind === 'stop' || entry.kind === 'resume');
  return last.at(-1)?.kind === 'stop';
}

/** The last reading of a kind, with when it was read. */
export function lastOf(
  ride: Pick<Ride, 'entries'>,
  name: keyof Readings,
): { value: number; time_s: number } | null {
  const found = ride.entries.findLast((entry) => typeof entry[name] === 'number');
  return found ? { value: found[name] as number, time_s: found.time_s } : null;
}
