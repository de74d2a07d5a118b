// A day on a device: takes the round along, goes through tests, verdicts and repairs without a signal.
import { phone, signedIn } from './browser.mjs';

// What a sound assembly reads, by the name under which it is asked for; the first that fits.
const sound = [
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

// One thing that is to be done now, done: what is asked, a number, or the step as it should be. Answers what it was.
const doNext = (page, given) =>
  page.evaluate(([type, given]) => {
    const seen = selector => [...document.querySelectorAll(selector)].find(e => e.checkVisibility() && !e.disabled);
    if (location.hash.startsWith('#verdict')) return { done: true };
    const before = document.querySelector('.run')?.dataset.entries;
    const chip = seen('.together .ask-line .chip');
    const name = document.querySelector('.run.is-reading') && document.querySelector('#slate-title').textContent;
    if (chip) chip.click();
    else if (name) {
      const found = given.find(([asked, flags]) => new RegExp(asked, flags).test(name));
      const value = typeof found?.[2] === 'string' ? found[2] : found?.[2]?.[type];
      if (!value) return { stuck: `nobody says what "${name}" of a ${type} reads` };
      const digits = document.querySelector('#digits');
      digits.value = value;
      digits.dispatchEvent(new Event('input'));
      setTimeout(() => seen('.slate > .btn-go')?.click());
    } else seen('.go .btn-go')?.click();
    return { before };
  }, given);

/** Goes through a test as it should be, up to its verdict; numbers that are not sound stand in front. */
export async function perform(page, type, numbers = []) {
  const given = [...numbers, ...sound].map(([asked, value]) => [asked.source, asked.flags, value]);
  for (let i = 0; i < 120; i++) {
    const { done, stuck, before } = await doNext(page, [type, given]);
    if (done) return;
    if (stuck) throw new Error(stuck);
    await page.waitForFunction(
      was => location.hash.startsWith('#verdict') || document.querySelector('.run')?.dataset.entries !== was,
      before,
    );
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
