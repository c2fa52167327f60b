import { describe, expect, it } from 'vitest';
import type { Strip } from '../api/queries';
import {
  type Frame,
  forecastPaths,
  groundOf,
  linePaths,
  placeLabels,
  reachOf,
  ticks,
  ticksApart,
  xOf,
  yOf,
} from './geometry';

const frame: Frame = {
  width: 220,
  height: 120,
  left: 10,
  right: 10,
  top: 10,
  bottom: 10,
  lengthM: 1000,
};

const strip = (changes: Partial<Strip> = {}): Strip => ({
  distance_m: [0, 250, 500],
  energy_left: [1, 0.7, 0.4],
  marks: [],
  ridden_m: 500,
  cutoff_m: [700, 800, 1000],
  reserve: 0.2,
  measured: false,
  tides: [],
  ...changes,
});

describe('a frame', () => {
  it('lays distance along and energy down', () => {
    expect(xOf(frame, 0)).toBe(10);
    expect(xOf(frame, 1000)).toBe(210);
    expect(yOf(frame, 1)).toBe(10);
    expect(yOf(frame, 0)).toBe(110);
  });
});

describe('the ground', () => {
  it('is never of feet: a ride that has hardly begun has a kilometre of it', () => {
    const begun = strip({ distance_m: [0, 16], energy_left: [1, 0.99], cutoff_m: null });
    expect(groundOf(begun, null)).toBe(1000);
    expect(groundOf(begun, { distance_m: [0, 9000] })).toBeCloseTo(9360);
  });
});

describe('a tideline', () => {
  it('ebbs through its points and closes down to empty', () => {
    const found = linePaths(frame, strip());
    expect(found?.line).toBe('M10.0 10.0L60.0 40.0L110.0 70.0');
    expect(found?.area).toBe('M10.0 10.0L60.0 40.0L110.0 70.0L110.0 110.0L10.0 110.0Z');
  });

  it('is not drawn where the energy is not known', () => {
    expect(linePaths(frame, strip({ distance_m: [], energy_left: [] }))).toBeNull();
    expect(forecastPaths(frame, strip({ distance_m: [], energy_left: [] }))).toBeNull();
  });

  it('goes on as a band from its end to where it may end', () => {
    const found = forecastPaths(frame, strip());
    expect(found?.middle).toBe('M110.0 70.0L170.0 110.0');
    expect(found?.band).toBe('M110.0 70.0L150.0 110.0L210.0 110.0Z');
  });

  it('never turns its band back before the end of the ride', () => {
    const found = forecastPaths(frame, strip({ cutoff_m: [400, 800, 1000] }));
    expect(found?.band).toContain('L110.0 110.0');
  });

  it('has no band when it was ridden to its end or nothing is foreseen', () => {
    expect(forecastPaths(frame, strip({ measured: true }))).toBeNull();
    expect(forecastPaths(frame, strip({ cutoff_m: null }))).toBeNull();
  });

  it('reaches as far as it may go, but a wild guess does not squeeze it', () => {
    expect(reachOf(strip())).toBe(1000);
    expect(reachOf(strip({ cutoff_m: [700, 800, 9000] }))).toBeCloseTo(1080);
    expect(reachOf(strip({ cutoff_m: null }))).toBe(500);
    expect(reachOf(strip({ cutoff_m: null, ridden_m: null }))).toBe(0);
  });
});

describe('an axis', () => {
  it.each([
    [33, [0, 10, 20, 30]],
    [4.2, [0, 1, 2, 3, 4]],
    [100, [0, 20, 40, 60, 80, 100]],
    [0, [0]],
  ])('to %s has round steps', (longest, expected) => {
    expect(ticks(longest)).toEqual(expected);
  });

  it('has fewer steps where its labels would run into each other', () => {
    expect(ticksApart(42, 1000, 6)).toEqual([0, 10, 20, 30, 40]);
    expect(ticksApart(42, 300, 9)).toEqual([0, 10, 20, 30, 40]);
    expect(ticksApart(42, 300, 18)).toEqual([0, 20, 40]);
    expect(ticksApart(1200, 300, 18)).toEqual([0, 500, 1000]);
    expect(ticksApart(0, 300, 9)).toEqual([0]);
  });

  it('takes a step that is asked for', () => {
    expect(ticks(500, 90)).toEqual([0, 100, 200, 300, 400, 500]);
  });
});

describe('labels', () => {
  it('leave out what would run into another, the weightier first', () => {
    const placed = placeLabels(
      [
        { x: 20, text: 'start', weight: 2 },
        { x: 30, text: '52.0 V', weight: 1 },
        { x: 200, text: 'end', weight: 2 },
      ],
      6,
    );
    expect(placed.map((label) => label.text)).toEqual(['start', 'end']);
  });

  it('all stay where there is room', () => {
    const wanted = [0, 100, 200].map((x) => ({ x, text: '50.0 V', weight: 1 }));
    expect(placeLabels(wanted, 6)).toHaveLength(3);
  });
});
