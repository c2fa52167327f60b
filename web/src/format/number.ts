import { LOCALE } from '../words/locale';

/** Made once for each number of decimals: making one takes longer than using it. */
const FORMATS = new Map<number, Intl.NumberFormat>();

/** How many decimals a figure deserves beside its size. */
export function decimals(value: number): number {
  return Math.abs(value) >= 100 ? 0 : 1;
}

/** A number as it is read: a true minus, and never a negative nothing. */
export function number(value: number, digits = decimals(value)): string {
  let format = FORMATS.get(digits);
  if (format === undefined) {
    format = new Intl.NumberFormat(LOCALE, {
      minimumFractionDigits: digits,
      maximumFractionDigits: digits,
      signDisplay: 'negative',
    });
    FORMATS.set(digits, format);
  }
  return format.format(value).replace('-', '−');
}

/** A number's text and its unit: percent stands close, every other unit a space away that no line breaks. */
export function withUnit(text: string, unit: string): string {
  return unit === '' || unit === '%' || unit === '°' ? `${text}${unit}` : `${text}\u00a0${unit}`;
}
