import { useSyncExternalStore } from 'react';

/** Files that were dropped or shared somewhere, until the place that looks at them is open. */
let waiting: File[] = [];
const listeners = new Set<() => void>();

function changed() {
  for (const listener of listeners) listener();
}

/** Hand files over to the place that looks at them. */
export function bring(files: readonly File[]) {
  waiting = [...files];
  changed();
}

/** Take what was handed over; it is nobody else's then. */
export function takeBrought(): File[] {
  const files = waiting;
  waiting = [];
  if (files.length > 0) changed();
  return files;
}

/** How many files wait to be looked at. */
export function useBrought(): number {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => waiting.length,
  );
}
