import { localIso } from '../format/time';

/** The address of a calendar file whose first ride begins tomorrow at nine, by this device's clock. */
export function calendarFrom(address: string): string {
  const first = new Date();
  first.setDate(first.getDate() + 1);
  first.setHours(9, 0, 0, 0);
  return `${address}?first=${encodeURIComponent(localIso(first))}`;
}
