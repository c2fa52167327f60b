import { describe, expect, it } from 'vitest';
import type { Follow, Units } from '../api/queries';
import type { Ride, RideEntry } from '../roadside/ride';
import rides from '../roadside/start-rides.json';
import values from '../roadside/start-values.json';
import { startTable } from '../roadside/startTable';
import type { StartSaid } from '../roadside/store';
import { shownOf, stepPassed } from './shown';

const MI: Units = { distance: 'mi', mass: 'lb', temperature: '°F', pressure: 'psi' };
const BICYCLE = rides['a bicycle, volts'].said as StartSaid;
const entry = (id: string, km: number, read: Partial<RideEntry> = {}): RideEntry => ({
  id,
  kind: km === 0 ? 'start' : 'checkpoint',
  time_s: km * 180,
  trip_m: km * 1000,
  where: 'stored',
  changes: 0,
  ...read,
});
const START = entry('a', 0, { voltage_rest_v: 54.2 });

function follow(ids: string[], cutoff_km: number[], revision = ids.length): Follow {
  return {
    at_s: 1440,
    evidence: {
      revision,
      digest: `${revision}`,
      core: 'one',
      sheet_changes: 1,
      entries: ids.map((id) => ({ id, changes: 0 })),
    },
    matter: { code: 'turn_now', values: { arrives: 0.5, reaches: 0.9, reserve: 0.2 } },
    strip: {
      distance_m: [0],
      energy_left: [1],
      marks: [],
      cutoff_m: cutoff_km.map((k) => 1000 * k),
    },
    distance: { value: 8000 },
    reads: null,
    consumption: null,
    warnings: [],
  } as unknown as Follow;
}

function ride(entries: RideEntry[], more: Partial<Ride> = {}): Ride {
  const table = startTable(values, BICYCLE, null);
  const none = { unsent: [], refused: [], detail: null, plan: null, follow: null, previous: null };
  return {
    ...none,
    state: 'riding',
    entries,
    table,
    revision: 2,
    ahead: null,
    followedAt: 0,
    ...more,
  } as unknown as Ride;
}

describe('what a ride’s page shows', () => {
  it('is of start values where nobody has judged the ride, and says so', () => {
    const shown = shownOf(ride([START, entry('b', 8, { voltage_rest_v: 51.2 })]), MI);
    expect(shown).toMatchObject({ state: 'device', startValues: true, moved: '' });
    expect(shown.soFar_m).toBe(8000);
    expect(shown.strip?.cutoff_m?.[1]).toBeGreaterThan(9000);
  });

  it('tells no number of readings that cannot all be true, by its own estimate too', () => {
    const entries = [54.2, 44, 53.9, 43.5].map((voltage_rest_v, k) =>
      entry(String(k), 4 * k, { voltage_rest_v }),
    );
    const shown = shownOf(ride(entries), MI);
    expect(shown).toMatchObject({ state: 'device', code: 'contradict', consumption: null });
    expect(shown.headline).toBe('These readings can’t all be true');
    expect(shown.strip).toMatchObject({ energy_left: [], marks: [], cutoff_m: null });
  });

  it('says a step in speed of the vehicle’s own that the last reading has passed', () => {
    const steps = [
      { name: 'gauge' as const, at: 20, what: '20%', speed_mps: 4 },
      { name: 'voltage_load_v' as const, at: 44, what: '44 V under load', speed_mps: 3 },
    ];
    const table = { ...startTable(values, BICYCLE, 100), steps };
    const code = (...read: Array<Partial<RideEntry>>) =>
      stepPassed(table, [START, ...read.map((one, k) => entry(`${k}`, 4 + k, one))]);
    expect(code({ gauge: 21 })).toBeNull();
    expect(code({ gauge: 20 })).toBe('speed_step');
    expect(code({ gauge: 20 }, { gauge: 25 })).toBeNull();
    expect(code({ voltage_load_v: 44 })).toBeNull();
    expect(code({ voltage_load_v: 43.9 })).toBe('speed_step');
    expect(code({ voltage_load_v: 43.9 }, { kind: 'swap' })).toBeNull();
    expect(stepPassed(null, [START])).toBeNull();
    const low = ride([START, entry('b', 8, { gauge: 15 })], { table });
    expect(shownOf(low, MI).headline).toMatch(/cut its speed/);
  });

  it('says what moved an answer out of the interval of the one before', () => {
    const entries = [START, entry('b', 8, { voltage_rest_v: 44 })];
    const previous = { cutoff_m: [30_000, 40_000, 50_000], entries: [{ id: 'a', changes: 0 }] };
    const now = shownOf(ride(entries, { follow: follow(['a', 'b'], [9, 11, 14]), previous }), MI);
    expect(now.state).toBe('now');
    expect(now.moved).toMatch(/because of the resting volts$/);
    const same = shownOf(ride(entries, { follow: follow(['a', 'b'], [30, 41, 50]), previous }), MI);
    expect(same.moved).toBe('');
  });

  it('says it of this device’s own estimate, too', () => {
    const before = follow(['a'], [30, 40, 50]);
    const low = entry('b', 8, { voltage_rest_v: 44 });
    const table = { ...startTable(values, BICYCLE, null), evidence: before.evidence };
    const shown = shownOf(ride([START, low], { follow: before, table }), MI);
    expect(shown.state).toBe('device');
    expect(shown.moved).toMatch(/because of the resting volts$/);
  });
});
