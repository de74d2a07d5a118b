// Takes the pictures of docs/screenshots from the demo data: node tests/e2e/screenshots.mjs (after ./mordel help has built).
import { fileURLToPath } from 'node:url';
import { beginNext, desk, openDemo, phone, signedIn } from './browser.mjs';

const out = fileURLToPath(new URL('../../docs/screenshots/', import.meta.url));
const demo = await openDemo();
const shot = (page, name, options = {}) => page.screenshot({ path: `${out}${name}.png`, ...options });
const at = async (page, title) => { await page.waitForFunction(wanted => document.querySelector('#now-title')?.textContent === wanted, title); await page.waitForTimeout(150); };
try {
  const page = await signedIn(demo, /Ines Tarrow/, desk);
  await shot(page, 'today');
  const hand = await signedIn(demo, /Ines Tarrow/, { ...phone, deviceScaleFactor: 1 });
  await shot(hand, 'today-phone');
  await page.locator('a[data-go]').click();
  await page.waitForURL(/stops/);
  await shot(page, 'stop');
  await beginNext(page);
  await page.getByRole('button', { name: /All as listed/ }).click();
  await at(page, 'Flush TC2, TC3, TC4');
  for (const next of ['Close the kit', 'Tube on TC3, tee and high hose on TC2', 'Purge the hose, fill the tube', 'Close SO2, gauge level with the water']) { await page.getByRole('button', { name: 'Done' }).click(); await at(page, next); }
  await page.mouse.move(5, 5);
  await shot(page, 'run');
  await page.getByRole('button', { name: 'Done' }).click(); await at(page, 'Close SO1');
  await page.getByRole('button', { name: /As it should/ }).click(); await at(page, 'Open TC4 for a moment');
  await page.getByRole('button', { name: 'Done' }).click(); await at(page, 'Open TC3 slowly, read CV1');
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
  await page.keyboard.type('1.7'); await page.getByText(/Passes/).waitFor(); await page.keyboard.press('Enter'); await at(page, 'Close both cocks, open SO1');
  await page.keyboard.type('0.9'); await page.getByText(/Fails/).waitFor(); await page.keyboard.press('Enter'); await page.locator('.taken').getByText('0.9 psid').waitFor();
  await page.getByRole('button', { name: 'Done' }).click(); await at(page, 'Close up');
  await page.getByRole('button', { name: /All as listed/ }).click();
  await page.waitForURL(/verdict/);
  await page.locator('#remarks').fill('CV2 a little weak; a kit is ordered.');
  const box = await page.locator('canvas').boundingBox();
  await page.mouse.move(box.x + 40, box.y + 90); await page.mouse.down();
  for (let i = 0; i < 60; i++) await page.mouse.move(box.x + 40 + i * 5, box.y + 80 + 34 * Math.sin(i / 2.1) * Math.cos(i / 9));
  await page.mouse.up();
  await page.mouse.move(5, 5);
  await shot(page, 'verdict');
  await page.getByRole('button', { name: 'Sign and seal' }).click();
  await page.waitForURL(/reports/);
  await shot(page, 'report', { fullPage: true });
  await page.goto(`${demo.url}/register`);
  await shot(page, 'register');
  await page.goto(`${demo.url}/register?q=weir+rinse`);
  await page.locator('#found a').first().click();
  await page.waitForURL(/register\//);
  await shot(page, 'passport');
  await page.goto(`${demo.url}/run-sheets`);
  await shot(page, 'run-sheets');
} finally { await demo.close(); }
