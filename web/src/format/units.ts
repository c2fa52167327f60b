import type { Figures, Quantity, Units } from '../api/queries';

const METRES_PER_MILE = 1609.344;
const POUNDS_PER_KG = 1 / 0.45359237;

/** How many decimals a figure deserves beside its size. */
function decimals(value: number): number {
  const size = Math.abs(value);
  return size >= 100 ? 0 : 1;
}

export function number(value: number, digits = decimals(value)): string {
  const text = value.toFixed(digits);
  return (Number(text) === 0 ? (0).toFixed(digits) : text).replace('-', '−');
}

export function distance(metres: number, units: Units): number {
  return metres / (units.distance === 'mi' ? METRES_PER_MILE : 1000);
}

export function distanceText(metres: number, units: Units): string {
  return `${number(distance(metres, units))} ${units.distance}`;
}

/** Speed in the unit that goes with the distance. */
export function speed(metresPerSecond: number, units: Units): number {
  return distance(metresPerSecond * 3600, units);
}

export function speedUnit(units: Units): string {
  return units.distance === 'mi' ? 'mph' : 'km/h';
}

export function height(metres: number, units: Units): number {
  return units.distance === 'mi' ? metres / 0.3048 : metres;
}

export function heightUnit(units: Units): string {
  return units.distance === 'mi' ? 'ft' : 'm';
}

export function massText(kg: number, units: Units): string {
  if (units.mass === 'kg') return `${number(kg, 0)} kg`;
  const pounds = kg * POUNDS_PER_KG;
  if (units.mass === 'lb') return `${number(pounds, 0)} lb`;
  return `${Math.floor(pounds / 14)} st ${Math.round(pounds % 14)} lb`;
}

export function temperatureText(celsius: number, units: Units): string {
  return units.temperature === '°C'
    ? `${number(celsius, 0)} °C`
    : `${number(celsius * 1.8 + 32, 0)} °F`;
}

export function pressureText(kpa: number, units: Units): string {
  if (units.pressure === 'kPa') return `${number(kpa, 0)} kPa`;
  if (units.pressure === 'bar') return `${number(kpa / 100, 1)} bar`;
  return `${number(kpa / 6.894757, 0)} psi`;
}

export function windText(metresPerSecond: number, units: Units): string {
  return `wind ${number(speed(metresPerSecond, units), 0)} ${speedUnit(units)}`;
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
    span: `${number(scale(quantity.low), digits)} – ${number(scale(quantity.high), digits)}`,
  };
}

export function distanceFigure(quantity: Quantity, units: Units): Figure {
  return figure(quantity, (metres) => distance(metres, units), units.distance);
}

export function plainFigure(quantity: Quantity, unit: string, factor = 1): Figure {
  return figure(quantity, (value) => value * factor, unit);
}

/** Consumption in the unit read first, and in the other. */
export function consumptionFigures(figures: Figures, units: Units): [Figure, Figure] | null {
  if (figures.wh_per_mi == null || figures.wh_per_km == null) return null;
  const perMile = plainFigure(figures.wh_per_mi, 'Wh/mi');
  const perKm = plainFigure(figures.wh_per_km, 'Wh/km');
  return units.distance === 'mi' ? [perMile, perKm] : [perKm, perMile];
}

export function percent(share: number): string {
  return `${number(share * 100, 0)}\u00a0%`;
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
  if (!date) return 'undated';
  return new Date(`${date}T12:00:00Z`).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    timeZone: 'UTC',
  });
}

/** A typed quantity with the unit its field shows, unless it brings its own. */
/** The same for a field that must hold something: the server says so when it is empty. */
export function typedWithUnit(typed: string, unit: string): string {
  return withUnit(typed, unit) ?? '';
}

export function withUnit(typed: string, unit: string): string | null {
  const text = typed.trim();
  if (text === '') return null;
  return /[^\d\s.,+\-' ]/.test(text) ? text : `${text} ${unit}`;
}
