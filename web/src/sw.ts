/// <reference lib="webworker" />
import { cacheNames } from 'workbox-core';
import { cleanupOutdatedCaches, getCacheKeyForURL, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { NetworkFirst } from 'workbox-strategies';
import { keepShared } from './letin/shared';
import { sendKept } from './roadside/sender';

declare const self: ServiceWorkerGlobalScope;

/** How long a page may be waited for before the one that is kept is shown [s]. */
const PAGE_S = 0.8;
/** What the page asks for when it could not send by itself. */
const SEND = 'limpet-send';

precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();

/** The page of today where there is signal; the one that is kept where there is none, or a slow one. */
const page = new NetworkFirst({
  cacheName: cacheNames.precache,
  networkTimeoutSeconds: PAGE_S,
  plugins: [
    {
      // Every place is the same page, and it is kept with the scripts that it belongs to.
      cacheKeyWillBeUsed: async ({ request }) => getCacheKeyForURL('/') ?? request,
      cacheWillUpdate: async () => null,
      fetchDidSucceed: async ({ response }) => {
        // A server that has a problem answers too: its page is no help on the road.
        if (response.status >= 500) throw new Error(`the page came with ${response.status}`);
        return response;
      },
    },
  ],
});
registerRoute(
  new NavigationRoute(page, {
    denylist: [/^\/(api|admin|static|healthz|readyz|metrics|ca)(\/|$)/],
  }),
);

// What another app shares with the installed page.
registerRoute('/import', ({ request }) => keepShared(request), 'POST');

interface SyncEvent extends ExtendableEvent {
  readonly tag: string;
}

// The browser calls when there is signal again, though the page may be closed by then.
self.addEventListener('sync', (event) => {
  const { tag } = event as SyncEvent;
  if (tag !== SEND) return;
  (event as SyncEvent).waitUntil(
    sendKept().then(({ link }) => {
      // To be called again, as long as nothing answers.
      if (link === 'silent') throw new Error('no signal yet');
    }),
  );
});

// A new version takes over when its rider says so, and never in the middle of a ride.
self.addEventListener('message', (event) => {
  // The first words are those of a page that an earlier version opened.
  if (event.data === 'take over' || event.data?.type === 'SKIP_WAITING') self.skipWaiting();
});
