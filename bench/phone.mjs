// What a slow phone has of the rooms: node bench/phone.mjs [ROOM…] (after ./mordel help; for the marks also npm ci in
// bench/). Each page is opened as if for the first time, with slow 4G (1.6 Mbit/s down, 0.75 up, 150 ms) and a
// processor made four times slower: how much comes over the line, when the largest thing stands, when a tap is taken,
// how far the layout shifts meanwhile. Then the marks of Lighthouse, where it is there, on its own slow phone, three
// times, the median of each.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from 'playwright-core';
import {
  beginOn,
  chromiumPath,
  demoData,
  flags,
  freePort,
  phone,
  signedIn,
  startServer,
} from '../tests/EndToEnd/browser.mjs';
import { at } from './server.mjs';

const categories = ['performance', 'accessibility', 'best-practices', 'seo'];
const looks = 3;
const [data, port, debugging] = [mkdtempSync(join(tmpdir(), 'mordel-phone-')), await freePort(), await freePort()];
await demoData(data);
const server = await startServer({ data, port });
const browser = await chromium.launch({
  executablePath: chromiumPath,
  args: [...flags, `--remote-debugging-port=${debugging}`],
});
const demo = { url: server.url, browser };

// Where a room is, who goes there, and what must answer before it is of use.
async function rooms() {
  const tester = await signedIn(demo, /Ines Tarrow/, phone);
  const stop = await tester.locator('a[data-go]').getAttribute('href');
  const report = await tester.locator('.road a[href^="/reports/"]').nth(1).getAttribute('href');
  await beginOn(tester, 'RP');
  const run = new URL(tester.url()).pathname;
  await tester.goto(`${demo.url}/register`);
  const passport = await tester.locator('#found tbody a').nth(3).getAttribute('href');
  const bench = '/bench/free?procedure=rp-relief-first&kit=five-valve';
  return {
    'sign-in': [null, '/sign-in', 'button'],
    today: [/Ines Tarrow/, '/', 'a[data-go]'],
    stop: [/Ines Tarrow/, stop, 'main form button, main a.act'],
    run: [/Ines Tarrow/, run, '.run:not(.first) svg.rig'],
    verdict: [/Ines Tarrow/, `${run}/verdict`, 'main'],
    report: [/Ines Tarrow/, report, 'main'],
    register: [/Ines Tarrow/, '/register', '#found tbody a'],
    passport: [/Ines Tarrow/, passport, 'main svg'],
    'it drips': [/Ines Tarrow/, '/diagnoses', 'main'],
    sheets: [/Ines Tarrow/, '/run-sheets/rp-relief-first/five-valve', 'main'],
    // By the server's water first; then with its own.
    bench: [/Ines Tarrow/, bench, '#bench[data-usable="yes"]', null, '#bench[data-ready="yes"]'],
    // Chosen in its room, where what it needs is fetched meanwhile.
    chosen: [/Ines Tarrow/, bench, '#bench[data-usable="yes"]', '/bench', '#bench[data-ready="yes"]'],
    due: [/Wilma Quent/, '/due', 'main'],
  };
}

// A page in a context of its own, as on the first day: nothing kept but who is signed in.
async function first(who, path) {
  const page = who
    ? await signedIn(demo, who, phone)
    : await (await browser.newContext({ reducedMotion: 'reduce', ...phone })).newPage();
  await page.goto('about:blank');
  const client = await page.context().newCDPSession(page);
  await client.send('Network.enable');
  await client.send('Network.clearBrowserCache');
  await client.send('Network.emulateNetworkConditions', {
    offline: false,
    latency: 150,
    downloadThroughput: 1_600_000 / 8,
    uploadThroughput: 750_000 / 8,
  });
  await client.send('Emulation.setCPUThrottlingRate', { rate: 4 });
  let bytes = 0;
  client.on('Network.loadingFinished', e => {
    bytes += e.encodedDataLength;
  });
  await page.addInitScript(() => {
    window.looked = { shift: 0, largest: 0 };
    new PerformanceObserver(list => {
      for (const e of list.getEntries()) if (!e.hadRecentInput) window.looked.shift += e.value;
    }).observe({ type: 'layout-shift', buffered: true });
    new PerformanceObserver(list => {
      for (const e of list.getEntries()) window.looked.largest = e.startTime;
    }).observe({ type: 'largest-contentful-paint', buffered: true });
  });
  return {
    page,
    bytes: () => bytes,
    // Until nothing more comes: what follows is counted by itself.
    async wait(at) {
      const from = Date.now();
      await page.goto(demo.url + at, { waitUntil: 'networkidle', timeout: 120_000 });
      await page.waitForTimeout(1500);
      await page.waitForLoadState('networkidle');
      console.log(
        `${''.padEnd(12)} in ${at} for ${((Date.now() - from) / 1000).toFixed(1)} s, ${(bytes / 1000).toFixed(0)} KB`,
      );
      bytes = 0;
    },
    open: () => page.goto(demo.url + path, { waitUntil: 'commit', timeout: 120_000 }),
  };
}

