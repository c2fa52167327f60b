/** Seconds since a ride began, now; it never began in the future. */
export function sinceStart(startedAt: string | null): number {
  const begun = startedAt ? new Date(startedAt).getTime() : Date.now();
  return Math.max((Date.now() - begun) / 1000, 0);
}
