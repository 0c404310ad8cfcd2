/// <reference lib="webworker" />
import { ExpirationPlugin } from 'workbox-expiration';
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { CacheFirst, type StrategyOptions } from 'workbox-strategies';

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] };

// The application itself is kept, so that a reload without a network opens it. Data is kept by the page, in its database.
precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();
registerRoute(new NavigationRoute(createHandlerBoundToURL('/index.html'), { denylist: [/^\/api\//] }));

// A picture never changes under its address. Only an answer of 200 is kept.
const pictures = {
  cacheName: 'pictures',
  plugins: [new ExpirationPlugin({ maxEntries: 3000, purgeOnQuotaError: true })],
} as StrategyOptions;
registerRoute(
  ({ url }) => /^\/api\/cases\/[^/]+\/photos\/[^/]+\/(view|thumb)$/.test(url.pathname),
  new CacheFirst(pictures),
);

void self.skipWaiting();
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
