// Signing out: what waits is sent first where it can be; then nothing is left on this device.
import { unstow } from './aboard.js';
import { sender } from './sender.js';
import { waiting, wipe } from './store.js';

const PATIENCE = 4000;
const answers = () => Object.keys(localStorage).filter(key => /^(repair|diagnosis) /.test(key));

const count = async () =>
  (await waiting()).length + answers().reduce((sum, key) => sum + JSON.parse(localStorage.getItem(key)).length, 0);

/** How many entries would be lost. */
export async function left() {
  if (await count()) await Promise.race([sender.send(), new Promise(done => setTimeout(done, PATIENCE))]);
  return count();
}

/** Nothing is left: entries, rounds, pages, settings. A learner's own bench stays. */
export async function clear() {
  await wipe();
  await unstow();
  indexedDB.deleteDatabase('mordel-photos');
  for (const key of Object.keys(localStorage)) if (!key.startsWith('bench')) localStorage.removeItem(key);
}
