/** Labels of a drawing at the usual text size [px]. */
export const LABEL_PX = 12.5;
/** On paper the text is small; a drawing's labels shrink no further than this [-]. */
const LEAST = 0.8;

/** How much larger than usual the reader has set the text. */
export function textScale(): number {
  const size = Number.parseFloat(getComputedStyle(document.documentElement).fontSize);
  return Number.isFinite(size) && size > 0 ? Math.max(size / 16, LEAST) : 1;
}
