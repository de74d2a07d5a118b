// Papers: an authority refuses a report and takes it when it is mended; a stranger checks it from the paper and from
// the file.
import assert from 'node:assert/strict';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { test } from 'node:test';
import { desk as atDesk, openDemo, phone, signedIn, violations } from './browser.mjs';

test('a refused report is mended and arrives; anybody tells the genuine file from a changed one', async () => {
  const demo = await openDemo(['--Mordel:Authorities', 'true']);
  try {
    const desk = await signedIn(demo, /Wilma Quent/, atDesk);
    await desk.goto(`${demo.url}/outbox`);
    const intake = await desk.getByRole('link', { name: 'Ravelsund Water Board' }).getAttribute('href');
    const board = await desk.context().newPage();
    const behave = async (mood, why) => {
      await board.goto(intake);
      await board.getByLabel('The intake').selectOption(mood);
      if (why) await board.getByLabel('Its reason').fill(why);
      await board.getByRole('button', { name: 'Behave so' }).click();
      await board.getByText('Simulated.').waitFor();
    };
    await behave('Refuses', 'The meter at this address is another.');

    // The tester says what was wrong: that leaves the house by itself, and is refused.
    const tester = await signedIn(demo, /Ines Tarrow/, atDesk);
    const report = await tester.locator('.road a[href^="/reports/"]').first().getAttribute('href');
    await tester.goto(`${demo.url}${report}`);
    await tester.getByText('Something is wrong in this report').click();
    await tester.getByLabel('What was wrong, and what is right').fill('It stands in the second cellar.');
    await tester.getByRole('button', { name: 'Add the amendment' }).click();
    await tester.getByText('It stands in the second cellar.').first().waitFor();
    const stuck = desk.getByText('The meter at this address is another.');
    for (let i = 0; i < 160 && !(await stuck.count()); i++) {
      await desk.waitForTimeout(250);
      await desk.goto(`${demo.url}/outbox`);
    }
    await desk.getByRole('heading', { name: 'One thing is stuck' }).waitFor();
    assert.deepEqual(await violations(desk), []);

    // The board sees its mistake; sent again, it arrives, once, with a receipt.
    await behave('Takes');
    await desk.getByRole('button', { name: /^Send again/ }).click();
    const delivered = desk.locator('section[aria-labelledby="delivered"]');
    for (let i = 0; i < 160 && !(await delivered.count()); i++) {
      await desk.waitForTimeout(250);
      await desk.goto(`${demo.url}/outbox`);
    }
    await delivered.getByText(/receipt R-\d{6}/).waitFor();
    await delivered.getByRole('link', { name: /^What became of it/ }).click();
    await desk.getByText('sent again by Wilma Quent').waitFor();
    assert.equal(await desk.locator('.events li').count(), 3);
    assert.deepEqual(await violations(desk), []);
    await board.goto(intake);
    await board.getByRole('heading', { name: 'one report' }).waitFor();
    assert.deepEqual(await violations(board), []);

    // From the paper: the code, on a telephone, without an account.
    await tester.goto(`${demo.url}${report}`);
    const code = await tester.locator('a[href^="/verify/"]').getAttribute('href');
    const pdf = await (await tester.request.get(`${demo.url}${report}/pdf`)).body();
    const stranger = await (await demo.browser.newContext(phone)).newPage();
    await stranger.goto(`${demo.url}/verify`);
    await stranger.getByLabel('Code of the report').fill(code.split('/').at(-1).toLowerCase().replaceAll('-', ' '));
    await stranger.getByRole('button', { name: 'Check the code' }).click();
    await stranger.getByRole('heading', { name: 'Genuine, and amended' }).waitFor();
    assert.equal(await stranger.evaluate(() => document.documentElement.scrollWidth - innerWidth), 0);
    assert.deepEqual(await violations(stranger), []);

    // From the file, which does not leave the browser.
    const [genuine, changed] = ['genuine.pdf', 'changed.pdf'].map(name => join(demo.data, name));
    await writeFile(genuine, pdf);
    pdf[Math.floor(pdf.length / 2)] ^= 1;
    await writeFile(changed, pdf);
    await stranger.goto(`${demo.url}/verify`);
    await stranger.locator('#by-file[data-ready]').waitFor();
    const sent = [];
    stranger.on('request', request => request.method() === 'POST' && sent.push(request.url()));
    const check = async (file, says) => {
      await stranger.setInputFiles('#file', file);
      await stranger.getByRole('button', { name: 'Check the file' }).click();
      await stranger.locator('#answer').getByText(says).waitFor({ timeout: 60_000 });
    };
    await check(genuine, 'Genuine: the seal holds');
    assert.deepEqual(await violations(stranger), []);
    await check(changed, 'Do not rely on this file');
    assert.deepEqual(sent, []);

    // The tag, and the page its square leads to; what a tester may sign.
    await desk.goto(`${demo.url}/register/tags?type=SVB`);
    assert.deepEqual(await violations(desk), []);
    await desk.goto(`${demo.url}/kits-and-people`);
    await desk.getByRole('link', { name: 'Bram Oskelly', exact: true }).click();
    await desk.getByText('RG-0388 ended on').first().waitFor();
    assert.deepEqual(await violations(desk), []);

    // A kit that crept up: what hangs on it.
    await desk.goto(`${demo.url}/kits-and-people`);
    await desk.getByRole('link', { name: 'GB-5122', exact: true }).click();
    await desk.getByText('It was calibrated').click();
    await desk.getByLabel('Found to read high by').fill('1.2');
    await desk.getByRole('button', { name: 'Keep the calibration' }).click();
    await desk.getByRole('heading', { name: /would read otherwise/ }).waitFor();
    assert.deepEqual(await violations(desk), []);

    // What other rules would do.
    await desk.goto(`${demo.url}/rules/psid-standard/1/change`);
    await desk.getByLabel('Short name').fill('half-yearly');
    await desk.getByLabel('Months between tests').fill('6');
    await desk.getByRole('button', { name: 'Show what it would change' }).click();
    await desk.getByRole('heading', { name: /assemblies would become due/ }).waitFor();
    assert.deepEqual(await violations(desk), []);
  } finally {
    await demo.close();
  }
});
