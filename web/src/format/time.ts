/** A moment with this device's offset from UTC: a ride's clock is the rider's clock. */
export function localIso(moment: Date): string {
  const minutes = -moment.getTimezoneOffset();
  const shifted = new Date(moment.getTime() + minutes * 60_000).toISOString().slice(0, 19);
  return `${shifted}${offset(minutes)}`;
}

/** This device's offset from UTC at a local time such as "2026-05-14 09:12:00". */
export function offsetOf(local: string): string {
  return offset(-new Date(local.replace(' ', 'T')).getTimezoneOffset());
}

function offset(minutes: number): string {
  const two = (value: number) => String(Math.floor(Math.abs(value))).padStart(2, '0');
  return `${minutes < 0 ? '-' : '+'}${two(minutes / 60)}:${two(minutes % 60)}`;
}
