// Answers without a signal: the field rooms from what was taken along, everything else by leading there. With a signal
// every page comes from the server. What waits is sent from here when the browser says that there is a signal.
import { CACHES, isNamed } from './js/field/caches.js';
import { sender } from './js/field/sender.js';

// How long a page may take before the field rooms stand in for it, where there is hardly any signal.
const PATIENCE = 6000;
const neverChanges = path => isNamed(path) || path.startsWith('/lib/fonts/');
const stowed = path => /^\/(css|js|lib|core|icons)\//.test(path) || path === '/icon.svg' || path === '/app.webmanifest';

self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', event => event.waitUntil(self.clients.claim()));
self.addEventListener('sync', event => {
  if (event.tag === 'mordel-send') event.waitUntil(sender.send());
});

self.addEventListener('fetch', event => {
  const { request } = event,
    url = new URL(request.url);
  if (url.origin !== self.location.origin) return;
  if (request.mode === 'navigate') event.respondWith(page(request, url));
  else if (request.method === 'GET' && stowed(url.pathname)) event.respondWith(file(request, url.pathname));
});

const fromCache = async path => {
  for (const name of await caches.keys())
    if (name.startsWith(CACHES)) {
      const found = await (await caches.open(name)).match(path);
      if (found) return found;
    }
  return null;
};

// What is named by its content never changes; the rest is as new as the signal allows.
async function file(request, path) {
  if (neverChanges(path)) return (await fromCache(path)) ?? fetch(request);
  try {
    return await fetch(request);
  } catch (problem) {
    const kept = await fromCache(path);
    if (kept) return kept;
    throw problem;
  }
}

async function page(request, url) {
  if (url.pathname === '/field') return (await fromCache('/field')) ?? fetch(request);
  const field = await fromCache('/field');
  if (!field) return fetch(request);
  const slow = request.method === 'GET' ? new Promise(done => setTimeout(done, PATIENCE)) : new Promise(() => {});
  try {
    return (await Promise.race([fetch(request), slow])) ?? leadHere(url);
  } catch {
    return leadHere(url);
  }
}

// The room of the field that stands in for a page.
function leadHere({ pathname, origin }) {
  const [, id] = pathname.match(/^\/(?:stops|runs|reports|repairs)\/([0-9a-f-]{36})/) ?? [];
  const room = !id
    ? ''
    : pathname.startsWith('/stops/')
      ? `#stop/${id}`
      : pathname.endsWith('/verdict')
        ? `#verdict/${id}`
        : pathname.startsWith('/runs/')
          ? `#run/${id}`
          : pathname.startsWith('/reports/')
            ? `#report/${id}`
            : `#repair/${id}`;
  return Response.redirect(`${origin}/field${room}`, 302);
}
