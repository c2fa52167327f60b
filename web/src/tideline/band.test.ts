import { describe, expect, it } from 'vitest';
import type { Strip } from '../api/queries';
import { againstForecast, type Band, bandAt, bandPaths } from './band';

const BAND: Band = {
  distance_m: [0, 10_000, 20_000],
  low: [1, 0.4, 0],
  value: [1, 0.5, 0],
  high: [1, 0.6, 0.2],
};
const FRAME = {
  width: 220,
  height: 120,
  left: 10,
  right: 10,
  top: 10,
  bottom: 10,
  lengthM: 20_000,
};

function strip(metres: number, left: number): Strip {
  return {
    distance_m: [0, metres],
    energy_left: [1, left],
    marks: [],
    ridden_m: metres,
    cutoff_m: null,
    reserve: 0.2,
    measured: false,
    tides: [],
  };
}

describe('the forecast under a strip', () => {
  it('is read between its points', () => {
    expect(bandAt(BAND, 5000)).toEqual({ low: 0.7, value: 0.75, high: 0.8 });
    expect(bandAt(BAND, 20_000)).toEqual({ low: 0, value: 0, high: 0.2 });
    expect(bandAt(BAND, 20_001)).toBeNull();
  });

  it('says whether the ride is within it', () => {
    expect(againstForecast(BAND, strip(5000, 0.75))?.words).toBe('within the forecast');
    expect(againstForecast(BAND, strip(5000, 0.6))?.words).toMatch(/^worse/);
    expect(againstForecast(BAND, strip(5000, 0.9))?.words).toMatch(/^better/);
    // What reads the same as an edge of the band is within it: 69.6% is told as 70%, 80.4% as 80%.
    expect(againstForecast(BAND, strip(5000, 0.696))?.words).toBe('within the forecast');
    expect(againstForecast(BAND, strip(5000, 0.804))?.words).toBe('within the forecast');
    expect(againstForecast(BAND, strip(200, 0.5))).toBeNull();
  });

  it('is closed along its upper and its lower edge', () => {
    const paths = bandPaths(FRAME, BAND);
    expect(paths?.middle).toBe('M10.0 10.0L110.0 60.0L210.0 110.0');
    expect(paths?.outline.startsWith('M10.0 10.0L110.0 50.0')).toBe(true);
    expect(paths?.outline.endsWith('L110.0 70.0L10.0 10.0Z')).toBe(true);
  });

  it('stops at the frame', () => {
    expect(bandPaths({ ...FRAME, lengthM: 9000 }, BAND)).toBeNull();
  });
});
