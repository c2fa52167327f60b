import core from '../api/core.json';
import type { Quantity } from '../api/queries';

/** A band wider than its figure is told as a span: the figure alone would say too much. */
export function isSpan(quantity: Quantity): boolean {
  return quantity.high - quantity.low > core.span_of_figure * Math.abs(quantity.value);
}
