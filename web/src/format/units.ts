import type { Figures, Quantity, Units } from '../api/queries';
import { say } from '../words/en/format.ftl';
import { LOCALE } from '../words/locale';
import { inReaders, lineOf } from './fields';
import { decimals, number } from './number';

export { number } from './number';

type Kind = Parameters<typeof lineOf>[0];

/** One word for all that a rider has chosen, to keep apart what you entered in other units. */
export function unitsKey({ distance, mass, temperature, pressure }: Units): string {
  return [distance, mass, temperature, pressure].join(' ');
}

/** A quantity in the unit that the rider reads. */
function text(kind: Kind, value: number, units: Units): string {
  const { unit, decimals: digits } = lineOf(kind, units);
  return `${number(inReaders(kind, value, units), digits ?? undefined)} ${unit}`;
}

export function distance(metres: number, units: Units): number {
  return inReaders('distance', metres, units);
}

export function distanceText(metres: number, units: Units): string {
  return text('distance', metres, units);
}

/** Speed in the unit that goes with the distance. */
export function speed(metresPerSecond: number, units: Units): number {
  return inReaders('speed', metresPerSecond, units);
}

export function speedUnit(units: Units): string {
  return lineOf('speed', units).unit;
}

export function speedText(metresPerSecond: number, units: Units): string {
  return text('speed', metresPerSecond, units);
}

export function height(metres: number, units: Units): number {
  return inReaders('length', metres, units);
}

export function heightUnit(units: Units): string {
  return lineOf('length', units).unit;
}

export function heightText(metres: number, units: Units): string {
  return text('length', metres, units);
}

export function massText(kg: number, units: Units): string {
  if (units.mass !== 'st') return text('mass', kg, units);
  const pounds = inReaders('mass', kg, units);
  return `${Math.floor(pounds / 14)} st ${Math.round(pounds % 14)} lb`;
}

export function temperatureText(celsius: number, units: Units): string {
  return text('temperature', celsius, units);
}

export function pressureText(kpa: number, units: Units): string {
  return text('pressure', kpa, units);
}

export function consumptionText(whPerKm: number, units: Units): string {
  return text('consumption', whPerKm, units);
}

export function windText(metresPerSecond: number, units: Units): string {
  return say('wind-metres-per-second', { metres_per_second: speedText(metresPerSecond, units) });
}

export interface Figure {
  value: string;
  unit: string;
  plusMinus: string;
  span: string;
}

function figure(quantity: Quantity, scale: (value: number) => number, unit: string): Figure {
  const value = scale(quantity.value);
  const digits = decimals(value);
  const half = (scale(quantity.high) - scale(quantity.low)) / 2;
  return {
    value: number(value, digits),
    unit,
    plusMinus: number(half, Math.max(digits, half < 1 ? 1 : 0)),
    span: say('span-low-to-high', {
      low: number(scale(quantity.low), digits),
      high: number(scale(quantity.high), digits),
    }),
  };
}

export function distanceFigure(quantity: Quantity, units: Units): Figure {
  return figure(quantity, (metres) => distance(metres, units), units.distance);
}

export function plainFigure(quantity: Quantity, unit: string, factor = 1): Figure {
  return figure(quantity, (value) => value * factor, unit);
}

/** Consumption in the unit read first, and in the other. */
export function consumptionFigures(
  figures: Pick<Figures, 'wh_per_km' | 'wh_per_mi'>,
  units: Units,
): [Figure, Figure] | null {
  if (figures.wh_per_mi == null || figures.wh_per_km == null) return null;
  const perMile = plainFigure(figures.wh_per_mi, 'Wh/mi');
  const perKm = plainFigure(figures.wh_per_km, 'Wh/km');
  return units.distance === 'mi' ? [perMile, perKm] : [perKm, perMile];
}

export function percent(share: number): string {
  // A share that is little is not nought.
  const little = Math.abs(share) >= 0.0005 && Math.abs(share) < 0.005;
  return `${number(share * 100, little ? 1 : 0)}%`;
}

/** A chance in percent: nothing is ever certain, nor ruled out. */
export function chance(share: number): string {
  if (share > 0.995) return say('over-99');
  if (share < 0.005) return say('under-one-percent');
  return percent(share);
}

/** How long ago something was; what is under a minute ago is just now. */
export function agoText(seconds: number): string {
  return seconds < 60 ? say('just-now') : say('seconds-ago', { seconds: elapsed(seconds) });
}

/** Elapsed time as h:mm or, under an hour, m min. */
export function elapsed(seconds: number): string {
  const minutes = Math.floor(seconds / 60);
  if (minutes < 60) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
}

/** Clock time of a moment in a test, in the zone the test was noted in. */
export function clock(startedAt: string | null | undefined, seconds: number): string {
  const found = startedAt?.match(/T(\d\d):(\d\d)(?::(\d\d))?/);
  if (!found) return elapsed(seconds);
  const total = Number(found[1]) * 3600 + Number(found[2]) * 60 + Number(found[3] ?? 0) + seconds;
  const minutes = Math.floor(total / 60) % (24 * 60);
  const two = (value: number) => String(value).padStart(2, '0');
  return `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;
}

/** The day of a test, as noted. */
export function day(startedAt: string | null | undefined): string {
  const date = startedAt?.slice(0, 10);
  if (!date) return say('undated');
  return new Date(`${date}T12:00:00Z`).toLocaleDateString(LOCALE, {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    timeZone: 'UTC',
  });
}
