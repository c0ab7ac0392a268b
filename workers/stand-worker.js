/**
 * Keeps the music stand usable without a network: rehearsal rooms often have none. Whatever is looked at under /stand is kept on the
 * browser's disk; the network is asked first. Where the server shows the door to somebody whose link has ended, all of it is let go.
 */
const KEPT = 'omaggio-stand-1';
/** Milliseconds after which what is kept is shown. */
const PATIENCE = 4000;

self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (event) => {
  event.waitUntil(
    (async () => {
      for (const name of await caches.keys()) if (name.startsWith('omaggio-stand-') && name !== KEPT) await caches.delete(name);
      await self.clients.claim();
    })(),
  );
});

/** What a page was made of before this worker was there. */
self.addEventListener('message', (event) => {
  if (!Array.isArray(event.data?.keep)) return;
  event.waitUntil(Promise.all(event.data.keep.map((url) => keepOne(url).catch(() => undefined))));
});

async function keepOne(url) {
  const address = new URL(url, self.location.origin);
  if (address.origin !== self.location.origin || !isKept(address)) return;
  const cache = await caches.open(KEPT);
  if (isForEver(address) && (await cache.match(address.href))) return;
  await put(cache, address.href, await fetch(address.href, { credentials: 'same-origin' }));
}

const isForEver = ({ pathname }) => pathname.startsWith('/_next/static/');
const isKept = (address) => isForEver(address) || /^\/stand(\/|$)/.test(address.pathname) || /^\/api\/stand\/parts\/[^/]+\/music$/.test(address.pathname);

/** Only what is whole, and what was asked for: no way out to another page. */
async function put(cache, key, response) {
  if (!response.ok || response.redirected || response.type !== 'basic') return;
  await cache.put(key, response.clone());
  const { pathname } = new URL(key);
  if (isForEver({ pathname })) await trim(cache, isForEver, MOST_FILES);
  else await trim(cache, (address) => address.pathname === pathname, MOST_OF_EACH);
}

/** What a page is made of, of this version and those before; and of each page and part the latest sizes that were looked at. */
const MOST_FILES = 200;
const MOST_OF_EACH = 6;

async function trim(cache, isMeant, most) {
  const kept = (await cache.keys()).filter(({ url }) => isMeant(new URL(url)));
  await Promise.all(kept.slice(0, Math.max(0, kept.length - most)).map((request) => cache.delete(request)));
}

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const address = new URL(request.url);
  if (request.method !== 'GET' || address.origin !== self.location.origin || !isKept(address)) return;
  // Parts of pages that are fetched to change over without loading: without a network the page is loaded whole.
  if (address.searchParams.has('_rsc') || request.headers.has('rsc')) return;
  event.respondWith(isForEver(address) ? fromDiskFirst(request) : fromNetworkFirst(event, request));
});

async function fromDiskFirst(request) {
  const cache = await caches.open(KEPT);
  const kept = await cache.match(request.url);
  if (kept) return kept;
  const response = await fetch(request);
  await put(cache, request.url, response);
  return response;
}

async function fromNetworkFirst(event, request) {
  const cache = await caches.open(KEPT);
  const asked = fetch(request).then(async (response) => {
    const isShutOut = response.type === 'opaqueredirect' || (response.redirected && new URL(response.url).pathname === '/enter') || response.status === 401;
    if (isShutOut) await caches.delete(KEPT);
    else await put(cache, request.url, response);
    return response;
  });
  event.waitUntil(asked.catch(() => undefined));
  const kept = await cache.match(request.url);
  const late = new Promise((resolve) => setTimeout(() => resolve(kept), PATIENCE));
  try {
    return (await (kept ? Promise.race([asked, late]) : asked)) ?? (await asked);
  } catch {
    if (kept) return kept;
    return request.mode === 'navigate' ? nothingKept() : Response.error();
  }
}

const nothingKept = () =>
  new Response(
    '<!doctype html><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Stand</title><body style="font:16px/1.5 sans-serif;max-width:32rem;margin:4rem auto;padding:0 1rem"><h1 style="font-size:1.3rem">No network</h1><p>This page was not opened on this device before, so it is not here. What you have opened is: go back to <a href="/stand">your parts</a>.</p>',
    { status: 503, headers: { 'content-type': 'text/html; charset=utf-8' } },
  );
