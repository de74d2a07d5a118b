// What a slow phone has of the field rooms without a signal: node bench/field.mjs (after ./mordel help). The round is
// taken along; then, with no line and a processor made four times slower: how long the round takes to stand, a stop,
// a test with the core just started, and each tap of a whole test, from the press to what comes next; and for how long
// at once the page was held. The browser slows the page's thread alone: "page" behind it has the core there too.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from 'playwright-core';
import { chromiumPath, demoData, flags, freePort, phone, signedIn, startServer } from '../tests/EndToEnd/browser.mjs';
import { doNext, sound } from '../tests/EndToEnd/field.mjs';

const SLOWER = Number(process.env.MORDEL_SLOWER ?? 4);
const [data, port] = [mkdtempSync(join(tmpdir(), 'mordel-field-')), await freePort()];
await demoData(data);
const server = await startServer({ data, port });
const browser = await chromium.launch({ executablePath: chromiumPath, args: flags });
const demo = { url: server.url, browser };
const page = await signedIn(demo, /Ines Tarrow/, phone);
const inPage = process.argv.includes('page');
await page.addInitScript(alone => {
  if (alone) delete globalThis.Worker;
  globalThis.held = [];
  new PerformanceObserver(list => globalThis.held.push(...list.getEntries().map(task => task.duration))).observe({
    entryTypes: ['longtask'],
  });
}, inPage);
// For how long at most the page was held since this was asked last.
const held = async () => Math.max(0, ...(await page.evaluate(() => globalThis.held.splice(0))));
const client = await page.context().newCDPSession(page);
await client.send('Network.enable');
let bytes = 0;
client.on('Network.loadingFinished', e => (bytes += e.encodedDataLength));
await page.goto(`${demo.url}/field`);
bytes = 0;
await page.getByRole('button', { name: 'Take the round along' }).click();
await page
  .locator('[data-aboard]')
  .getByText(/stops?,/)
  .waitFor();
await page.waitForFunction(() => navigator.serviceWorker.controller);
console.log(`taken along: ${Math.round(bytes / 1000)} KB over the line`);

await page.context().setOffline(true);
await client.send('Emulation.setCPUThrottlingRate', { rate: SLOWER });
const ms = async work => {
  const began = performance.now();
  await work();
  return performance.now() - began;
};
const median = times => [...times].sort((a, b) => a - b)[times.length >> 1];
const high = times => [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)];
const said = (what, times) => {
  const [half, most] = [median(times), high(times)].map(time => time.toFixed(0));
  console.log(`${what.padEnd(34)} median ${half} ms, 95 of 100 under ${most} ms (${times.length})`);
};

const today = [];
for (let i = 0; i < 7; i++)
  today.push(
    await ms(async () => {
      await page.goto(`${demo.url}/`, { waitUntil: 'commit' });
      await page.locator('a[data-go]').waitFor();
    }),
  );
said('the round stands', today);
for (const type of ['DC', 'RP', 'PVB', 'SVB']) {
  await page.goto(`${demo.url}/field`, { waitUntil: 'commit' });
  const stop = page.locator('.rest > .road li.stop-open').filter({ hasText: new RegExp(`${type} `) });
  await stop.first().locator('a').click();
  const begin = page.getByRole('button', { name: 'Begin the test' });
  // In turn: begun at once, or after somebody has read for a while what stands at the stop.
  const reads = ['DC', 'PVB'].includes(type);
  if (reads) await page.waitForTimeout(15_000);
  const reading = reads ? await held() : 0;
  const first = await ms(async () => {
    await begin.click();
    await page.locator('.run svg.rig').waitFor({ state: 'attached' });
  });
  const beginning = await held(),
    taps = [];
  const given = sound.map(([asked, value]) => [asked.source, asked.flags, value]);
  for (let i = 0; i < 120; i++) {
    // From the press to the moment at which the screen shows what comes next, by the page's own clock.
    const step = await doNext(page, [type, given]);
    if (step.done) break;
    if (step.took) taps.push(step.took);
  }
  said(`${type}: a tap answers`, taps);
  const how = reads ? `the stop read for 15 s, held ${reading.toFixed(0)} ms` : 'begun at once';
  console.log(
    `${' '.repeat(34)} the test stands after ${first.toFixed(0)} ms, held ${beginning.toFixed(0)} (${how}); ` +
      `at taps held ${(await held()).toFixed(0)}`,
  );
}
await browser.close();
await server.kill();
rmSync(data, { recursive: true, force: true });
