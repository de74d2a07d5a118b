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

// The form, with the token that counts now where a page was kept for long.
async function post(form) {
  const send = () => fetch(form.action, { method: 'POST', body: new FormData(form) });
  const answer = await send();
  if (answer.status !== 400) return answer;
  const page = new DOMParser().parseFromString(await (await fetch('/account')).text(), 'text/html');
  const name = '__RequestVerificationToken',
    fresh = page.querySelector(`form.signout input[name=${name}]`);
  // Nobody is signed in any more.
  if (!fresh) return answer;
  form.elements[name].value = fresh.value;
  return send();
}

/** Signs out, wipes this device and leads away; false where nobody answers. */
export async function leave(form) {
  try {
    await post(form);
  } catch {
    return false;
  }
  document.body.dataset.leaving = 'yes';
  await clear();
  location.assign('/sign-in');
  return true;
}

// Nothing is left: entries, rounds, pages, settings. A learner's own bench stays.
async function clear() {
  await wipe();
  await unstow();
  indexedDB.deleteDatabase('mordel-photos');
  for (const key of Object.keys(localStorage)) if (!key.startsWith('bench')) localStorage.removeItem(key);
}
