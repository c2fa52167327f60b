import { useSyncExternalStore } from 'react';

/** How often the palette has been asked for: it is loaded at the first time. */
let asked = 0;
const listeners = new Set<() => void>();

/** Opens the palette, from wherever. */
export function openPalette(): void {
  asked += 1;
  for (const listener of listeners) listener();
}

export function usePaletteAsked(): number {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => asked,
  );
}
