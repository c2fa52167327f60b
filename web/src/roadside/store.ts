import Dexie, { type EntityTable } from 'dexie';
import type { Follow, FollowTable, Plan, TestDetail } from '../api/queries';
import type { Readings } from './entry';

/** What a rider did, as it is sent: each is on this device before it shows. */
export type ActKind =
  | 'kit'
  | 'start'
  | 'entry'
  | 'removal'
  | 'back'
  | 'ending'
  | 'again'
  | 'sheet'
  | 'piece'
  | 'photo';

export interface Sending {
  method: 'PUT' | 'POST' | 'DELETE';
  path: string;
  body?: unknown;
}

/** What a ride that the server does not know yet is called, and what its pad needs to know. */
export interface BegunHere {
  title: string;
  started_at: string;
  vehicle_name: string;
  pack_name: string;
  rider_name: string;
  lap_length_m: number | null;
  full_v: number | null;
  cutoff_v: number | null;
  most_v?: number | null;
}

/** What the ride shows of an act until the server has answered. */
export type Shown =
  | { kind: 'start'; begun: BegunHere }
  | { kind: 'entry'; entry: Readings }
  | { kind: 'removal' }
  | { kind: 'ending'; reason: string }
  | { kind: 'again' }
  | { kind: 'nothing' };

/** Something that is on this device and not yet known to be on the server's disk. */
export interface Act {
  seq: number;
  /** Of what it changes: an entry, a test, a piece of kit. */
  id: string;
  testId: string;
  /** Whose it is: nobody else's sign-in sends it. */
  owner: string;
  kind: ActKind;
  sending: Sending;
  shown: Shown;
  at: number;
  /** Made anew with every body: what was sent may no longer be what is kept under the id. */
  version: string;
  /** Why the server did not take it, once it has said so. */
  refused: string;
  /** Somebody else changed the same thing meanwhile: both are kept until one is chosen. */
  conflict?: boolean;
}

/** What was taken by the server since it last told the whole ride; null was taken out. */
export interface Taken {
  id: string;
  entry: Readings | null;
  state?: 'riding' | 'ended';
  at: number;
  /** The evidence that it made, and how often the entry had been changed by then. */
  revision?: number;
  changes?: number;
}

/** What was chosen before a ride began, as far as start values ask for it. */
export interface StartSaid {
  vehicle_name: string;
  kind: string;
  chemistry: string;
  /** Null where nobody said how many cells there are, or how much is in them. */
  series: number | null;
  rated_ah: number | null;
  rated_wh: number | null;
  charge: 'just_charged' | 'not_full' | '';
  packs: number;
  packs_use: string | null;
  reserve: number | null;
  lap_length_m: number | null;
}

/** A table for this device, with what it was made from; of start values, with what was said of them. */
export type KeptTable = FollowTable & {
  evidence: Follow['evidence'];
  ahead?: Ahead | null;
  start_values?: StartSaid;
};

/** The way that is left, in the rider's word: back as it came, a length with a climb, or laps. */
export interface Ahead {
  way: 'back' | 'given' | 'lap';
  from_m?: number;
  until_m?: number;
  climb_m?: number;
  laps?: number;
}

/** What an answer said of where the pack ends [m: low, middle, high], and of which entries. */
export interface KeptAnswer {
  cutoff_m: readonly number[] | null;
  entries: ReadonlyArray<{ id: string; changes?: number }>;
}

/** A ride as the server last told it, and what it has taken since. */
export interface KeptRide {
  testId: string;
  owner: string;
  detail: TestDetail | null;
  plan: Plan | null;
  begun: BegunHere | null;
  taken: Taken[];
  /** When the server last told it, on this device's clock; 0 when it never did. */
  toldAt: number;
  /** How the server last judged it, with the table for this device, and when that was asked. */
  follow?: Follow | null;
  table?: KeptTable | null;
  followedAt?: number;
  /** The answer before that one, of other evidence for the same way. */
  previous?: KeptAnswer | null;
  /** The way that is left as its rider says it; the plan's or the way back where nothing is said. */
  ahead?: Ahead | null;
}

