// From "it drips" to the named part: from a run to its remarks, and cold, by a link on a phone.
import assert from 'node:assert/strict';
import { after, before, test } from 'node:test';
import { beginOn, desk, openDemo, phone, signedIn, violations } from './browser.mjs';

let demo;
before(async () => {
  demo = await openDemo();
});
after(async () => {
  await demo.close();
});

const first = page => page.locator('.hypotheses .what strong').first();

test('a run asks which part it is, next looks name it, and it goes into the remarks', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, { ...desk, colorScheme: 'dark' });
  await beginOn(page, 'RP');
  await page.getByRole('button', { name: 'Which part is it?' }).click();
  await page.waitForURL(/\/diagnoses\/.+/);
  assert.equal(await page.locator('#next-title').count(), 1);
  // The drawing is the way in: the relief port is touched, with the pointer, and then by its word.
  await page.locator('[data-part="rv"]').click();
  await page.waitForURL(/part=rv/);
  await page.locator('.offer').getByRole('button', { name: 'It runs' }).click();
  await first(page).waitFor();
  await page.getByRole('link', { name: 'shut first' }).click();
  for (const [title, answer] of [
    [/Close SO2/, 'It goes on as before'],
    [/open TC4 wide/, 'It stops'],
  ]) {
    await page.locator('#next-title').getByText(title).waitFor();
    await page.locator('.next > form').getByRole('button', { name: answer }).click();
  }
  await page.locator('.seen').getByText('SO2 closed, TC4 opened: it stops').waitFor();
  assert.equal(await first(page).textContent(), 'CV1 leaks');
  assert.deepEqual(await violations(page), []);
  await page
    .getByRole('link', { name: /See it on the simulated water/ })
    .first()
    .click();
  await page.waitForURL(/bench\/free/);
  await page.goBack();
  await page.getByRole('button', { name: 'Into the remarks of the report' }).click();
  await page.getByText(/It stands in the remarks/).waitFor();
  await page.context().close();
});

test('it drips: whoever is there tells by a link on a phone, and the desk sees it', async () => {
  const office = await signedIn(demo, /Wilma Quent/, desk);
  await office.goto(`${demo.url}/diagnoses`);
  await office.getByRole('searchbox').fill('F-10');
  await office.getByRole('button', { name: 'Find' }).click();
  await office.locator('.which li').filter({ hasText: ' RP ' }).getByRole('button').first().click();
  await office.waitForURL(/\/diagnoses\/.+/);
  await office.getByRole('button', { name: 'Make a link' }).click();
  const link = await office.locator('#link').inputValue();
  const context = await demo.browser.newContext({ ...phone, reducedMotion: 'reduce', colorScheme: 'light' });
  const there = await context.newPage();
  await there.goto(link);
  await there.getByText('put a plug, a hose').waitFor();
  assert.deepEqual(await violations(there), []);
  assert.equal(await there.evaluate(() => document.documentElement.scrollWidth - innerWidth), 0);
  const small = await there
    .locator('.answer')
    .evaluateAll(all => all.filter(b => b.getBoundingClientRect().height < 56).length);
  assert.equal(small, 0);
  await there.getByRole('button', { name: 'It drips' }).tap();
  await there.getByRole('heading', { name: /Open a large tap/ }).waitFor();
  await there.getByRole('button', { name: 'I am not sure' }).tap();
  await there.getByRole('heading', { name: 'Thank you. That is all' }).waitFor();
  await office.goto(office.url().split('?')[0]);
  await office.locator('.seen').getByText('In service: it drips').waitFor();
  await office.locator('.seen').getByText('A large tap opened: not sure').waitFor();
  assert.equal(await office.getByText('by the link').count(), 2);
  await office.getByRole('button', { name: 'Revoke' }).click();
  await office.getByText(/revoked/).waitFor();
  await there.goto(link);
  await there.getByRole('heading', { name: 'This link leads nowhere any more' }).waitFor();
  await context.close();
  await office.context().close();
});
