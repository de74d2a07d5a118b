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
    await page.locator('.next-look > form').getByRole('button', { name: answer }).click();
  }
  await page.locator('.seen').getByText('SO2 closed, TC4 opened: it stops').waitFor();
  assert.equal(await first(page).textContent(), 'CV1 leaks');
  assert.deepEqual(await violations(page), []);
  await page
    .getByRole('link', { name: /See it on the simulated water/ })
    .first()
    .click();
  // Beside what was seen the imagined assembly runs: the port pours, SO2 shut changes nothing, TC4 opened dries it.
  await page.waitForURL(/\/why\?of=cv1/);
  await page.locator('#why[data-ready]').waitFor();
  assert.equal(await page.locator('.beside li:not(.against)').filter({ hasText: 'goes with it' }).count(), 3);
  const port = page.locator('[data-spill="rv"]').first();
  await page.waitForFunction(() => document.querySelector('[data-spill="rv"]').getAttribute('display') !== 'none');
  await page.getByRole('button', { name: '4×' }).waitFor();
  await page.getByRole('button', { name: 'SO2 closed, TC4 opened' }).click();
  await page.waitForFunction(() => document.querySelector('[data-spill="tc4"]').getAttribute('display') !== 'none');
  await page.waitForFunction(() => document.querySelector('[data-spill="rv"]').getAttribute('display') === 'none');
  assert.equal(await port.getAttribute('display'), 'none');
  assert.deepEqual(await violations(page), []);
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

test('without a signal the board goes on in the browser, and what was answered arrives once', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, { ...phone, colorScheme: 'light' });
  await page.goto(`${demo.url}/diagnoses?q=F-10`);
  await page.locator('.which li').filter({ hasText: ' RP ' }).getByRole('button').first().tap();
  await page.waitForURL(/\/diagnoses\/.{36}/);
  await page.locator('#board[data-ready]').waitFor();
  await page.context().setOffline(true);
  await page.locator('.next-look').getByRole('button', { name: 'It runs' }).first().tap();
  await page.getByText('One answer is kept on this device').waitFor();
  await page.locator('.seen').getByText('In service: it runs').waitFor();
  const said = await first(page).textContent();
  assert.match(said, /leaks/);
  assert.deepEqual(await violations(page), []);
  assert.equal(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth), 0);
  await page.locator('.next-look .answer').first().tap();
  await page.getByText('2 answers are kept on this device').waitFor();
  // It weighs beside the page.
  await page.locator('.seen li').nth(1).waitFor();
  const without = await page.locator('.hypotheses .what').allTextContents();
  await page.context().setOffline(false);
  // A signal that flickers sends nothing twice and loses nothing; the page may be on its way meanwhile.
  await page.evaluate(() => [1, 2, 3].forEach(() => dispatchEvent(new Event('online')))).catch(() => {});
  await page.locator('#signal').waitFor({ state: 'hidden' });
  await page.locator('.seen form').first().waitFor();
  assert.equal(await page.locator('.seen li').count(), 2);
  // The server's board, of the same log, says the same to the last digit.
  const letters = all => all.map(text => text.replace(/\s/g, ''));
  assert.deepEqual(letters(await page.locator('.hypotheses .what').allTextContents()), letters(without));
  await page.context().close();
});

test('the browser weighs evidence as the server does, to the last letter', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, desk);
  await page.goto(`${demo.url}/water`);
  const [file, script] = ['svb.atlas', await page.locator('script[src*="/js/water"]').getAttribute('src')];
  for (const evidence of [
    { assembly: { type: 'SVB' } },
    { assembly: { type: 'SVB' }, looks: [{ look: 'in-service', outlet: 'drips' }] },
    {
      assembly: { type: 'SVB' },
      procedure: 'svb-check-first',
      kit: 'two-valve',
      results: { 'check-1': { value: 0.2, unit: 'psid' } },
      opened: [{ part: 'cv1', found: 'debris' }],
    },
    { assembly: { type: 'DC' } },
    { assembly: { type: 'SVB' }, looks: [{ look: 'sniffed', outlet: 'dry' }] },
  ]) {
    const text = JSON.stringify({ format: 'mordel.evidence/1', ...evidence });
    const [here, status, there] = await page.evaluate(
      async ([atlas, from, body]) => {
        const { diagnoses } = await import(from.replace(/water[^/]*\.js.*$/, 'core.js'));
        const weighs = await diagnoses(atlas);
        const answer = await fetch('/api/diagnoses', {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body,
        });
        return [await weighs.Diagnose(body), answer.status, await answer.text()];
      },
      [file, script, text],
    );
    if (status === 200 && evidence.assembly.type === 'SVB') assert.equal(here, there);
    else assert.match(here, /dc.atlas is not open|looks\[0\]/);
  }
  await page.context().close();
});

test('no width between a phone and a desk cuts the bar of who has every room', async () => {
  for (const width of [390, 820, 1000, 1215, 1216, 1280]) {
    const page = await signedIn(demo, /Wilma Quent/, { ...desk, viewport: { width, height: 800 } });
    await page.goto(`${demo.url}/diagnoses`);
    assert.equal(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth), 0, `at ${width}`);
    await page.context().close();
  }
});
