// From a failed test to one report with before, work and after: on a phone, with a picture.
import assert from 'node:assert/strict';
import { after, before, test } from 'node:test';
import { beginOn, openDemo, phone, signedIn, violations } from './browser.mjs';

let demo;
before(async () => {
  demo = await openDemo();
});
after(async () => {
  await demo.close();
});

const heading = page => page.locator('#step-title');
const stands = (page, words) => heading(page).getByText(words).waitFor();

/** A picture as a camera would make one, drawn in the page. */
async function takePicture(page) {
  const before = await page.locator('.photos img').count();
  const bytes = await page.evaluate(async () => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [2400, 1800];
    canvas.getContext('2d').fillRect(200, 200, 900, 900);
    const blob = await new Promise(done => canvas.toBlob(done, 'image/jpeg', 0.9));
    return [...new Uint8Array(await blob.arrayBuffer())];
  });
  await page.locator('#photo').setInputFiles({ name: 'disc.jpg', mimeType: 'image/jpeg', buffer: Buffer.from(bytes) });
  await page.locator('.photos img').nth(before).waitFor();
}

/** A test of an RP by its numbers, signed by the typed name. */
async function testIt(page, check1) {
  await page.getByRole('button', { name: /All as listed/ }).tap();
  // A device keeps the way its tester likes.
  const numbers = page.getByRole('button', { name: 'Numbers only' });
  await numbers
    .or(page.getByRole('button', { name: 'Step by step' }))
    .first()
    .waitFor();
  if (await numbers.isVisible()) await numbers.tap();
  const now = page.locator('.row-now');
  const number = async (title, value) => {
    await now.getByText(title, { exact: true }).waitFor();
    await now.locator('input').fill(value);
    await now.getByRole('button', { name: 'Record' }).tap();
  };
  await number('Apparent reading', '7.6');
  await number('Relief opening point', '2.3');
  await now.getByRole('button', { name: 'After the first drop the needle holds' }).tap();
  await number('CV1 differential', check1);
  await now.getByText('SO2', { exact: true }).waitFor();
  await now.locator('button:visible').first().tap();
  await page.getByRole('button', { name: /to the verdict/ }).tap();
  await page.waitForURL(/verdict/);
  await page.locator('#pace').fill('A program typed this, faster than water.');
  await page.getByLabel(/my typed name is my signature/).check();
  await page.getByRole('button', { name: 'Sign and seal' }).tap();
  await page.waitForURL(/reports/);
}

async function next(page, tap) {
  const was = await heading(page).textContent();
  await tap();
  await page.waitForFunction(old => document.querySelector('#step-title')?.textContent !== old, was);
}

const done = page => next(page, () => page.locator('.at-hand:visible .btn-go').tap());

/** Says that each part is in order, but for one at which something is found. */
async function inspect(page, part, found) {
  for (;;) {
    const now = await heading(page).textContent();
    if (!now.startsWith('Look at')) return;
    if (now.includes(part)) await page.locator('.at-hand:visible .chip').getByText(found).tap();
    await done(page);
  }
}

async function until(page, words) {
  for (let i = 0; i < 30 && !words.test(await heading(page).textContent()); i++) await done(page);
  assert.match(await heading(page).textContent(), words);
}

