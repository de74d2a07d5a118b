// A day on a device: takes the round along, goes through tests, verdicts and repairs without a signal.
import { phone, signedIn } from './browser.mjs';

// What a sound assembly reads, by the name under which it is asked for; the first that fits.
export const sound = [
  [/apparent/i, '7.6'],
  [/relief opening/i, '2.3'],
  [/air inlet opening/i, '1.6'],
  [/line pressure|static/i, '62'],
  [/CV1|check 1/i, { RP: '7.4', DC: '1.8', PVB: '1.4', SVB: '2.6' }],
  [/CV2|check 2/i, { RP: '1.6', DC: '1.5' }],
  [/check/i, { PVB: '1.4', SVB: '2.6' }],
];

/** A page on a phone with the round on board; the worker answers for it from then on. */
export async function withRound(demo, who, options = phone) {
  const page = await signedIn(demo, who, options);
  await page.goto(`${demo.url}/field`);
  await page.getByRole('button', { name: 'Take the round along' }).click();
  await page
    .locator('[data-aboard]')
    .getByText(/stops?,/)
    .waitFor();
  await page.waitForFunction(() => navigator.serviceWorker.controller);
  return page;
}

/** Leads to a room of the field. */
export async function room(page, where) {
  await page.evaluate(to => (location.hash = to), where);
}

/** Opens the first stop of today that is still to be done on an assembly of a type, and begins its test. */
export async function beginHere(page, type) {
  await room(page, '#');
  const stop = page
    .locator('.rest > .road li.stop-open')
    .filter({ hasText: new RegExp(`${type} `) })
    .first();
  await stop.locator('a').click();
  await page.getByRole('button', { name: /Begin the test|Go on with/ }).click();
  await page.locator('.run svg.rig').waitFor({ state: 'attached' });
  return page.evaluate(() => location.hash.split('/')[1]);
}

/**
 * One thing that is to be done now, done: what is asked, a number, or the step as it should be. Answers whether the
 * test is at its end, what nobody knows, and how many milliseconds the screen took to show what comes next.
 */
export const doNext = (page, given) =>
  page.evaluate(async ([type, given]) => {
    const seen = selector => [...document.querySelectorAll(selector)].find(e => e.checkVisibility() && !e.disabled);
    const atEnd = () => location.hash.startsWith('#verdict');
    if (atEnd()) return { done: true };
    const entries = () => document.querySelector('.run')?.dataset.entries,
      before = entries(),
      chip = seen('.together .ask-line .chip'),
      name = document.querySelector('.run.is-reading') && document.querySelector('#slate-title').textContent;
    let press = chip ?? seen('.go .btn-go');
    if (!chip && name) {
      const found = given.find(([asked, flags]) => new RegExp(asked, flags).test(name));
      const value = typeof found?.[2] === 'string' ? found[2] : found?.[2]?.[type];
      if (!value) return { stuck: `nobody says what "${name}" of a ${type} reads` };
      const digits = document.querySelector('#digits');
      digits.value = value;
      digits.dispatchEvent(new Event('input'));
      await new Promise(done => setTimeout(done));
      press = seen('.slate > .btn-go');
    }
    const began = performance.now();
    press?.click();
    for (const until = began + 20_000; entries() === before && !atEnd();)
      if (performance.now() > until) return { stuck: 'the screen does not go on' };
      else await new Promise(done => setTimeout(done, 4));
    // Painted, not only known.
    await new Promise(done => requestAnimationFrame(() => setTimeout(done)));
    return { took: performance.now() - began };
  }, given);

/** Goes through a test as it should be, up to its verdict; numbers that are not sound stand in front. */
export async function perform(page, type, numbers = []) {
  const given = [...numbers, ...sound].map(([asked, value]) => [asked.source, asked.flags, value]);
  for (let i = 0; i < 120; i++) {
    const { done, stuck } = await doNext(page, [type, given]);
    if (done) return;
    if (stuck) throw new Error(stuck);
  }
  throw new Error('the test does not come to its end');
}

/** Signs by the typed name; answers what stands on the report then. */
export async function signHere(page) {
  await page.locator('#field-sign').waitFor();
  const pace = page.locator('textarea#pace');
  if (await pace.isVisible()) await pace.fill('A program typed this, faster than water.');
  await page.getByLabel(/my typed name is my signature/).check();
  await page.getByRole('button', { name: 'Sign', exact: true }).click();
  await page.locator('[data-seal]').waitFor();
  return page.locator('[data-seal]').textContent();
}

const step = page => page.locator('#field-step').textContent();

async function next(page, tap) {
  const was = await step(page);
  await tap();
  await page.waitForFunction(old => {
    const now = document.querySelector('#field-step')?.textContent;
    return now && now !== old;
  }, was);
}

const done = page => next(page, () => page.locator('.choices .btn-go').click());

/** A picture as a camera would make one, taken in the repair. */
export async function photograph(page) {
  const bytes = await page.evaluate(async () => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [2400, 1800];
    canvas.getContext('2d').fillRect(200, 200, 900, 900);
    const blob = await new Promise(made => canvas.toBlob(made, 'image/jpeg', 0.9));
    return [...new Uint8Array(await blob.arrayBuffer())];
  });
  await page
    .locator('#field-photo')
    .setInputFiles({ name: 'disc.jpg', mimeType: 'image/jpeg', buffer: Buffer.from(bytes) });
  await page.getByText('One picture waits').waitFor();
}

/** Goes through a repair: opens what begins with a part, finds the first thing there, cleans it, closes up. */
export async function mend(page, { part, shows }) {
  await page.locator('#field-step').waitFor();
  const job = await page.evaluate(() => location.hash.split('/')[1]);
  let found = false;
  for (let i = 0; i < 120; i++) {
    const now = await step(page);
    if (/^Test it from/.test(now)) return job;
    if (/^What is opened/.test(now))
      await next(page, () =>
        page
          .locator('.choices .btn')
          .filter({ hasText: new RegExp(`^${part}`) })
          .first()
          .click(),
      );
    else if (/^Look at/.test(now) && !found) {
      await page.locator('.found .chip').first().click();
      await next(page, () => page.getByRole('button', { name: /What is ticked/ }).click());
      found = true;
    } else if (/What is done/.test(now)) {
      await shows();
      await next(page, () => page.getByRole('button', { name: /^Cleaned/ }).click());
    } else await done(page);
  }
  throw new Error('the repair does not come to its end');
}

/** What waits on the device: what the server refused carries why. */
export const deeds = page =>
  page.evaluate(
    () =>
      new Promise(found => {
        const opened = indexedDB.open('mordel-outbox');
        opened.onsuccess = () => {
          const all = opened.result.transaction('deeds').objectStore('deeds').getAll();
          all.onsuccess = () => {
            opened.result.close();
            found(all.result.map(({ kind, of, why }) => ({ kind, of, why })));
          };
        };
      }),
  );

/** Waits until nothing is left on the device that could be sent. */
export async function sent(page) {
  for (const until = Date.now() + 60_000; Date.now() < until; await page.waitForTimeout(150))
    if (!(await deeds(page)).some(deed => !deed.why)) return;
  throw new Error(`still waiting: ${JSON.stringify(await deeds(page))}`);
}
