import core from '../api/core.json';
import type { Forecast, Units } from '../api/queries';
import { say } from '../words/en/format.ftl';
import { type FormField, inReaders, lineOf } from './fields';
import { number, withUnit } from './number';

type Kind = FormField['kind'];

const INPUTS: Record<string, { kind: string | null } | undefined> = core.inputs;

/** The kind of an input by its name; null for a bare number or a share. */
export function kindOf(input: string): Kind | null {
  const kind = INPUTS[input]?.kind ?? null;
  return kind === 'percent' ? null : (kind as Kind | null);
}

/** An input's value, its spread and their unit, as the rider reads them. */
export function inputText(
  input: { name: string; value: number; standard_uncertainty: number },
  units: Units,
): { value: string; spread: string; unit: string } {
  const kind = kindOf(input.name);
  if (INPUTS[input.name]?.kind === 'percent') {
    return {
      value: String(Number((100 * input.value).toPrecision(4))),
      spread: String(Number((100 * input.standard_uncertainty).toPrecision(2))),
      unit: '%',
    };
  }
  const factor = kind === null ? 1 : lineOf(kind, units).factor;
  const value = kind === null ? input.value : inReaders(kind, input.value, units);
  return {
    value: String(Number(value.toPrecision(4))),
    spread: String(Number((input.standard_uncertainty / factor).toPrecision(2))),
    unit: kind === null ? '' : lineOf(kind, units).unit,
  };
}

/** The span over which an input was swung, in the rider's units. */
export function spanText(swing: Forecast['sensitivity'][number], units: Units): string {
  const { from, to, input } = swing;
  if (input.endsWith('_factor')) return say('half-to-one-and-a');
  const kind = kindOf(input);
  const percent = INPUTS[input]?.kind === 'percent';
  const shown = (value: number) => {
    const size = percent ? 100 * value : kind === null ? value : inReaders(kind, value, units);
    return Math.abs(size) < 0.1 && size !== 0 ? size.toPrecision(2) : number(size, digitsOf(size));
  };
  const own = kind === null ? null : lineOf(kind, units).decimals;
  const digitsOf = (size: number) => own ?? (Math.abs(size) < 10 ? 2 : 0);
  const unit = percent ? '%' : kind === null ? '' : lineOf(kind, units).unit;
  return say('swing-from-to', { from: shown(from), to: withUnit(shown(to), unit) });
}
