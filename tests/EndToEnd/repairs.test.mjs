// From a failed test to one report with before, work and after: on a phone, with a picture.
import assert from 'node:assert/strict';
import { after, before, test } from 'node:test';
import { beginOn, goOn, openDemo, phone, signedIn, violations } from './browser.mjs';

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
const picture = page =>
  page.evaluate(async () => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [640, 480];
    const pen = canvas.getContext('2d');
    for (let i = 0; i < 12; i++) {
      pen.fillStyle = `hsl(${i * 30} 40% 60%)`;
      pen.fillRect(i * 53, 40, 50, 400);
    }
    const blob = await new Promise(done => canvas.toBlob(done, 'image/jpeg', 0.9));
    return [...new Uint8Array(await blob.arrayBuffer())];
  });

async function takePicture(page) {
  const before = await page.locator('.photos img').count();
  const buffer = Buffer.from(await picture(page));
  await page.locator('#photo').setInputFiles({ name: 'disc.jpg', mimeType: 'image/jpeg', buffer });
  await page.locator('.photos img').nth(before).waitFor();
}

/** Numbers of an RP, one by one; CV2 holds, SO2 stands still. */
async function testRp(page, check1) {
  await page.getByRole('button', { name: 'Step by step' }).tap();
  const numbers = { 'apparent reading': '7.6', 'first drip': '2.3', 'read CV1': check1 };
  await goOn(page, 'Close up', () => page.locator('.go .btn-go').tap(), numbers);
  await page.getByRole('button', { name: /All as listed/ }).tap();
  await page.waitForURL(/verdict/);
  await page.locator('#pace').fill('A program typed this, faster than water.');
  await page.getByLabel(/my typed name is my signature/).check();
  await page.getByRole('button', { name: 'Sign and seal' }).tap();
  await page.waitForURL(/reports/);
}

async function stepThrough(page, until) {
  for (let i = 0; i < 30; i++) {
    const now = await heading(page).textContent();
    if (until.test(now)) return;
    await page.locator('.at-hand:visible .btn-go').tap();
    await page.waitForFunction(was => document.querySelector('#step-title')?.textContent !== was, now);
  }
  throw new Error(`${until} does not come`);
}

test('an RP fails, its board leads to the repair of CV1 by its sheet, and one report has before and after', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, phone);
  await beginOn(page, 'RP');
  await page.getByRole('button', { name: /All as listed/ }).tap();
  await testRp(page, '5.0');
  console.log(await page.locator('h1.verdict').textContent());
});
