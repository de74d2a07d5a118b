// Takes the pictures of docs/screenshots from the demo data: node tests/EndToEnd/screenshots.mjs (after ./mordel help
// has built).
import { fileURLToPath } from 'node:url';
import { answerAll, beginNext, beginOn, desk, goOn, openDemo, phone, signedIn } from './browser.mjs';
import { beginHere, room, withRound } from './field.mjs';

const out = fileURLToPath(new URL('../../docs/screenshots/', import.meta.url));
const demo = await openDemo();
const shot = (page, name, options = {}) => page.screenshot({ path: `${out}${name}.png`, ...options });
const at = async (page, title) => {
  await page.waitForFunction(wanted => document.querySelector('#now-title')?.textContent === wanted, title);
  await page.waitForTimeout(150);
};
try {
  const page = await signedIn(demo, /Ines Tarrow/, desk);
  await shot(page, 'today');
  // The bench: a rig with its inside, the sheet in the hand, marks with their replay, a class.
  const ready = p =>
    p.waitForFunction(
      () => (document.getElementById('bench') ?? document.getElementById('replay'))?.dataset.ready === 'yes',
      null,
      { timeout: 60_000 },
    );
  const learner = await signedIn(demo, /Pia Lorne/, desk);
  await learner.goto(`${demo.url}/bench/free?procedure=rp-relief-first&kit=five-valve&supply=60&site=none`);
  await ready(learner);
  await learner.evaluate(async () => {
    const d = window.bench.desk,
      wait = s => new Promise(r => setTimeout(r, s * 1000));
    d.connect('high-hose', 'tc2');
    d.connect('low-hose', 'tc3');
    d.turn('tc3', 1, 0.3);
    d.turn('low-bleed', 1, 0.3);
    d.turn('tc2', 1, 0.3);
    d.turn('high-bleed', 1, 0.3);
    await wait(4);
    d.turn('high-bleed', 0, 0.3);
    d.turn('low-bleed', 0, 0.3);
    d.turn('so2', 0, 1);
    await wait(2);
    d.turn('high-control', 1, 0.3);
    d.turn('low-control', 0.05, 0.3);
    await wait(4);
    window.bench.clock.pause();
  });
  await learner.waitForTimeout(300);
  await shot(learner, 'bench');
  const hand = await signedIn(demo, /Ines Tarrow/, { ...phone, deviceScaleFactor: 1 });
  const pit = await withRound(demo, /Ines Tarrow/, { ...phone, deviceScaleFactor: 1 });
  await pit.context().setOffline(true);
  await pit.goto(`${demo.url}/`);
  await beginHere(pit, 'SVB');
  await room(pit, '#');
  await pit.locator('.signal').waitFor();
  await shot(pit, 'field-phone');
  await pit.context().close();
  await page.locator('a[data-go]').click();
  await page.waitForURL(/stops/);
  await beginNext(page);
  await answerAll(page);
  await page.getByRole('button', { name: /All as listed/ }).click();
  await at(page, 'Flush all four cocks');
  await goOn(page, 'Close SO2, gauge level with the water');
  await page.getByRole('button', { name: 'Done' }).click();
  await at(page, 'Close SO1');
  await page.getByRole('button', { name: /As it should/ }).click();
  await at(page, 'Open TC3 slowly, read CV1');
  await hand.goto(page.url());
  await at(hand, 'Open TC3 slowly, read CV1');
  for (const digit of '1.7') await hand.locator('.keypad').getByText(digit, { exact: true }).tap();
  await hand.getByText(/Passes/).waitFor();
  await shot(hand, 'run-phone');
  const dark = await signedIn(demo, /Ines Tarrow/, { ...desk, colorScheme: 'dark' });
  await dark.goto(page.url());
  await at(dark, 'Open TC3 slowly, read CV1');
  await dark.mouse.move(5, 5);
  await shot(dark, 'sights-dark');
  await page.keyboard.type('1.7');
  await page.getByText(/Passes/).waitFor();
  await page.keyboard.press('Enter');
  await at(page, 'Close both cocks, open SO1');
  await page.keyboard.type('0.9');
  await page.getByText(/Fails/).waitFor();
  await page.keyboard.press('Enter');
  await page.locator('.taken').getByText('0.9 psid').waitFor();
  await page.getByRole('button', { name: 'Done' }).click();
  await at(page, 'Close up');
  await answerAll(page);
  await page.getByRole('button', { name: /All as listed/ }).click();
  await page.waitForURL(/verdict/);
  await page.locator('#remarks').fill('CV2 a little weak; a kit is ordered.');
  await page.locator('canvas').scrollIntoViewIfNeeded();
  const box = await page.locator('canvas').boundingBox();
  await page.mouse.move(box.x + 40, box.y + 90);
  await page.mouse.down();
  for (let i = 0; i < 60; i++)
    await page.mouse.move(box.x + 40 + i * 5, box.y + 80 + 34 * Math.sin(i / 2.1) * Math.cos(i / 9));
  await page.mouse.up();
  await page.mouse.move(5, 5);
  await page.evaluate(() => scrollTo(0, 0));
  await shot(page, 'verdict', { fullPage: true });
  await page.locator('#pace').fill('A program took this picture.');
  await page.getByRole('button', { name: 'Sign and seal' }).click();
  await page.waitForURL(/reports/);
  await page.goto(`${demo.url}/`);
  await page.goto(demo.url + (await page.locator('.road a[href^="/reports/"]').first().getAttribute('href')));
  await shot(page, 'report', { fullPage: true });
  // Putting it right: the repair that waits for its part, and the report of one with a stopgap.
  await page.goto(`${demo.url}/repairs`);
  await page.locator('.jobs a').first().click();
  await page.waitForURL(/repairs\/.+/);
  await page.mouse.move(5, 5);
  await shot(page, 'repair');
  await page.goto(`${demo.url}/register?q=weir+rinse`);
  await page.locator('#found tbody a').first().click();
  await page.waitForURL(/register\//);
  await shot(page, 'passport');
  await page.goto(`${demo.url}/bench-sheets/caged-cartridge?order=out&step=5`);
  await shot(page, 'bench-sheet');
  await beginOn(page, 'RP');
  await goOn(page, 'Open TC4, bypass control fully open', undefined, {
    'apparent reading': '7.4',
    'first drip': '2.6',
  });
  await page.evaluate(() => scrollTo(0, 0));
  await page.mouse.move(5, 5);
  await shot(page, 'run-rp');
  const office = await signedIn(demo, /Wilma Quent/, desk);
  // What a change of rules would do, before it is kept.
  await office.goto(`${demo.url}/rules/psid-standard/1/change`);
  await office.getByLabel(/^Short name/).fill('two-a-year');
  await office.getByLabel('Months between tests').fill('6');
  await office.getByRole('button', { name: 'Show what it would change' }).click();
  await office.locator('#what-changes').waitFor();
  await office.evaluate(() => document.querySelector('#what-changes').scrollIntoView());
  await shot(office, 'rules');
  await office.goto(`${demo.url}/standing?by=make`);
  await shot(office, 'standing', { fullPage: true });
  await office.goto(`${demo.url}/due`);
  await shot(office, 'due');
  await office.goto(`${demo.url}/rounds`);
  await office.getByRole('button', { name: 'Look for rounds' }).click();
  await office.locator('.stop').first().waitFor({ timeout: 60_000 });
  await shot(office, 'rounds');
  await office.getByRole('button', { name: 'Accept these rounds' }).click();
  await office.getByText('Accepted by').waitFor();
  await office.goto(`${demo.url}/register?q=Upper%20Terrace%2080`);
  await office.locator('table.register tbody a').first().click();
  await office.locator('#told > summary').click();
  await office.getByRole('button', { name: 'Make a link to the owner’s page' }).click();
  const owner = await (await demo.browser.newContext({ ...phone, deviceScaleFactor: 1 })).newPage();
  await owner.goto(await office.locator('#owner-link').inputValue());
  await shot(owner, 'owner-phone');
  await office.goto(`${demo.url}/register?type=DC`);
  await shot(office, 'register');
  await office.goto(`${demo.url}/imports`);
  await office.getByRole('link', { name: 'board-list.csv' }).click();
  await office.getByText('doubtful').first().waitFor();
  await shot(office, 'import');
  await office.goto(`${demo.url}/diagnoses?q=F-10`);
  await office.locator('.which li').filter({ hasText: ' RP ' }).getByRole('button').first().click();
  await office.waitForURL(/diagnoses\/.+/);
  await office.getByRole('button', { name: 'It runs' }).first().click();
  await office.locator('.seen').getByText('In service: it runs').waitFor();
  await office.getByRole('link', { name: 'a tester' }).click();
  await office.getByRole('link', { name: 'shut first' }).click();
  await office.locator('.next-look > form').getByRole('button', { name: 'It goes on as before' }).click();
  await office.locator('.seen').getByText('SO2 closed: it goes on').waitFor();
  await shot(office, 'diagnosis');
} finally {
  await demo.close();
}
