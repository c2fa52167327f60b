import type { Schemas } from '../api/client';
import method from '../api/method.json';
import type { Units } from '../api/queries';
import { type FormField, inReaders, lineOf } from '../format/fields';
import { decimals, number } from '../format/number';

export type Working = Schemas['WorkingOut'];
type Number_ = Schemas['NumberOut'];

interface Symbol_ {
  name: string;
  latex: string;
  words: string;
  kind: string | null;
  percent: boolean;
}

export interface Formula {
  name: string;
  group: string;
  title: string;
  latex: string;
  typeset: string;
  symbols: Symbol_[];
  source: string;
  about: string;
}

export const FORMULAS = method.formulas as Formula[];
export const TERMS: Record<string, { name: string; meaning: string }> = method.terms;
export const SCHOOLS = method.schools;

export function formulaOf(name: string): Formula | undefined {
  return FORMULAS.find((formula) => formula.name === name);
}

/** The groups of formulas in their order. */
export function groupsOf(): Array<{ group: string; formulas: Formula[] }> {
  const groups = [...new Set(FORMULAS.map((formula) => formula.group))];
  return groups.map((group) => ({
    group,
    formulas: FORMULAS.filter((formula) => formula.group === group),
  }));
}

/** A number as it stands in a formula: in the reader's unit, with as many digits as it carries. */
export function shownNumber(
  symbol: Pick<Symbol_, 'kind' | 'percent'>,
  value: number,
  units: Units,
): { value: string; unit: string } {
  if (symbol.percent) return { value: number(value * 100, 1), unit: '%' };
  if (symbol.kind === null) return { value: number(value, decimals(value)), unit: '' };
  const kind = symbol.kind as FormField['kind'];
  const size = inReaders(kind, value, units);
  const { unit } = lineOf(kind, units);
  const digits = Math.abs(size) < 0.1 ? 4 : Math.abs(size) < 100 ? 2 : 1;
  return { value: number(size, digits), unit };
}

/** The formula with this test's numbers where its letters stood. */
export function withNumbers(formula: Formula, working: Working, units: Units): string {
  return formula.latex.replace(/<([a-zA-Z0-9_]+)>/g, (_, name: string) => {
    const symbol = formula.symbols.find((item) => item.name === name);
    const found = working.numbers.find((item: Number_) => item.symbol === name);
    if (symbol === undefined) return name;
    if (found === undefined) return symbol.latex;
    const shown = shownNumber(symbol, found.value, units);
    const unit = shown.unit === '%' ? '\\,\\%' : shown.unit ? `\\,\\text{${shown.unit}}` : '';
    // Thousands stay together in mathematics as they do in text.
    return `{${shown.value.replace(/,/g, '{,}')}${unit}}`;
  });
}
