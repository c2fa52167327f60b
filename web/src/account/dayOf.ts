import { LOCALE } from '../words/locale';
/** A moment as a day and a time, to the minute, in the reader’s own clock. */
export function dayOf(moment: string): string {
  const how = { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' } as const;
  return new Date(moment).toLocaleString(LOCALE, how);
}
