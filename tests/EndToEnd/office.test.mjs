// The office's day in a real browser: an empty installation and a spreadsheet, and what is owed put into a round.
import assert from 'node:assert/strict';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { after, before, describe, test } from 'node:test';
import { chromium } from 'playwright-core';
import {
  chromiumPath,
  desk,
  flags,
  freePort,
  goOn,
  openDemo,
  phone,
  signedIn,
  startServer,
  violations,
} from './browser.mjs';

const day = days => {
  const on = new Date(Date.now() + days * 86_400_000);
  return `${String(on.getDate()).padStart(2, '0')}.${String(on.getMonth() + 1).padStart(2, '0')}.${on.getFullYear()}`;
};

describe('the office', () => {
  let demo;
  before(async () => {
    demo = await openDemo();
  });
  after(async () => {
    await demo.close();
  });

  test('brings in a list in somebody else’s words, decides what is doubtful, and finds what is due', async () => {
    const page = await signedIn(demo, /Wilma Quent/, desk);
    await page.goto(`${demo.url}/imports`);
    const csv = [
      'Fabrikat\tSerial\tWhat\tWhere\tWho\tDate next',
      `Corvane\tQX-100\tRPZ\t5 Mast Street\tMast House\t${day(-3)}`,
      `Corvane\tQX-101\tDouble check\t5 Mast Street\tMast House\t${day(20)}`,
      `Corvane\tQX-102\tgarden tap\t5 Mast Street\tMast House\t${day(20)}`,
      `Corvane\tqx 101\tDouble check\t5 Mast Street\tMast House\t${day(20)}`,
    ].join('\n');
    await page.locator('#file').setInputFiles({ name: 'mast.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
    await page.locator('#sender').fill('Mast House');
    await page.getByRole('button', { name: 'Look at it' }).click();
    await page.getByRole('heading', { name: 'What do its columns hold?' }).waitFor();
    // What was not recognised is said by hand.
    const column = name => page.getByLabel(name, { exact: true });
    assert.equal(await column('Serial').inputValue(), 'serial');
    assert.equal(await column('What').inputValue(), 'type');
    await column('Fabrikat').selectOption('make');
    await column('Where').selectOption('address');
    await column('Who').selectOption('owner');
    await column('Date next').selectOption('due announced');
    await page.getByRole('button', { name: 'Check every line' }).click();
    await page.getByRole('heading', { name: '2 lines would change the register' }).waitFor();
    await page.getByText('The same serial stands in line 3').waitFor();
    assert.deepEqual(await violations(page), []);
    await page.getByRole('button', { name: 'Leave it out' }).click();
    await page.getByRole('button', { name: 'Take them in' }).click();
    await page.getByRole('heading', { name: 'mast.csv was taken in' }).waitFor();
    await page.goto(`${demo.url}/due?show=overdue`);
    const line = page.locator('.due tr', { hasText: '5 Mast Street' });
    assert.match(await line.textContent(), /The authority’s list of .* gives this day/);
    // By the keyboard: mark it, and put it into a round.
    await line.getByRole('checkbox').focus();
    await page.keyboard.press('Space');
    await page.getByText('One is marked.').waitFor();
    await page.locator('#testerId').selectOption({ label: 'Ines Tarrow' });
    await page.getByRole('button', { name: 'Put into the round' }).press('Enter');
    await page.getByText('1 stop put into the round.').waitFor();
    await page.getByText('In the round of Ines Tarrow').waitFor();
    await page.context().close();
  });

  test('corrects an entry, sees who did, and makes one of two', async () => {
    const page = await signedIn(demo, /Wilma Quent/, desk);
    await page.goto(`${demo.url}/register/twice`);
    await page.getByRole('button', { name: 'F-1010 stands' }).click();
    await page.getByText('They are one now.').waitFor();
    await page.goto(`${demo.url}/register?q=F-1010`);
    await page.locator('#found tbody a').first().click();
    await page.getByRole('link', { name: 'Correct it, or say what happened' }).click();
    await page.getByLabel('How to find it').fill('Behind the second lid');
    await page.getByRole('button', { name: 'Keep the assembly' }).click();
    await page.getByText('One value was changed.').waitFor();
    await page.getByText('now Behind the second lid').waitFor();
    await page.getByText('with F-2001').waitFor();
    await page.context().close();
  });

  test('leaves a seasonal line off and drained, as agreed, on a phone', async () => {
    const page = await signedIn(demo, /Odd Harrick/, phone);
    await page.goto(`${demo.url}/`);
    await page.locator('.road a', { hasText: 'seasonal visit' }).first().click();
    await page.getByText('Seasonal visit:').waitFor();
    await page.locator('[data-go]').click();
    await page.waitForURL(/runs/);
    await page.locator('.together').getByText('Line walked: plugs in').waitFor();
    // Found off: the line is charged before anything is tested.
    await page.locator('.together li', { hasText: 'Both shutoffs as found' }).getByText('Otherwise…').click();
    await page.getByRole('button', { name: 'Drained for the season' }).click();
    await page.getByRole('button', { name: 'Save' }).click();
    await page.locator('.go .btn-go').click();
    await page.locator('#now-title', { hasText: 'Charge the line' }).waitFor();
    await goOn(page, 'Close up', undefined, { 'read at the pop': '12', 'read the check': '11' });
    const leave = page.locator('.together li', { hasText: 'Agreed how the line is left' });
    await leave.getByText('Otherwise…').click();
    await page.getByLabel('It is left').selectOption('drained');
    await page.getByRole('button', { name: 'Save' }).click();
    await page.locator('.together').getByText('TC2 open, as agreed').waitFor();
    await page.locator('.together').getByText('SO1 shut, as agreed').waitFor();
    // Where the large button, which stays in reach, covers nothing.
    await page.evaluate(() => scrollTo(0, document.body.scrollHeight));
    assert.deepEqual(await violations(page), []);
    await leave.getByText('Change…').click();
    await page.getByLabel('It is left').selectOption('in-service');
    await page.getByRole('button', { name: 'Save' }).click();
    await page.locator('.together').getByText('SO1 open, slowly').waitFor();
    assert.equal(await page.locator('.together').getByText('TC2 open, as agreed').count(), 0);
  });
});

test('a firm begins with nothing but a spreadsheet', async () => {
  const data = mkdtempSync(join(tmpdir(), 'mordel-empty-'));
  const server = await startServer({ data, port: await freePort(), demo: false });
  const browser = await chromium.launch({
    executablePath: chromiumPath,
    args: flags,
  });
  try {
    const page = await browser.newPage(desk);
    await page.goto(`${server.url}/first-account`);
    const code = /code is (\S+)/.exec(server.said())[1];
    await page.locator('[name=code]').fill(code);
    await page.locator('[name=fullName]').fill('Una Ferry');
    await page.locator('[name=userName]').fill('una');
    await page.locator('[name=password]').fill('a long enough sentence');
    await page.getByRole('button', { name: 'Make the account' }).click();
    await page.waitForURL(url => !url.pathname.includes('account'));
    await page.goto(`${server.url}/due`);
    await page.getByRole('link', { name: 'Bring in a file' }).click();
    const rows = ['Authority;Owner;Site;Address;Serial number;Device type;Last test date;Result'];
    for (let i = 1; i <= 60; i++)
      rows.push(
        `Ferry Water;Owner ${i % 7};Site ${i % 20};${i % 20} Quay;FY-${1000 + i};DCVA;${day(-500 + 7 * i)};Passed`,
      );
    await page
      .locator('#file')
      .setInputFiles({ name: 'all.csv', mimeType: 'text/csv', buffer: Buffer.from(rows.join('\n')) });
    await page.getByRole('button', { name: 'Look at it' }).click();
    await page.getByText('8 of 8 columns were recognised').waitFor();
    await page.getByRole('button', { name: 'Check every line' }).click();
    await page.getByRole('heading', { name: '60 lines would change the register' }).waitFor();
    await page.getByRole('button', { name: 'Take them in' }).click();
    await page.getByText('60 new').first().waitFor();
    await page.goto(`${server.url}/due`);
    // A year after its test each is due: those tested more than a year ago are overdue.
    await page.getByRole('heading', { name: /1[89] overdue/ }).waitFor();
  } finally {
    await browser.close();
    await server.stop();
    rmSync(data, { recursive: true, force: true });
  }
});
