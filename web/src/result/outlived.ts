const MS_PER_MONTH = (365.25 / 12) * 86_400_000;

/** Whether a promise for so many months after a ride has run out; never where the ride's day is not known. */
export function isOutlived(
  months: number,
  startedAt: string | null | undefined,
  now: number,
): boolean {
  const begun = Date.parse(startedAt ?? '');
  return now - begun > months * MS_PER_MONTH;
}
