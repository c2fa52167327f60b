import { describe, expect, it } from 'vitest';
import file from '../../../src/limpet/practice/ride.json';
import {
  begun,
  displayAt,
  later,
  logOf,
  noted,
  type Play,
  type Practice,
  readOf,
  ride,
  stop,
  truthAt,
} from './play';

const PRACTICE = file as unknown as Practice;
const out = (seconds: number) => later(PRACTICE, ride(PRACTICE, begun()), seconds);

describe('the practice ride', () => {
  it('stands still until it is ridden', () => {
    expect(later(PRACTICE, begun(), 600)).toEqual(begun());
    expect(displayAt(PRACTICE, begun()).volts).toBeCloseTo(42.04, 1);
  });

  it('shows what the core has in its rows, and between them', () => {
    const { out: rows, step_s } = PRACTICE;
    const at = truthAt(PRACTICE, { way: null, movingS: 100 * step_s });
    expect(at.distance_m).toBe(rows.distance_m[100]);
    expect(at.voltage_v).toBeCloseTo((rows.voltage_cv[100] ?? 0) / 100);
    const half = truthAt(PRACTICE, { way: null, movingS: 100.5 * step_s });
    const mean = ((rows.distance_m[100] ?? 0) + (rows.distance_m[101] ?? 0)) / 2;
    expect(half.distance_m).toBeCloseTo(mean);
  });

  it.each(PRACTICE.ways.map((way, index) => [way.turn_m, index] as const))(
    'ends where its last row does after a turn at %i m',
    (_, way) => {
      const rows = PRACTICE.ways[way]?.rows;
      const movingS = rows?.ends_s ?? 0;
      expect(truthAt(PRACTICE, { way, movingS }).distance_m).toBe(rows?.distance_m.at(-1));
    },
  );

  it('turns at the next stone and not before', () => {
    const asked: Play = { ...out(500), turning: true };
    const from = truthAt(PRACTICE, asked).distance_m;
    const home = later(PRACTICE, asked, 400);
    const stone = Math.ceil(from / 1000) * 1000;
    expect(home.way === null ? null : PRACTICE.ways[home.way]?.turn_m).toBe(stone);
    expect(home.entries.map((one) => one.body.kind)).toEqual(['turn']);
    expect(home.turning).toBe(false);
    const there = truthAt(PRACTICE, { ...home, movingS: home.entries[0]?.body.time_s ?? 0 });
    expect(Math.abs(there.distance_m - stone)).toBeLessThan(20);
  });

  it('turns by itself where the road ends, and is over where the drive cuts off', () => {
    const end = later(PRACTICE, out(0), 3 * 3600);
    expect(end.phase).toBe('over');
    expect(end.way).toBe(PRACTICE.ways.length - 1);
    expect(end.movingS).toBe(PRACTICE.ways.at(-1)?.rows.ends_s);
  });

  it('comes home from a near stone', () => {
    const turned: Play = { ...out(100), turning: true };
    const end = later(PRACTICE, turned, 3600);
    expect(end.phase).toBe('over');
    expect(PRACTICE.ways[end.way ?? -1]?.home).toBe(true);
  });

  it('lets the volts come back while it stands, and takes them again slowly', () => {
    const moving = out(900);
    const standing = stop(moving);
    const { settled_v, lag_v } = truthAt(PRACTICE, moving);
    expect(displayAt(PRACTICE, standing).volts).toBeCloseTo(settled_v - lag_v);
    const rested = later(PRACTICE, standing, 900);
    expect(displayAt(PRACTICE, rested).volts).toBeCloseTo(settled_v, 2);
    expect(rested.movingS).toBe(moving.movingS);
    expect(rested.clockS).toBeCloseTo(moving.clockS + 900);
    const on = ride(PRACTICE, rested);
    const pulled = truthAt(PRACTICE, on).voltage_v;
    expect(displayAt(PRACTICE, on).volts).toBeCloseTo(pulled + lag_v, 1);
    expect(later(PRACTICE, on, 900).gain).toEqual(on.gain);
    expect(on.entries.map((one) => one.body.kind)).toEqual(['stop', 'resume']);
  });

  it('counts its trip long', () => {
    const { trip_m } = displayAt(PRACTICE, out(900));
    const { distance_m } = truthAt(PRACTICE, out(900));
    expect(trip_m / distance_m).toBeCloseTo(PRACTICE.trip_scale);
  });

  it('sends a log that ends, once', () => {
    const entry = {
      id: 'a',
      body: { kind: 'end' as const, time_s: 9 },
      shown: { kind: 'end' as const, time_s: 9 },
    };
    expect(logOf(out(60)).map((one) => one.kind)).toEqual(['end']);
    expect(logOf(noted(out(60), entry as never)).map((one) => one.kind)).toEqual(['end']);
    expect(readOf(noted(stop(out(60)), entry as never))).toHaveLength(1);
  });
});
