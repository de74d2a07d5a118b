// Those who must know: rounds are accepted, an owner is written to, says yes on the own page, and the tester sees it.
import assert from 'node:assert/strict';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { test } from 'node:test';
import { desk as atDesk, openDemo, phone, signedIn, violations } from './browser.mjs';

test('what is due becomes a round, a letter, a yes on a phone without an account, and the tester’s stop', async () => {
  const demo = await openDemo();
  try {
    const desk = await signedIn(demo, /Wilma Quent/, atDesk);
    await desk.goto(`${demo.url}/due`);
    const rows = desk.locator('tr:has(input[name="ids"])', { hasText: 'Terrace Homes Association' });
    await rows.first().locator('input[name="ids"]').check();
    const assembly = await rows.first().locator('input[name="ids"]').getAttribute('value');
    await desk.getByRole('button', { name: 'Write to the owners' }).click();
    await desk.getByRole('heading', { name: 'A test is due: one letter' }).waitFor();
    assert.deepEqual(await violations(desk), []);
    await desk.goBack();
    await rows.first().locator('input[name="ids"]').check();
    await desk.getByRole('button', { name: 'Plan rounds for them' }).click();
    await desk.getByRole('button', { name: 'Look for rounds' }).click();
    await desk.locator('.lanes').waitFor({ timeout: 60_000 });
    const id = await desk.locator('.stop').first().getAttribute('data-stop');
    assert.equal(id, assembly);
    await desk.goto(`${desk.url().split('?')[0]}?stop=${assembly}`);
    const [, tester] = /, (\p{Lu}\p{L}+ \p{Lu}\p{L}+)[.,]/u.exec(await desk.locator('#chosen p').first().textContent());
    await desk.getByLabel('and tell owners and occupants').check();
    await desk.getByRole('button', { name: 'Accept these rounds' }).click();
    await desk.getByText('Accepted by Wilma Quent').waitFor();

    // The letter, as the stand-in of the mail server keeps it.
    const folder = join(demo.data, 'files', 'letters');
    // What is still being written stands beside its place under a name of its own.
    const letters = async kind =>
      (await readdir(folder).catch(() => [])).filter(n => n.startsWith(`notice-${kind}`) && n.endsWith('.eml'));
    let letter;
    for (let i = 0; i < 400 && !letter; i++) {
      const [visit] = await letters('visit');
      if (visit) letter = await readFile(join(folder, visit), 'utf8');
      else await desk.waitForTimeout(100);
    }
    assert.match(letter, /To: homes@terraces\.invalid/);
    const [, path] = /(\/owner\/[0-9a-f]{48})/.exec(letter);

    const [, day] = /DTSTART(?:;[^:]*)?:(\d{8})/.exec(
      (await (await desk.request.get(`${demo.url}${path}/visits.ics`)).text()).split('BEGIN:VEVENT').at(-1),
    );

    const owner = await (await demo.browser.newContext(phone)).newPage();
    await owner.goto(`${demo.url}${path}`);
    assert.deepEqual(await violations(owner), []);
    const visit = owner.locator('article.visit:has(.answer-form button.btn-primary)').last();
    await visit.getByLabel('Your name').first().fill('Ada Holm');
    await visit.getByLabel('Whom we ask for on the day').fill('the porter');
    await visit.getByRole('button', { name: 'Yes, the water may be off then' }).click();
    await owner.getByText('Kept, thank you').waitFor();
    await owner.getByText('Agreed by Ada Holm').first().waitFor();
    assert.deepEqual(await violations(owner), []);
    const report = await owner.request.get(
      `${demo.url}${await owner.locator('.reports a').first().getAttribute('href')}`,
    );
    assert.equal(report.headers()['content-type'], 'application/pdf');

    // The office sees it in the passport, the planner is bound by it, the tester reads it at the stop.
    await desk.goto(`${demo.url}/register/${assembly}`);
    await desk.locator('#told > summary').click();
    await desk.getByText('Before the visit, to Terrace Homes Association').waitFor();
    await desk.goto(`${demo.url}/outbox`);
    assert.deepEqual(await violations(desk), []);
    const field = await signedIn(demo, new RegExp(tester), phone);
    const calendar = await (await field.request.get(`${demo.url}/calendar.ics`)).text();
    const event = calendar.split('BEGIN:VEVENT').find(e => e.includes(`:${day}T`));
    const [, stop] = /UID:([0-9a-f-]{36})@/.exec(event);
    await field.goto(`${demo.url}/stops/${stop}`);
    await field.getByText('Ask for the porter').waitFor();
    assert.deepEqual(await violations(field), []);

    // Own words are tried, then kept.
    await desk.goto(`${demo.url}/notices/due`);
    await desk.getByLabel('Letter', { exact: true }).fill('Dear {{ to }}, {{ weather }}');
    await desk.getByRole('button', { name: 'See how it reads' }).click();
    await desk.getByText('there is no such word').first().waitFor();
    await desk.getByLabel('Letter', { exact: true }).fill('Dear {{ to }}, our own words: {{ page }}');
    await desk.getByRole('button', { name: 'See how it reads' }).click();
    await desk.locator('.letter').getByText('our own words').waitFor();
    assert.deepEqual(await violations(desk), []);
    await desk.getByRole('button', { name: 'Keep these words' }).click();
    await desk.getByText('These are your own words.').waitFor();
    await desk.goto(`${demo.url}/outbox`);

    // The server is killed while a slow mail server holds a letter: afterwards each is there, once.
    await desk.getByLabel('The outside', { exact: true }).selectOption('Slow');
    await desk.getByRole('button', { name: 'Set it' }).click();
    await desk.goto(`${demo.url}/due`);
    const places = new Set();
    for (const row of await desk.locator('tr:has(input[name="ids"])').all()) {
      const owner = await row.locator('a.plain').textContent();
      if (places.has(owner)) continue;
      places.add(owner);
      await row.locator('input[name="ids"]').check();
      if (places.size === 6) break;
    }
    await desk.getByRole('button', { name: 'Write to the owners' }).click();
    const many = Number(/(\d+) letters/.exec(await desk.locator('h1').textContent())[1]);
    assert.ok(many > 1);
    await desk.getByRole('button', { name: 'Send them' }).click();
    await desk.getByText('are on the way').waitFor();
    const sent = async () => (await letters('due')).length;
    for (let i = 0; i < 400 && (await sent()) === 0; i++) await desk.waitForTimeout(100);
    await demo.kill();
    assert.ok((await sent()) > 0 && (await sent()) < many, 'the server goes away in the middle of its letters');
    await demo.start();
    for (let i = 0; i < 600 && (await sent()) < many; i++) await desk.waitForTimeout(100);
    assert.equal(await sent(), many);
    for (let i = 0; i < 200; i++) {
      await desk.goto(`${demo.url}/outbox`);
      if ((await desk.locator('#waiting').count()) === 0) break;
      await desk.waitForTimeout(100);
    }
    assert.equal(await desk.locator('#waiting').count(), 0);
  } finally {
    await demo.close();
  }
});
