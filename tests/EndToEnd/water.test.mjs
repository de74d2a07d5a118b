// The core in the browser: the same numbers to the last bit as on the server, loaded only where it is used, and the
// server where it cannot load.
import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { fileURLToPath } from 'node:url';
import { openDemo, phone, sample, signedIn, thorough } from './browser.mjs';

let demo;
before(async () => {
  demo = await openDemo();
});
after(async () => {
  await demo.close();
});

const performed = page =>
  page.waitForFunction(
    () => !document.getElementById('outcome').hidden && !document.getElementById('go').disabled,
    null,
    { timeout: 60_000 },
  );

test('a simulated test in the browser comes to the same last bit as on the server, school by school', async () => {
  const page = await signedIn(demo, /Ines Tarrow/);
  const fetched = [];
  page.on('response', answer => {
    if (answer.url().includes('/core/')) fetched.push(answer);
  });
  await page.goto(`${demo.url}/bench/water`);
  assert.equal(fetched.length, 0, 'nothing of the core is fetched before it is wanted');
  await page.selectOption('#fault-1', 'cv2 leaks');
  await page.getByRole('button', { name: 'Perform the test' }).click();
  await performed(page);
  assert.equal(await page.textContent('#verdict'), 'Fail');
  assert.match(await page.textContent('#where'), /in this browser/);
  assert.match(await page.textContent('#found'), /CV2 leaks/);
  const schools = {
    'rp-relief-first': 'RP',
    'rp-check-first': 'RP',
    'rp-isolation-first': 'RP',
    'dc-sight-tube': 'DC',
    'dc-draw-down': 'DC',
    'pvb-inlet-first': 'PVB',
    'svb-check-first': 'SVB',
    'svb-static-first': 'SVB',
  };
  const scenarios = sample(Object.entries(schools), 3).map(([procedure, type]) =>
    JSON.stringify({
      format: 'mordel.scenario/1',
      assembly: { type },
      procedure,
      kit: 'three-valve',
      supply: { value: 71.3, unit: 'psi' },
      faults: [{ part: 'so1', fault: 'leaks', size: 'weep' }],
    }),
  );
  const pairs = await page.evaluate(async texts => {
    const { core } = await import(
      document.querySelector('script[src*="/js/water"]').src.replace(/water[^/]*\.js.*$/, 'core.js')
    );
    const inside = await core();
    const both = [];
    for (const text of texts)
      both.push([
        await inside.Simulate(text, 2),
        await (
          await fetch('/api/simulations?needle=2', {
            method: 'POST',
            headers: { 'content-type': 'application/json' },
            body: text,
          })
        ).text(),
      ]);
    return both;
  }, scenarios);
  assert.ok(pairs.length >= 2);
  for (const [here, there] of pairs) {
    assert.match(JSON.parse(here).fingerprint, /^[0-9a-f]{16}$/);
    assert.equal(here, there);
  }

  const sizes = await Promise.all(
    fetched.map(async answer => Number((await answer.allHeaders())['content-length'] ?? 0)),
  );
  const total = sizes.reduce((sum, size) => sum + size, 0);
  assert.ok(total > 500_000 && total < 2_300_000, `${total} bytes came over`);
  assert.ok(fetched.every(answer => answer.ok()));
  await page.context().close();
});

test('the core stands in a thread of its own, and in the page where the browser starts none', async () => {
  const page = await signedIn(demo, /Ines Tarrow/);
  const path = `${demo.url}/bench/water?procedure=svb-static-first&kit=three-valve&supply=60`;
  await page.goto(path);
  await performed(page);
  assert.match(await page.textContent('#where'), /in this browser/);
  assert.equal(page.workers().filter(worker => worker.url().includes('/js/core-worker')).length, 1);
  const verdict = await page.textContent('#reason');

  await page.route('**/js/core-worker*', route => route.abort());
  await page.goto(path);
  await performed(page);
  assert.match(await page.textContent('#where'), /in this browser/);
  assert.equal(page.workers().length, 0);
  assert.equal(await page.textContent('#reason'), verdict);

  await page.addInitScript(() => delete globalThis.Worker);
  await page.goto(path);
  await performed(page);
  assert.match(await page.textContent('#where'), /in this browser/);
  assert.equal(await page.textContent('#reason'), verdict);
  await page.context().close();
});

