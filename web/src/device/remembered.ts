/** Of what is remembered this is the device's own, whoever uses it: the rest goes with its rider. */
export const OF_THE_DEVICE: ReadonlySet<string> = new Set(['limpet-color-scheme']);

/** What this browser remembers. A browser that keeps nothing, or keeps it broken, forgets quietly. */
export function remembered<T>(
  key: string,
  isOne: (value: unknown) => value is T,
  store: () => Storage = () => localStorage,
): T | null {
  try {
    const value: unknown = JSON.parse(store().getItem(key) ?? 'null');
    return isOne(value) ? value : null;
  } catch {
    return null;
  }
}

/** Remembers a value, or forgets it when it is null; without room for it nothing happens. */
export function remember(
  key: string,
  value: unknown,
  store: () => Storage = () => localStorage,
): void {
  try {
    if (value === null) store().removeItem(key);
    else store().setItem(key, JSON.stringify(value));
  } catch {
    // Private windows and full disks refuse; what is remembered is a convenience.
  }
}

export function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

export function isListOfWords(value: unknown): value is string[] {
  return Array.isArray(value) && value.every((item) => typeof item === 'string');
}
