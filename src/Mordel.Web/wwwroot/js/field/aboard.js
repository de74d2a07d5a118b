// Takes a round along: what it needs goes into this device's storage, piece by piece, and is there or is not.
import { CACHES, emptyCaches, isNamed } from './caches.js';
import { spanText } from './clock.js';
import { sender } from './sender.js';
import { about, takeAlong } from './store.js';

/** What this browser lacks, in words; empty where all is there. */
export function lacking() {
  if (!globalThis.isSecureContext) return 'This address has no TLS: browsers keep pages for the field only over https.';
  if (!('serviceWorker' in navigator) || !globalThis.caches)
    return 'This browser keeps no pages: the field rooms need a signal here, as before.';
  if (typeof WebAssembly !== 'object') return 'This browser cannot run the core: tests need a signal here, as before.';
  return '';
}

/** The worker that answers without a signal; asked for once. */
export async function employ() {
  if (lacking()) return null;
  try {
    return await navigator.serviceWorker.register('/sw.js', { type: 'module' });
  } catch (problem) {
    console.info(`No worker here: ${problem}`);
    return null;
  }
}

// The files of the field rooms; what was there under the same name is not fetched again. Answers their version and how
// many bytes came over the line for them, as the server says.
async function stow(progress) {
  const answer = await fetch('/api/field/files', { cache: 'no-store' });
  if (!answer.ok) throw new Error(`The server answered ${answer.status}.`);
  const { version, files } = await answer.json();
  const cache = await caches.open(CACHES + version);
  let at = 0,
    bytes = 0;
  for (const file of files) {
    const before = isNamed(file) ? await caches.match(file) : null;
    const got = before ?? (await fetch(file, { cache: 'no-cache' }));
    if (!got.ok || got.redirected) throw new Error(`${file} did not come (${got.status}).`);
    bytes += Number(got.headers.get('content-length')) || (await got.clone().blob()).size;
    await cache.put(file, got);
    progress(++at, files.length);
  }
  await emptyCaches(version);
  return { version, bytes };
}

const noRoom = problem => problem?.name === 'QuotaExceededError';

/** Takes the round along, or fetches it anew; answers why not, or nothing. */
export async function take(progress = () => {}) {
  try {
    // Whoever has asked for it wants to find it again.
    await navigator.storage?.persist?.();
    const answer = await fetch('/api/field/round', { cache: 'no-store' });
    if (answer.status === 401) return 'Sign in again, then take it along.';
    if (!answer.ok) return (await answer.json().catch(() => null))?.error ?? `The server answered ${answer.status}.`;
    const round = await answer.json();
    const { version, bytes } = await stow(progress);
    await takeAlong({ ...round, bytes }, version);
    await sender.who();
    return '';
  } catch (problem) {
    return noRoom(problem)
      ? 'There is no room for it on this device. Delete something, then take it along.'
      : `It did not come whole: ${problem.message}. What was on board before is still there.`;
  }
}

/** What is on board; null for nothing. */
export async function aboard() {
  const round = await about('round');
  if (!round || !globalThis.caches || !(await caches.has(CACHES + round.version))) return null;
  return { ...round, isKept: (await navigator.storage?.persisted?.()) ?? false };
}

/** How large that is, in words. */
export const sizeText = bytes => `${(bytes / 1_000_000).toFixed(1)} MB`;

/** How long ago, in words. */
export function ageText(made) {
  const ago = Math.max(0, Date.now() - Date.parse(made));
  return ago < 90_000 ? 'just now' : `${spanText(ago)} ago`;
}

/** Nothing is left of it: caches and the worker. */
export async function unstow() {
  await emptyCaches();
  for (const worker of (await navigator.serviceWorker?.getRegistrations()) ?? []) await worker.unregister();
}
