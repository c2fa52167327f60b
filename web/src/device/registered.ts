import { useSyncExternalStore } from 'react';

/** Has the browser keep the application, so that it opens without a signal. */
export function keepApplication(): void {
  if (!('serviceWorker' in navigator) || !import.meta.env.PROD) return;
  // After the first page is there: keeping everything takes the line for a while.
  window.addEventListener('load', () => {
    navigator.serviceWorker
      .register('/sw.js')
      .then(watchForNew)
      .catch((error: unknown) =>
        console.warn('Limpet is not saved for use without signal.', error),
      );
  });
}

/** The version that waits to be used; null while this one is the newest. */
let waiting: ServiceWorker | null = null;
const listeners = new Set<() => void>();

function found(worker: ServiceWorker | null): void {
  // The very first one has nothing to replace.
  if (worker === null || navigator.serviceWorker.controller === null) return;
  waiting = worker;
  for (const listener of listeners) listener();
}

function watchForNew(registration: ServiceWorkerRegistration): void {
  // It may have come while its rider was on a ride, or before this window was opened.
  found(registration.waiting);
  registration.addEventListener('updatefound', () => {
    const coming = registration.installing;
    coming?.addEventListener('statechange', () => {
      if (coming.state === 'installed') found(coming);
    });
  });
}

function onNew(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Whether a newer version is here and waits to be used. */
export function useNewVersion(): boolean {
  return useSyncExternalStore(onNew, () => waiting !== null);
}

/** Uses the newer version: it takes over, and the page is opened again by it. */
export function updateNow(): void {
  navigator.serviceWorker.addEventListener('controllerchange', () => window.location.reload(), {
    once: true,
  });
  waiting?.postMessage('take over');
}

interface WithSync extends ServiceWorkerRegistration {
  sync?: { register: (tag: string) => Promise<void> };
}

/** Asks the browser to send what is kept once there is signal, where it can. */
export async function sendInBackground(): Promise<void> {
  const registration = (await navigator.serviceWorker?.getRegistration()) as WithSync | undefined;
  await registration?.sync?.register('limpet-send').catch(() => undefined);
}