async function look([who, path, ready, room, whole]) {
  const { page, bytes, open, wait } = await first(who, path);
  page.setDefaultTimeout(120_000);
  if (room) await wait(room);
  await open();
  await page.locator(ready).first().waitFor({ state: 'attached' });
  const usable = await page.evaluate(() => performance.now());
  if (whole) {
    const sofar = bytes();
    await page.locator(whole).waitFor({ state: 'attached' });
    const then = await page.evaluate(() => performance.now());
    console.log(
      `${''.padEnd(12)} usable with ${(sofar / 1000).toFixed(0)} KB, whole after ${(then / 1000).toFixed(1)} s`,
    );
  }
  await page.waitForLoadState('networkidle');
  await page.waitForTimeout(1500);
  const { shift, largest } = await page.evaluate(() => window.looked);
  await page.context().close();
  return { usable, largest, shift, bytes: bytes() };
}

async function marks(lighthouse, [who, path]) {
  const page = who ? await signedIn(demo, who, phone) : null;
  const cookie = page && (await page.context().cookies()).map(c => `${c.name}=${c.value}`).join('; ');
  await page?.context().close();
  const found = {};
  let worst = [];
  for (let i = 0; i < looks; i++) {
    const { lhr } = await lighthouse(demo.url + path, {
      port: debugging,
      logLevel: 'silent',
      onlyCategories: categories,
      ...(cookie && { extraHeaders: { Cookie: cookie } }),
    });
    for (const c of categories) (found[c] ??= []).push(100 * (lhr.categories[c].score ?? NaN));
    worst = Object.values(lhr.audits)
      .filter(a => a.score !== null && a.score < 0.9 && a.scoreDisplayMode !== 'informative')
      .map(a => a.id);
  }
  return { ...Object.fromEntries(categories.map(c => [c, at(found[c], 0.5)])), worst };
}

try {
  const all = await rooms();
  const wanted = process.argv.slice(2);
  const chosen = Object.entries(all).filter(([name]) => wanted.length === 0 || wanted.includes(name));
  console.log('room            usable   largest     shift        KB');
  for (const [name, room] of chosen) {
    const l = await look(room);
    const figures = [
      `${(l.usable / 1000).toFixed(1)} s`,
      `${(l.largest / 1000).toFixed(1)} s`,
      l.shift.toFixed(3),
      (l.bytes / 1000).toFixed(0),
    ];
    console.log(name.padEnd(12) + figures.map(f => f.padStart(10)).join(''));
  }
  const lighthouse = (await import('lighthouse').catch(() => null))?.default;
  if (!lighthouse) console.log('No marks: npm ci in bench/ fetches Lighthouse.');
  else {
    console.log(`\nLighthouse on its phone: ${categories.join(', ')}; what is below 0.9`);
    for (const [name, room] of chosen) {
      const m = await marks(lighthouse, room);
      const figures = categories.map(c => String(Math.round(m[c])).padStart(4)).join('');
      console.log(`${name.padEnd(12)} ${figures}  ${m.worst.join(' ')}`);
    }
  }
} finally {
  await browser.close();
  await server.kill();
  rmSync(data, { recursive: true, force: true });
}
