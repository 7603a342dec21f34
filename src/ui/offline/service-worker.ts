import { clientsClaim } from 'workbox-core';
import { ExpirationPlugin } from 'workbox-expiration';
import { registerRoute, setCatchHandler } from 'workbox-routing';
import { CacheFirst, NetworkFirst } from 'workbox-strategies';
import { PAPERS } from '../tokens';
import {
  askedToForget,
  askedToKeep,
  FILES_CACHE,
  isKeptPage,
  isOwnFile,
  isThePage,
  PAGES_CACHE,
} from './kept-pages';

/** What a page says, as a service worker hears it. */
type Heard = Event & {
  data: unknown;
  ports: readonly MessagePort[];
  waitUntil: (work: Promise<unknown>) => void;
};

declare const self: {
  skipWaiting: () => Promise<void>;
  addEventListener: (type: 'message', heard: (event: Heard) => void) => void;
};

const DAY_S = 24 * 3600;

/** What somebody sees who opens a page that was not kept. */
const AWAY = `<!doctype html><html lang="en"><meta charset="utf-8">
<meta name="viewport" content="width=device-width"><title>No connection</title>
<style>
body { font: 1.0625rem/1.5 sans-serif; margin: 0 auto; padding: 3rem 1.25rem; max-width: 36rem;
  color: ${PAPERS.light.ink}; background: ${PAPERS.light.sheet} }
h1, .brand { font-family: serif; font-weight: 600 } h1 { font-size: 1.75rem; margin: 1.5rem 0 0.5rem }
.brand { margin: 0 }
@media (prefers-color-scheme: dark) {
  body { color: ${PAPERS.dark.ink}; background: ${PAPERS.dark.sheet} }
}
</style>
<p class="brand">Zeitbank</p>
<h1>No connection</h1>
<p>The bank cannot be reached from here. What you wrote is kept on this device; a run sheet or a
sitting that was opened here before opens again. Try once more when the connection is back.</p>`;

// Files go by what is in them and a page is always asked for first, so a new version can take over at once.
void self.skipWaiting();
clientsClaim();

const files = new CacheFirst({
  cacheName: FILES_CACHE,
  // Longer than pages, so that a page that is kept finds its files.
  plugins: [new ExpirationPlugin({ maxAgeSeconds: 60 * DAY_S, purgeOnQuotaError: true })],
});
registerRoute(({ url, sameOrigin }) => sameOrigin && isOwnFile(url.pathname), files);

const pages = new NetworkFirst({
  cacheName: PAGES_CACHE,
  matchOptions: { ignoreSearch: true, ignoreVary: true },
  plugins: [
    {
      cacheWillUpdate: async ({ response }) => (isThePage(response) ? response : null),
      // What the bank no longer shows to this browser is not kept either.
      fetchDidSucceed: async ({ request, response }) => {
        if (response.status < 500 && !isThePage(response)) {
          const shown = await caches.open(PAGES_CACHE);
          await shown.delete(request, { ignoreSearch: true, ignoreVary: true });
        }
        return response;
      },
    },
    new ExpirationPlugin({
      maxEntries: 30,
      maxAgeSeconds: 30 * DAY_S,
      matchOptions: { ignoreSearch: true, ignoreVary: true },
      purgeOnQuotaError: true,
    }),
  ],
});
registerRoute(
  ({ url, sameOrigin, request }) =>
    sameOrigin && isKeptPage(url.pathname) && !request.headers.has('RSC'),
  pages,
);

let before: Promise<unknown> = Promise.resolve();

// A page asks to be kept with what it is made of, and is answered when it is. One after another, so that the page as
// it was never comes to lie over the page as it is.
self.addEventListener('message', (event) => {
  if (askedToForget(event.data)) {
    const forget = () => caches.delete(PAGES_CACHE);
    before = before.then(forget, forget);
    event.waitUntil(before.catch(() => undefined));
    return;
  }
  const asked = askedToKeep(event.data);
  if (asked.length === 0) return;
  const keepAll = () =>
    Promise.all(
      asked.map(async (address) => {
        const { pathname } = new URL(address);
        const strategy = isOwnFile(pathname) ? files : isKeptPage(pathname) ? pages : null;
        await strategy?.handleAll({ event, request: new Request(address) })[1];
      }),
    );
  before = before.then(keepAll, keepAll);
  event.waitUntil(
    before.then(
      () => event.ports[0]?.postMessage(true),
      () => undefined,
    ),
  );
});

// Other pages are not kept: they are only answered when nothing else can. Files that are fetched go by themselves,
// so that a long one does not depend on this.
registerRoute(
  ({ request, url }) => request.mode === 'navigate' && !url.pathname.startsWith('/api/'),
  ({ request }) => fetch(request),
);

setCatchHandler(async ({ request }) =>
  request.mode === 'navigate'
    ? new Response(AWAY, { status: 503, headers: { 'Content-Type': 'text/html; charset=utf-8' } })
    : Response.error(),
);