test('an RP fails, its board leads to the repair of CV1 by its sheet, and one report has before and after', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, phone);
  await beginOn(page, 'RP');
  await page.getByRole('button', { name: 'Which part is it?' }).tap();
  await page.waitForURL(/\/diagnoses\/.+/);
  const board = page.url();
  await page.goBack();
  await page.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
  await testIt(page, '5.0');
  assert.equal((await page.locator('h1.verdict').textContent()).trim(), 'Fail');
  // The board says which part, and leads on.
  await page.goto(board);
  await page.locator('[data-part="rv"]').tap();
  await page.waitForURL(/part=rv/);
  await page.locator('.offer').getByRole('button', { name: 'It runs' }).tap();
  await page.locator('.hypotheses li').first().waitFor();
  await page.getByRole('button', { name: 'Put it right' }).tap();
  await page.waitForURL(/\/repairs\/.+/);
  const job = page.url();
  assert.match(await page.locator('.crumb').textContent(), /the test before/);
  assert.deepEqual(await violations(page), []);
  await until(page, /What is opened/);
  await page.locator('.why').getByText('Clear CV1 of suspicion').waitFor();
  await next(page, () => page.locator('.choices').getByText(/^CV1/).first().tap());
  await until(page, /Look at/);
  assert.deepEqual(await violations(page), []);
  await inspect(page, 'CV1', 'grit or debris');
  await stands(page, /grit or debris. What is done/);
  await takePicture(page);
  await next(page, () => page.getByRole('button', { name: 'Cleaned' }).tap());
  await until(page, /Close up, or open another/);
  await next(page, () => page.locator('.step .btn-go').tap());
  await until(page, /Test it from the beginning/);
  assert.match(await page.locator('.done').textContent(), /grit or debris.*cleaned/s);
  assert.deepEqual(await violations(page), []);
  // Until it has passed a test it counts as failed, for everybody to see.
  await page.getByRole('link', { name: /passport/ }).tap();
  await page.getByText('Repaired, not tested since.').waitFor();
  await page.goto(job);
  await page.getByRole('button', { name: 'Begin the test' }).tap();
  await page.waitForURL(/\/runs\//);
  await page.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
  await testIt(page, '7.4');
  const report = await page.locator('.report').textContent();
  assert.match(report, /Repaired after report .* which said: fail/);
  assert.match(report, /5\.0 psid.*cleaned.*7\.4 psid/s);
  await page.locator('.repaired img').waitFor();
  assert.deepEqual(await violations(page), []);
  const pdf = await (await page.request.get(`${page.url()}/pdf`)).body();
  assert.equal(pdf.subarray(0, 5).toString(), '%PDF-');
  // The picture in it is the one that the record names by its hash, to the byte.
  const src = await page.locator('.repaired a').first().getAttribute('href');
  const jpeg = await (await page.request.get(new URL(src, page.url()).href)).body();
  assert.ok(pdf.includes(jpeg), 'the picture stands in the PDF');
  await page.context().close();
});

test('a repair with a stopgap: no signal for a while, the server killed in the middle, and nothing is lost', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, phone);
  await page.goto(`${demo.url}/register?q=F-1029`);
  await page.locator('#found tbody a').first().tap();
  await page.getByRole('button', { name: 'Repair it' }).tap();
  await page.waitForURL(/\/repairs\/.+/);
  await done(page);
  // Without a signal the next step of the stage comes all the same, and what was entered waits on the device.
  await page.context().setOffline(true);
  await page.locator('.at-hand:visible .btn-go').tap();
  await page.locator('#signal').getByText('One entry is kept').waitFor();
  await page.locator('.at-hand:visible h2').getByText('Open TC4, TC3, TC2').waitFor();
  await page.context().setOffline(false);
  await page.locator('#signal').waitFor({ state: 'hidden', timeout: 30_000 });
  await stands(page, /Open TC4/);
  await until(page, /What is opened/);
  await demo.kill();
  await page.locator('.choices').getByText(/CV1/).first().tap();
  await page.locator('#signal').getByText('One entry is kept').waitFor();
  await demo.start();
  await page.reload();
  await until(page, /Look at/);
  for (let i = 0; i < 12 && /Look at/.test(await heading(page).textContent()); i++) {
    const has = await page.locator('.at-hand:visible .chip').getByText('cut', { exact: true }).count();
    const turns = /disc|CV1/.test(await heading(page).textContent());
    if (has && turns) await page.locator('.at-hand:visible .chip').getByText('cut', { exact: true }).tap();
    await done(page);
  }
  await stands(page, /cut. What is done/);
  await next(page, () => page.getByRole('button', { name: /Turned, a stopgap/ }).tap());
  await stands(page, /until when/);
  assert.deepEqual(await violations(page), []);
  await next(page, () => page.getByRole('button', { name: 'Keep it, next' }).tap());
  await page.goto(demo.url);
  await page.locator('.waiting').getByText('Stopgaps to be put right').waitFor();
  await page.locator('.waiting').getByText('F-1029').first().waitFor();
  await page.context().close();
});
