import type { Quantity } from '../api/queries';

/** A band wider than its figure is told as a span: the figure alone would say too much. */
export function isSpan(quantity: Quantity): boolean {
  return quantity.high - quantity.low > Math.abs(quantity.value);
}
