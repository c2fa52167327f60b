/// <reference lib="webworker" />
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { sendKept } from './roadside/sender';

declare const self: ServiceWorkerGlobalScope;

/** How long a page may be waited for before the one that is kept is shown [ms]. */
const PAGE_MS = 800;
/** What the page asks for when it could not send by itself. */
const SEND = 'limpet-send';

precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();

/** The page of today where there is signal; the one that is kept where there is none, or a slow one. */
registerRoute(
  new NavigationRoute(
    async ({ request }) => {
      const kept = await matchPrecache('/');
      const asked = fetch(request).then((answer) => (answer.ok || !kept ? answer : kept));
      if (!kept) return asked;
      const late = new Promise<Response>((done) => setTimeout(() => done(kept), PAGE_MS));
      return Promise.race([asked.catch(() => kept), late]);
    },
    { denylist: [/^\/(api|admin|static|healthz|readyz|metrics|ca)(\/|$)/] },
  ),
);

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
  if (event.data === 'take over') self.skipWaiting();
});
