import type { Forecast, Strip } from '../api/queries';
import { say } from '../words/en/tideline.ftl';
import { type Frame, xOf, yOf } from './geometry';

/** A forecast along the way: energy left, its middle and its 95% band. */
export interface Band {
  distance_m: number[];
  low: number[];
  value: number[];
  high: number[];
}

/** A place on the strip with a word. */
export interface Flag {
  distance_m: number;
  text: string;
  /** Of two that run into each other the heavier is labelled. */
  weight: number;
}

export function bandOf(forecast: Forecast): Band {
  return {
    distance_m: forecast.profile.map((point) => point.distance_m),
    low: forecast.profile.map((point) => point.energy_left_fraction.low),
    value: forecast.profile.map((point) => point.energy_left_fraction.value),
    high: forecast.profile.map((point) => point.energy_left_fraction.high),
  };
}

/** A strip with nothing on it yet: in Plan it is all band. */
export function emptyStrip(forecast: Forecast): Strip {
  const { low, value, high } = forecast.range_to_cutoff;
  return {
    distance_m: [],
    energy_left: [],
    marks: [],
    ridden_m: null,
    cutoff_m: [low, value, high],
    reserve: forecast.reserve,
    measured: false,
    tides: [],
  };
}

/** The band's outline and its middle line, as far as the frame goes. */
export function bandPaths(frame: Frame, band: Band): { outline: string; middle: string } | null {
  const rows = band.distance_m
    .map((metres, index) => ({
      x: xOf(frame, Math.min(metres, frame.lengthM)),
      low: yOf(frame, band.low[index] ?? 0),
      middle: yOf(frame, band.value[index] ?? 0),
      high: yOf(frame, band.high[index] ?? 0),
      inside: metres <= frame.lengthM * 1.02,
    }))
    .filter((row) => row.inside);
  if (rows.length < 2) return null;
  const line = (y: 'low' | 'middle' | 'high', from = rows) =>
    from.map((row) => `${row.x.toFixed(1)} ${row[y].toFixed(1)}`).join('L');
  return {
    outline: `M${line('high')}L${line('low', rows.slice().reverse())}Z`,
    middle: `M${line('middle')}`,
  };
}

/** The forecast at a distance, between its points. */
export function bandAt(
  band: Band,
  metres: number,
): { low: number; value: number; high: number } | null {
  const after = band.distance_m.findIndex((at) => at >= metres);
  if (after < 0) return null;
  const before = Math.max(after - 1, 0);
  const from = band.distance_m[before] ?? 0;
  const to = band.distance_m[after] ?? 0;
  const part = to > from ? (metres - from) / (to - from) : 0;
  const between = (values: number[]) =>
    (values[before] ?? 0) + part * ((values[after] ?? 0) - (values[before] ?? 0));
  return { low: between(band.low), value: between(band.value), high: between(band.high) };
}

/** How the ride so far stands to its forecast, in words. */
export function againstForecast(
  band: Band,
  strip: Strip,
): { words: string; left: number; low: number; high: number } | null {
  const metres = strip.distance_m.at(-1);
  const left = strip.energy_left.at(-1);
  if (metres === undefined || left === undefined || metres < 500) return null;
  const expected = bandAt(band, metres);
  if (expected === null) return null;
  // As it is shown: of two figures that read alike none is worse.
  const whole = (share: number) => Math.round(share * 100);
  const words =
    whole(left) > whole(expected.high)
      ? say('better-than-the-forecasts-band')
      : whole(left) < whole(expected.low)
        ? say('worse-than-the-forecasts-band')
        : say('within-the-forecast');
  return { words, left, low: expected.low, high: expected.high };
}
