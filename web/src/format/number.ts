/** How many decimals a figure deserves beside its size. */
export function decimals(value: number): number {
  return Math.abs(value) >= 100 ? 0 : 1;
}

/** A number as it is read: a true minus, and never a negative nothing. */
export function number(value: number, digits = decimals(value)): string {
  const text = value.toFixed(digits);
  return (Number(text) === 0 ? (0).toFixed(digits) : text).replace('-', '−');
}
