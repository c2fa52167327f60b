import { useSyncExternalStore } from 'react';
import { Workbox } from 'workbox-window';

const listeners = new Set<() => void>();
/** Whether a newer version is here and waits to be used. */
let waiting = false;
let workbox: Workbox | null = null;

/** Has the browser keep the application, so that it opens without a signal. */
export function keepApplication(): void {
  if (!('serviceWorker' in navigator) || !import.meta.env.PROD) return;
  workbox = new Workbox('/sw.js');
  // It may have come while its rider was on a ride, or before this window was opened; the very first
  // one has nothing to replace.
  workbox.addEventListener('waiting', found);
  // After the first page is there: keeping everything takes the line for a while.
  workbox
    .register()
    .then((registration) => {
      // One that was on its way before anybody listened is not told of.
      const coming = registration?.installing;
      coming?.addEventListener('statechange', () => coming.state === 'installed' && found());
    })
    .catch((error: unknown) => console.warn('Limpet is not saved for use without signal.', error));
}

function found(): void {
  if (navigator.serviceWorker.controller === null) return;
  waiting = true;
  for (const listener of listeners) listener();
}

function onNew(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Whether a newer version is here and waits to be used. */
export function useNewVersion(): boolean {
  return useSyncExternalStore(onNew, () => waiting);
}

/** Uses the newer version: it takes over, and the page is opened again by it. */
export function updateNow(): void {
  workbox?.addEventListener('controlling', () => window.location.reload());
  workbox?.messageSkipWaiting();
}

interface WithSync extends ServiceWorkerRegistration {
  sync?: { register: (tag: string) => Promise<void> };
}

/** Asks the browser to send what is kept once there is signal, where it can. */
export async function sendInBackground(): Promise<void> {
  const registration = (await navigator.serviceWorker?.getRegistration()) as WithSync | undefined;
  await registration?.sync?.register('limpet-send').catch(() => undefined);
}