/**
 * A track that this device records: its stream, the piece that comes next, how far and where it is.
 * It is a row of its own, for it is written at every fix, and a ride with its answers is long.
 */
export interface Track {
  testId: string;
  streamId: string;
  next: number;
  metres: number;
  last: Point | null;
  /** Where it began, and how far from there it has been; missing in tracks of older versions. */
  first?: Point;
  furthest_m?: number;
  /** Fixes that are in no piece yet, and when the first of them was. */
  waiting: number;
  waitingSince_s: number;
}

/** A fix of this device's own position. */
export interface Point {
  time_s: number;
  latitude_deg: number;
  longitude_deg: number;
  altitude_m: number | null;
  speed_mps: number | null;
}

/** A fix that is not in a piece yet. */
export interface KeptPoint extends Point {
  id: number;
  testId: string;
}

interface Setting {
  key: string;
  value: unknown;
}

/** What one account did on this device and has not sent, for nobody else to read. */
export interface Sealed {
  owner: string;
  iv: Uint8Array<ArrayBuffer>;
  data: ArrayBuffer;
}

class Roadside extends Dexie {
  acts!: EntityTable<Act, 'seq'>;
  rides!: EntityTable<KeptRide, 'testId'>;
  settings!: EntityTable<Setting, 'key'>;
  points!: EntityTable<KeptPoint, 'id'>;
  tracks!: EntityTable<Track, 'testId'>;
  /** What was fetched, for where there is no signal. */
  cache!: EntityTable<Setting, 'key'>;
  sealed!: EntityTable<Sealed & { id: number }, 'id'>;

  constructor() {
    super('limpet-roadside');
    this.version(1).stores({ kept: 'id, testId' });
    this.version(2)
      .stores({ kept: 'id, testId' })
      .upgrade((change) =>
        change.table('kept').toCollection().modify({ version: 'kept before versions' }),
      );
    // Entries alone were kept until then: each becomes an act, in the order in which it was noted.
    this.version(3)
      .stores({
        kept: null,
        acts: '++seq, id, testId, owner',
        rides: 'testId, owner',
        settings: 'key',
        cache: 'key',
      })
      .upgrade(async (change) => {
        const kept = (await change.table('kept').toArray()) as OldEntry[];
        kept.sort((a, b) => a.keptAt - b.keptAt);
        await change.table('acts').bulkAdd(kept.map(actOfOld));
      });
    this.version(4).stores({ points: '++id, testId' });
    this.version(6).stores({ sealed: '++id, owner' });
    // Tracks were a part of their ride until then.
    this.version(5)
      .stores({ tracks: 'testId' })
      .upgrade(async (change) => {
        const rides = (await change.table('rides').toArray()) as OldRide[];
        for (const { testId, track, ...rest } of rides) {
          if (!track) continue;
          const points: KeptPoint[] = await change
            .table('points')
            .where('testId')
            .equals(testId)
            .sortBy('id');
          const waiting = { waiting: points.length, waitingSince_s: points[0]?.time_s ?? 0 };
          await change.table('tracks').add({ ...track, ...waiting, testId });
          await change.table('rides').put({ ...rest, testId });
        }
      });
  }
}

/** An entry as the second version of the store kept it. */
interface OldEntry {
  id: string;
  testId: string;
  body: Readings;
  keptAt: number;
  version: string;
  refused?: string;
}

/** A ride as the fourth version of the store kept it. */
interface OldRide extends KeptRide {
  track?: Pick<Track, 'streamId' | 'next' | 'metres' | 'last'> | null;
}

/** Whose the first versions' entries were, nobody wrote down: whoever is signed in sends them. */
export const ANYBODY = '';

function actOfOld(old: OldEntry): Omit<Act, 'seq'> {
  return {
    id: old.id,
    testId: old.testId,
    owner: ANYBODY,
    kind: 'entry',
    sending: { method: 'PUT', path: entryPath(old.testId, old.id), body: old.body },
    shown: { kind: 'entry', entry: old.body },
    at: old.keptAt,
    version: old.version,
    refused: old.refused ?? '',
  };
}

export function entryPath(testId: string, entryId: string): string {
  return `/api/tests/${testId}/entries/${entryId}`;
}

export const store = new Roadside();
