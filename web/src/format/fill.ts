import type { Units } from '../api/queries';
import { chance, distanceText, number, percent, speedText } from './units';

/**
 * A line of the core's with its values, in the reader's units (`limpet.notices.words`): fields read
 * `{name:kind}`, values are in the core's units.
 */
export type Values = Record<string, number | string>;

export function fill(template: string, values: Values, units: Units): string {
  return template.replace(/\{(\w+)(?::([^}]+))?\}/g, (_, name: string, kind = '') => {
    const value = values[name];
    if (value === undefined) return '–';
    if (typeof value === 'string') return value;
    if (kind === 'distance') return tight(distanceText(value, units));
    if (kind === 'speed') return tight(speedText(value, units));
    if (kind === 'percent') return percent(value);
    if (kind === 'chance_of') return chance(value);
    return number(value, Number(kind.match(/^\.(\d)f$/)?.[1] ?? 0));
  });
}

/** A figure and its unit stay on one line. */
function tight(text: string): string {
  return text.replace(' ', '\u00a0');
}
