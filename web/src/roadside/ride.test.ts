import { describe, expect, it } from 'vitest';
import type { TestDetail } from '../api/queries';
import { isStanding, lapsOf, lastOf, rideOf } from './ride';
import type { Act, KeptRide, Shown } from './store';

const TEST = 'a-test';
let seq = 0;

function act(id: string, shown: Shown, refused = ''): Act {
  seq += 1;
  const kind = shown.kind === 'nothing' ? 'sheet' : shown.kind;
  const sending = { method: 'PUT' as const, path: '' };
  return {
    seq,
    id,
    testId: TEST,
    owner: 'noor',
    kind,
    sending,
    shown,
    at: seq,
    version: '',
    refused,
  };
}

const noted = (id: string, time_s: number, more = {}, refused = '') =>
  act(id, { kind: 'entry', entry: { kind: 'checkpoint', time_s, ...more } }, refused);

function told(entries: object[], more: Partial<KeptRide> = {}): KeptRide {
  const detail = {
    title: 'Quay loop',
    started_at: '2026-05-14T09:00:00+02:00',
    state: 'riding',
    vehicle_name: 'Turnstone',
    pack_name: 'Eider-1',
    rider_name: 'Ines',
    sheet: { lap_length_m: 1720, pack: { full_v: 42, cutoff_v: 33 }, parts: {} },
    entries: entries.map((entry) => ({ changes: 0, earlier: [], questions: [], ...entry })),
  } as unknown as TestDetail;
  const blank = { plan: null, begun: null, taken: [], toldAt: 1000 };
  return { testId: TEST, owner: 'noor', detail, ...blank, ...more };
}

const ids = (ride: ReturnType<typeof rideOf>) => ride?.entries.map((entry) => entry.id);

describe('a ride as this device has it', () => {
  it('is nothing where nobody says what it is', () => {
    expect(rideOf(TEST, undefined, [noted('one', 1)])).toBeNull();
  });

  it('is there from its start on, before the server has heard of it', () => {
    const begun = { title: 'A ride', started_at: '2026-05-14T09:00:00Z', vehicle_name: 'Dunlin' };
    const start = act(TEST, { kind: 'start', begun: begun as never });
    const ride = rideOf(TEST, undefined, [start, noted('one', 5, { trip_m: 100 })]);
    expect(ride).toMatchObject({ title: 'A ride', vehicle_name: 'Dunlin', state: 'riding' });
    expect(ride?.entries).toMatchObject([{ id: 'one', trip_m: 100, where: 'unsent' }]);
  });

  it('holds the entries of both in order of time', () => {
    const server = told([
      { id: 'a', kind: 'start', time_s: 0 },
      { id: 'c', kind: 'checkpoint', time_s: 20 },
    ]);
    const ride = rideOf(TEST, server, [noted('b', 10)]);
    expect(ids(ride)).toEqual(['a', 'b', 'c']);
    expect(ride?.entries.map((entry) => entry.where)).toEqual(['stored', 'unsent', 'stored']);
  });

  it('shows a change made here in place of what the server has', () => {
    const server = told([{ id: 'a', kind: 'start', time_s: 0, trip_m: 5 }]);
    expect(rideOf(TEST, server, [noted('a', 0, { trip_m: 9 })])?.entries).toMatchObject([
      { id: 'a', trip_m: 9, where: 'unsent' },
    ]);
  });

  it('keeps what was taken since the server told the whole', () => {
    const server = told([{ id: 'a', kind: 'start', time_s: 0 }], {
      taken: [
        { id: 'b', entry: { kind: 'lap', time_s: 9, laps: 1 }, at: 2000 },
        { id: 'a', entry: null, at: 2001 },
      ],
    });
    expect(ids(rideOf(TEST, server, []))).toEqual(['b']);
  });

  it('lets a removal that was refused not have happened, and keeps a refused entry to be seen', () => {
    const server = told([{ id: 'a', kind: 'start', time_s: 0 }]);
    const ride = rideOf(TEST, server, [
      act('a', { kind: 'removal' }, 'No.'),
      noted('b', 3, {}, 'Not so.'),
    ]);
    expect(ride?.entries.map((entry) => [entry.id, entry.where])).toEqual([
      ['a', 'stored'],
      ['b', 'refused'],
    ]);
    expect(ride?.refused.map((one) => one.id)).toEqual(['a', 'b']);
  });

  it('ends and goes on again where that was done', () => {
    const end = act(TEST, { kind: 'ending', reason: 'home' });
    const again = act(TEST, { kind: 'again' });
    expect(rideOf(TEST, told([]), [end])?.state).toBe('ended');
    expect(rideOf(TEST, told([]), [end, again])?.state).toBe('riding');
    const taken = [{ id: TEST, entry: null, state: 'ended' as const, at: 2000 }];
    expect(rideOf(TEST, told([], { taken }), [])?.state).toBe('ended');
  });
});

describe('what the pad counts by', () => {
  const laps = (...counts: number[]) =>
    rideOf(
      TEST,
      told([]),
      counts.map((count, k) => noted(`l${k}`, k, { kind: 'lap', laps: count })),
    );

  it('is the laps noted so far, here or there', () => {
    expect(lapsOf(laps() as never)).toBe(0);
    expect(lapsOf(laps(1, 2) as never)).toBe(2);
  });

  it('is whether it stands, by the last stop or going on', () => {
    const ride = (...kinds: string[]) =>
      rideOf(
        TEST,
        told([]),
        kinds.map((kind, k) => noted(`s${k}`, k, { kind })),
      ) as never;
    expect(isStanding(ride('stop'))).toBe(true);
    expect(isStanding(ride('stop', 'resume'))).toBe(false);
    expect(isStanding(ride('stop', 'resume', 'lap', 'stop', 'checkpoint'))).toBe(true);
  });

  it('is the last reading of a kind, and when that was', () => {
    const ride = rideOf(TEST, told([]), [
      noted('a', 1, { voltage_rest_v: 41 }),
      noted('b', 9, { trip_m: 50 }),
    ]);
    expect(lastOf(ride as never, 'voltage_rest_v')).toEqual({ value: 41, time_s: 1 });
    expect(lastOf(ride as never, 'gauge')).toBeNull();
  });
});