test('where the core cannot load the server performs the test, and a link brings the setting back', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, phone);
  await page.route('**/core/**', route => route.abort());
  await page.goto(
    `${demo.url}/bench/water?procedure=svb-static-first&kit=three-valve&supply=60&site=open&fault-1=so2+leaks&size-1=small`,
  );
  await performed(page);
  assert.equal(await page.textContent('#verdict'), 'Not testable');
  assert.match(await page.textContent('#where'), /by the server/);
  assert.equal(await page.inputValue('#procedure'), 'svb-static-first');
  await page.fill('#supply', '900');
  await page.evaluate(() => document.getElementById('set').setAttribute('novalidate', ''));
  await page.getByRole('button', { name: 'Perform the test' }).click();
  await page.getByText(/supply\.value: 900 is outside 0 to 300 psi/).waitFor();
  await page.context().close();
});

test('a page can turn a rig itself: hook up, purge, close SO2, and the needle stands at the spring', async () => {
  const page = await signedIn(demo, /Ines Tarrow/);
  await page.goto(`${demo.url}/bench/water`);
  const [needle, refusal, numbers] = await page.evaluate(async () => {
    const { core } = await import(
      document.querySelector('script[src*="/js/water"]').src.replace(/water[^/]*\.js.*$/, 'core.js')
    );
    const rig = await core();
    await rig.Begin(
      '{"format":"mordel.scenario/1","assembly":{"type":"RP"},"procedure":"rp-relief-first","kit":"five-valve"}',
    );
    await rig.Connect('high-hose', 'tc2');
    await rig.Connect('low-hose', 'tc3');
    for (const part of ['tc2', 'tc3', 'high-bleed', 'low-bleed']) await rig.Turn(part, 1);
    await rig.Run(5);
    await rig.Turn('high-bleed', 0);
    await rig.Turn('low-bleed', 0);
    await rig.Turn('so2', 0);
    const needle = await rig.Run(60);
    return [needle, await rig.Connect('high-hose', 'attic'), (await rig.Numbers()).length];
  });
  assert.ok(Math.abs(needle - 7.6) < 0.02, `${needle}`);
  assert.match(refusal, /takes no hose/);
  assert.ok(numbers > 50);
  await page.context().close();
});

test('over every school, kit and profile the views of random logs are made here as on the server, to the byte', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'mordel-logs-')),
    file = join(folder, 'cases'),
    made = fileURLToPath(
      new URL('../../artifacts/bin/Mordel.Validation/release/Mordel.Validation.dll', import.meta.url),
    ),
    many = thorough ? 2000 : 60,
    seed = process.env.MORDEL_SEED ?? String(process.pid);
  const done = spawnSync('dotnet', [made, 'logs', file, String(many), seed], { encoding: 'utf8' });
  assert.equal(done.status, 0, done.stderr);
  const lines = readFileSync(file, 'utf8')
    .trim()
    .split('\n')
    .map(line => JSON.parse(line));
  rmSync(folder, { recursive: true, force: true });
  const setups = lines.filter(line => line.setup).map(line => line.setup),
    cases = lines.filter(line => line.log);
  assert.equal(cases.length, many);
  const page = await signedIn(demo, /Ines Tarrow/, phone, '/field');
  await page.evaluate(async () => {
    const { fieldCore } = await import('/js/core.js');
    globalThis.core = await fieldCore();
    globalThis.hash = async text => {
      const bytes = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text));
      return [...new Uint8Array(bytes)].map(b => b.toString(16).padStart(2, '0')).join('');
    };
  });
  for (const [i, { of, log, view, verdict, seen }] of cases.entries()) {
    const here = await page.evaluate(
      async ([setup, log]) => {
        const wrong = [await globalThis.core.Open('r', setup, '')];
        for (let from = 0; from < log.length; from += 200)
          wrong.push(await globalThis.core.Take('r', `{"entries":[${log.slice(from, from + 200).join(',')}]}`));
        return {
          wrong: wrong.join(''),
          view: await globalThis.hash(await globalThis.core.View('r', false)),
          verdict: await globalThis.hash(await globalThis.core.Verdict('r', '', 0)),
          seen: JSON.parse(await globalThis.core.Seen('r')).seen,
        };
      },
      [setups[of], log],
    );
    assert.deepEqual(here, { wrong: '', view, verdict, seen }, `case ${i} of seed ${seed}`);
  }
  await page.context().close();
});
