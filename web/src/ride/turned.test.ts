import { describe, expect, it } from 'vitest';
import type { Ride } from '../roadside/ride';
import { comesBack } from '../roadside/track';
import { asksTurned } from './turned';

const entries = (kinds: string[]) => kinds.map((kind) => ({ kind })) as unknown as Ride['entries'];
const ride = (more: Partial<Ride> = {}): Ride =>
  ({
    entries: entries(['start', 'checkpoint']),
    plan: null,
    state: 'riding',
    ahead: null,
    ...more,
  }) as Ride;
const shown = (code: 'turn_now' | 'turn_by' | 'home', soFar_m = 5000) => ({
  code,
  state: 'now' as const,
  soFar_m,
});
const STILL = { comesBack: false };

describe('"Did you turn back?"', () => {
  it('is asked when the track comes back, or the line says to turn', () => {
    expect(asksTurned(ride(), shown('turn_by'), { comesBack: true })).toBe(true);
    expect(asksTurned(ride(), shown('turn_now'), STILL)).toBe(true);
    expect(asksTurned(ride(), shown('turn_by'), STILL)).toBe(false);
  });

  it('is asked once: not of who has turned, ended, or goes another way', () => {
    const turned = ride({ entries: entries(['start', 'turn']) });
    expect(asksTurned(turned, shown('turn_now'), { comesBack: true })).toBe(false);
    expect(asksTurned(ride({ state: 'ended' }), shown('turn_now'), STILL)).toBe(false);
    const given = ride({ ahead: { way: 'given', until_m: 9000 } });
    expect(asksTurned(given, shown('turn_now'), { comesBack: true })).toBe(false);
    const older = { ...shown('turn_now'), state: 'older' as const };
    expect(asksTurned(ride(), older, STILL)).toBe(false);
  });

  it('is asked of a planned way once its own turn is passed', () => {
    const plan = {
      asked: { and_back: true },
      answer: { forecast: { route: { distance_m: 12_000 } } },
    } as unknown as Ride['plan'];
    expect(asksTurned(ride({ plan }), shown('home', 6100), STILL)).toBe(false);
    expect(asksTurned(ride({ plan }), shown('home', 6300), STILL)).toBe(true);
  });
});

describe('a track', () => {
  const at = (latitude_deg: number) => ({
    time_s: 0,
    latitude_deg,
    longitude_deg: 5,
    altitude_m: null,
    speed_mps: null,
  });
  // A thousandth of a degree of latitude is 111 m.
  const track = (last: number, furthest_m: number) => ({
    first: at(50),
    last: at(last),
    furthest_m,
  });

  it('comes back when it is nearer again by more than a bend', () => {
    expect(comesBack(track(50.008, 2000))).toBe(true);
    expect(comesBack(track(50.016, 2000))).toBe(false);
    expect(comesBack(track(50.001, 400))).toBe(false);
    expect(comesBack({ first: undefined, last: null, furthest_m: 0 })).toBe(false);
  });
});
