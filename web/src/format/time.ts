/** A moment with this device's offset from UTC: a ride's clock is the rider's clock. */
export function localIso(moment: Date): string {
  const minutes = -moment.getTimezoneOffset();
  const shifted = new Date(moment.getTime() + minutes * 60_000).toISOString().slice(0, 19);
  const two = (value: number) => String(Math.floor(Math.abs(value))).padStart(2, '0');
  return `${shifted}${minutes < 0 ? '-' : '+'}${two(minutes / 60)}:${two(minutes % 60)}`;
}
