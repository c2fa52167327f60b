import { notifications } from '@mantine/notifications';

/** Has the browser keep the application, so that it opens without a signal. */
export function keepApplication(): void {
  if (!('serviceWorker' in navigator) || !import.meta.env.PROD) return;
  // After the first page is there: keeping everything takes the line for a while.
  window.addEventListener('load', () => {
    navigator.serviceWorker
      .register('/sw.js')
      .then(watchForNew)
      .catch((error: unknown) => console.warn('Limpet is not kept for use without signal.', error));
  });
}

function watchForNew(registration: ServiceWorkerRegistration): void {
  registration.addEventListener('updatefound', () => {
    const coming = registration.installing;
    coming?.addEventListener('statechange', () => {
      const isNew = coming.state === 'installed' && navigator.serviceWorker.controller !== null;
      if (!isNew || window.location.pathname.startsWith('/ride/')) return;
      notifications.show({
        id: 'new-version',
        autoClose: false,
        message:
          'A new version of Limpet is here. It is used when all its windows were closed once.',
      });
    });
  });
}

interface WithSync extends ServiceWorkerRegistration {
  sync?: { register: (tag: string) => Promise<void> };
}

/** Asks the browser to send what is kept once there is signal, where it can. */
export async function sendInBackground(): Promise<void> {
  const registration = (await navigator.serviceWorker?.getRegistration()) as WithSync | undefined;
  await registration?.sync?.register('limpet-send').catch(() => undefined);
}
