import { say } from '../words/en/device.ftl';

/** Off by less than this nobody's entries suffer [s]. */
const NOTABLE_S = 90;

/** What a device's clock is off, by a server's; positive where the device is ahead [s]. */
let ahead_s: number | null = null;
const listeners = new Set<() => void>();

/** A server's answer says what time it has; it was on its way for so long [ms]. */
export function heardDate(date: string | null, askedAt: number, now = Date.now()): void {
  const told = date === null ? Number.NaN : Date.parse(date);
  if (Number.isNaN(told)) return;
  // The header counts whole seconds, and was written somewhere between asking and hearing.
  const off = ((askedAt + now) / 2 - told - 500) / 1000;
  const before = clockTrouble();
  ahead_s = off;
  if (clockTrouble() !== before) for (const listener of listeners) listener();
}

export function onClock(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** What is wrong with this device's clock, in words; empty where nothing is. */
export function clockTrouble(): string {
  if (ahead_s === null || Math.abs(ahead_s) < NOTABLE_S) return '';
  const off = Math.abs(ahead_s);
  const words = off < 5400 ? `${Math.round(off / 60)} min` : `${(off / 3600).toFixed(1)} h`;
  return say('this-phones-clock-is-the', {
    words,
    ahead_s: ahead_s > 0 ? say('ahead-of') : say('behind'),
  });
}

/** How far wall time has run beside a clock that only counts up, since a moment before [s]. */
export function jumpOf(before: { wall: number; mono: number }, wall: number, mono: number): number {
  const jump = (wall - before.wall - (mono - before.mono)) / 1000;
  return Math.abs(jump) < NOTABLE_S ? 0 : jump;
}

/** A jump of the clock while a ride is shown, in words. */
export function jumpWords(jump_s: number): string {
  const minutes = Math.round(Math.abs(jump_s) / 60);
  return say('this-phones-clock-jumped-min', {
    minutes,
    jump_s: jump_s > 0 ? say('forward') : say('back'),
  });
}
