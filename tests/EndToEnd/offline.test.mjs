// A whole day without a signal, and its way home: everything once, sealed, and nothing of it left after signing out.
import assert from 'node:assert/strict';
import { after, before, test } from 'node:test';
import { beginNext, inTurn, openDemo, phone, signedIn, thorough, violations } from './browser.mjs';
import { beginHere, deeds, mend, perform, photograph, room, sent, signHere, withRound } from './field.mjs';

let demo;
before(async () => {
  demo = await openDemo();
});
after(async () => {
  await demo.close();
});

// Numbers of an RP whose CV1 is weak.
const weak = [
  [/apparent/i, '4.4'],
  [/CV1/, '4.2'],
];

/** The logs of this device, by what they are of: how many entries each has. */
const logs = page =>
  page.evaluate(
    () =>
      new Promise((found, failed) => {
        const opened = indexedDB.open('mordel-outbox');
        opened.onerror = failed;
        opened.onsuccess = () => {
          const all = opened.result.transaction('logs').objectStore('logs').getAll();
          all.onsuccess = () => {
            const counts = {};
            for (const { of } of all.result) counts[of] = (counts[of] ?? 0) + 1;
            opened.result.close();
            found(counts);
          };
        };
      }),
  );

test('a whole round without a signal comes home once: four types, a failure, a repair with a picture, five seals', async () => {
  const page = await withRound(demo, /Ines Tarrow/);
  await page.context().setOffline(true);
  // Whatever is opened without a signal leads to the round on this device.
  await page.goto(`${demo.url}/`);
  assert.equal(new URL(page.url()).pathname, '/field');
  const runs = [];
  for (const type of ['DC', 'PVB', 'SVB']) {
    const run = await beginHere(page, type);
    runs.push(run);
    // Styles of all field rooms lie on this page: none of another room takes a sentence of this one apart.
    assert.equal(await page.locator('.now p.why').evaluate(p => getComputedStyle(p).display), 'block');
    await perform(page, type);
    assert.match(await page.locator('h1.verdict').textContent(), /Pass/);
    assert.match(await signHere(page), /not sealed yet/);
  }
  const failed = await beginHere(page, 'RP');
  runs.push(failed);
  // It drips: what is seen goes to the board, which says what to look at next.
  await page.getByRole('link', { name: 'Which part is it?' }).click();
  await page.locator('.look .answer').first().click();
  await page.locator('.seen li').first().waitFor();
  // The back key of the phone leads back to the test.
  await page.goBack();
  await page.locator('.run svg.rig').waitFor({ state: 'attached' });
  await perform(page, 'RP', weak);
  assert.match(await page.locator('h1.verdict').textContent(), /Fail/);
  await page.getByRole('link', { name: 'Which part is it?' }).click();
  await page.locator('.hypotheses').getByText('CV1').first().waitFor();
  await page.goBack();
  assert.match(await signHere(page), /not sealed yet/);
  await page.getByRole('button', { name: 'Put it right' }).click();
  const job = await mend(page, { part: 'CV1', shows: () => photograph(page) });
  await page.getByRole('button', { name: 'Begin the test' }).click();
  await page.locator('.run svg.rig').waitFor({ state: 'attached' });
  runs.push(await page.evaluate(() => location.hash.split('/')[1]));
  await perform(page, 'RP');
  assert.match(await signHere(page), /not sealed yet/);
  // Loaded anew it is all still there, and so is the number of what waits.
  const before = await logs(page);
  await page.reload();
  await page
    .locator('.signal')
    .getByText(/\d+ entries wait/)
    .waitFor();
  await page.context().setOffline(false);
  await sent(page);
  for (const run of runs) {
    const log = await (await page.request.get(`${demo.url}/api/runs/${run}/log`)).json();
    assert.equal(log.length, before[run], `entries of ${run}`);
    assert.equal(new Set(log.map(e => e.id)).size, log.length);
    const record = await page.request.get(`${demo.url}/api/runs/${run}/record`);
    assert.equal(record.status(), 200, await record.text());
  }
  const mended = await (await page.request.get(`${demo.url}/api/repairs/${job}/log`)).json();
  assert.equal(mended.filter(e => e.kind !== 'photo').length, before[job]);
  assert.equal(mended.filter(e => e.kind === 'photo').length, 1);
  // The report of the test after the repair has what was read before, what was done, and the picture.
  await page.goto(`${demo.url}/reports/${runs.at(-1)}`);
  const report = await page.locator('.report').textContent();
  assert.match(report, /Repaired after report .* which said: fail/);
  assert.match(report, /4\.2 psid.*7\.4 psid/s);
  await page.locator('.repaired img').waitFor();
  await page.goto(`${demo.url}/reports/${failed}`);
  assert.match(await page.locator('.report').textContent(), /Fail/);
  await page.context().close();
});

test(
  'the server dies again and again while a day comes home, and all of it is there once',
  { skip: inTurn(1) },
  async () => {
    const page = await withRound(demo, /Ines Tarrow/);
    await page.context().setOffline(true);
    const run = await beginHere(page, 'DC');
    await perform(page, 'DC');
    await signHere(page);
    const before = await logs(page);
    const kills = thorough ? 10 : 3;
    for (let i = 0; i < kills; i++) {
      await demo.kill();
      await page.context().setOffline(false);
      await page.waitForTimeout(100);
      await demo.start();
      await page.waitForTimeout(150 * i);
    }
    await sent(page);
    const log = await (await page.request.get(`${demo.url}/api/runs/${run}/log`)).json();
    assert.equal(log.length, before[run]);
    assert.equal(new Set(log.map(e => e.id)).size, log.length);
    assert.equal((await page.request.get(`${demo.url}/api/runs/${run}/record`)).status(), 200);
    await page.context().close();
  },
);

test(
  'two devices without a signal at one stop come home to one log, and who signed over less is told',
  { skip: inTurn(0) },
  async () => {
    const pages = [await withRound(demo, /Ines Tarrow/), await withRound(demo, /Ines Tarrow/)];
    const runs = [];
    for (const page of pages) {
      await page.context().setOffline(true);
      runs.push(await beginHere(page, 'RP'));
      await perform(page, 'RP');
      await signHere(page);
    }
    assert.equal(runs[0], runs[1]);
    // The first comes home and is sealed; the second meets a sealed run, and is told so, entry by entry.
    await pages[0].context().setOffline(false);
    await sent(pages[0]);
    const first = (await logs(pages[0]))[runs[0]];
    await pages[1].context().setOffline(false);
    await pages[1]
      .locator('[data-seal]')
      .getByText(/not sealed: .*already signed/)
      .waitFor();
    const log = await (await pages[0].request.get(`${demo.url}/api/runs/${runs[0]}/log`)).json();
    assert.equal(log.length, first);
    assert.equal(new Set(log.map(e => e.id)).size, log.length);
    await room(pages[1], '#');
    await pages[1].locator('.refused').getByText('A signature').waitFor();
    assert.ok((await pages[1].locator('.refused .special').count()) > 1);
    for (const page of pages) await page.context().close();
  },
);

test('the session ended meanwhile: nothing is lost, and signing in again sends it', { skip: inTurn(0) }, async () => {
  const page = await withRound(demo, /Odd Harrick/);
  await page.context().setOffline(true);
  const type = (await page.locator('.rest > .road li.stop-open .what').first().textContent()).split(' ')[0];
  const run = await beginHere(page, type);
  await page.locator('.go .btn-go:visible').click();
  await page.waitForFunction(() => Number(document.querySelector('.run').dataset.entries) > 0);
  await page.context().clearCookies();
  await page.context().setOffline(false);
  await page.getByRole('link', { name: 'Sign in again to send' }).click();
  await page.getByRole('button', { name: /Odd Harrick/ }).click();
  await page.waitForURL(/\/field/);
  await sent(page);
  const log = await (await page.request.get(`${demo.url}/api/runs/${run}/log`)).json();
  assert.ok(log.length > 0);
  await page.context().close();
});

test(
  'nothing of another tester’s is on the device, and after signing out nothing is',
  { skip: inTurn(2) },
  async () => {
    const page = await withRound(demo, /Odd Harrick/);
    const held = () =>
      page.evaluate(async () => {
        const rows = [];
        for (const { name } of await indexedDB.databases()) {
          const db = await new Promise((found, failed) => {
            const opened = indexedDB.open(name);
            [opened.onsuccess, opened.onerror] = [() => found(opened.result), failed];
          });
          for (const store of db.objectStoreNames)
            rows.push(
              ...(await new Promise(found => {
                const all = db.transaction(store).objectStore(store).getAll();
                all.onsuccess = () => found(all.result);
              })),
            );
          db.close();
        }
        return {
          rows: JSON.stringify(rows),
          caches: await caches.keys(),
          local: Object.keys(localStorage),
          workers: (await navigator.serviceWorker.getRegistrations()).length,
        };
      });
    const full = await held();
    assert.ok(full.rows.includes('Odd Harrick') && full.caches.length === 1 && full.workers === 1);
    for (const other of ['Ines Tarrow', 'Bram Oskelly', 'Sanna Wick']) assert.ok(!full.rows.includes(other), other);
    // A colleague signs in without the first having signed out: the round is not theirs.
    await page.context().clearCookies();
    await page.goto(`${demo.url}/sign-in?returnUrl=/field`);
    await page.getByRole('button', { name: /Sanna Wick/ }).click();
    await page.getByText('Nothing on board').waitFor();
    for (let i = 0; i < 50 && (await held()).rows.includes('Odd Harrick'); i++) await page.waitForTimeout(100);
    assert.ok(!(await held()).rows.includes('Odd Harrick'));
    await page.getByRole('button', { name: 'Take the round along' }).click();
    await page
      .locator('[data-aboard]')
      .getByText(/stops?,/)
      .waitFor();
    assert.ok((await held()).rows.includes('Sanna Wick'));
    await page.locator('.rooms summary').click();
    await page.locator('.rooms .signout button').click();
    await page.waitForURL(/sign-in/);
    const empty = await held();
    assert.deepEqual(empty, { rows: '[]', caches: [], local: [], workers: 0 });
    await page.context().close();
  },
);

test(
  'what is not sent yet is said before signing out would lose it, and signing out needs a signal',
  { skip: inTurn(2) },
  async () => {
    const page = await withRound(demo, /Odd Harrick/);
    await page.context().setOffline(true);
    const signOut = async () => {
      await page.locator('.rooms summary').click();
      await page.locator('.rooms .signout button').click();
    };
    await signOut();
    await page.getByRole('heading', { name: 'No signal' }).waitFor();
    await page.getByRole('button', { name: 'Stay signed in' }).click();
    await page.locator('.rest > .road li:is(.stop-open, .stop-running) a').first().click();
    await page.getByRole('button', { name: /Begin the test|Go on with/ }).click();
    await page.locator('.run svg.rig').waitFor({ state: 'attached' });
    await page
      .getByRole('button', { name: /^Take back|^Note/ })
      .first()
      .click();
    const dialog = page.locator('.run dialog[open]');
    if (await dialog.isVisible()) {
      await dialog.locator('textarea').fill('A note.');
      await dialog.locator('.btn-primary').click();
    }
    await page.locator('.signal').getByText(/wait/).waitFor();
    await signOut();
    await page.getByRole('heading', { name: 'Not sent yet' }).waitFor();
    assert.deepEqual(await violations(page), []);
    await page.getByRole('button', { name: 'Stay signed in' }).click();
    assert.equal(new URL(page.url()).pathname, '/field');
    assert.ok((await deeds(page)).length > 0);
    await page.context().setOffline(false);
    await sent(page);
    await page.context().close();
  },
);

test('what the server knows by another id keeps all that was made at it', async () => {
  const page = await signedIn(demo, /Odd Harrick/, phone, '/account');
  const kept = await page.evaluate(async () => {
    const { all, keep, rename, wipe } = await import('/js/field/store.js');
    const by = 'me';
    await keep(
      [
        { kind: 'begin', of: 'r1', by, body: {} },
        { kind: 'entry', of: 'r1', by, id: 'e1', tick: 1, text: '{}' },
        { kind: 'look', of: 'b1', after: 'r1', by, body: {} },
        { kind: 'repair', of: 'j1', after: 'b1', by, body: {} },
        { kind: 'begin', of: 'r2', after: 'j1', by, body: {} },
      ],
      [
        ['runs', { id: 'r1' }],
        ['runs', { id: 'r2', after: 'j1' }],
        ['boards', { id: 'b1', run: 'r1' }],
        ['repairs', { id: 'j1', run: 'r1', board: 'b1', retest: 'r2' }],
      ],
    );
    for (const id of ['r1', 'b1', 'j1', 'r2']) await rename(id, `${id}-there`);
    const found = {};
    for (const store of ['runs', 'boards', 'repairs', 'logs', 'deeds']) found[store] = await all(store);
    await wipe();
    return JSON.stringify(found);
  });
  for (const id of ['r1', 'b1', 'j1', 'r2']) assert.ok(!kept.includes(`"${id}"`), `${id}: ${kept}`);
  await page.context().close();
});

test('what an earlier version kept on the device is sent by this one', { skip: inTurn(1) }, async () => {
  const begun = await signedIn(demo, /Odd Harrick/);
  await beginNext(begun);
  const run = new URL(begun.url()).pathname.split('/')[2];
  await begun.context().close();
  const page = await signedIn(demo, /Odd Harrick/, phone, '/account');
  const id = await page.evaluate(
    run =>
      new Promise((made, failed) => {
        const opened = indexedDB.open('mordel-outbox', 1);
        opened.onerror = failed;
        opened.onupgradeneeded = () =>
          opened.result.createObjectStore('entries', { keyPath: 'id' }).createIndex('run', 'run');
        opened.onsuccess = () => {
          const id = crypto.randomUUID(),
            at = new Date().toISOString(),
            entry = { id, tick: 900, at, kind: 'note', step: 'before.notify', text: 'Entered by an earlier version.' },
            tx = opened.result.transaction('entries', 'readwrite');
          tx.objectStore('entries').put({ id, run, entry });
          tx.oncomplete = () => {
            opened.result.close();
            made(id);
          };
        };
      }),
    run,
  );
  await page.goto(`${demo.url}/`);
  await sent(page);
  const log = await (await page.request.get(`${demo.url}/api/runs/${run}/log`)).json();
  assert.equal(log.filter(e => e.id === id).length, 1);
  await page.context().close();
});

test(
  'who cannot sign is told so before the test and at its verdict, without a signal too',
  { skip: inTurn(0) },
  async () => {
    const page = await withRound(demo, /Bram Oskelly/);
    await page.context().setOffline(true);
    await page.locator('.rest > .road li.stop-open a').first().click();
    await page.getByText('It could not be signed as things stand').waitFor();
    const type = (await page.locator('.facts dd').nth(1).textContent()).split(' ')[0];
    await page.getByRole('button', { name: 'Begin it all the same' }).click();
    await page.locator('.run svg.rig').waitFor({ state: 'attached' });
    await perform(page, type);
    await page.getByText(/Cannot be signed:.*certificate/s).waitFor();
    assert.equal(await page.getByRole('button', { name: 'Sign', exact: true }).isVisible(), false);
    await page.context().close();
  },
);

test(
  'a device whose clock is a day slow says so, and what is entered carries the right day',
  { skip: inTurn(1) },
  async () => {
    const page = await signedIn(demo, /Odd Harrick/, phone);
    await page.addInitScript(() => {
      const Real = Date,
        slow = 86_400_000;
      globalThis.Date = class extends Real {
        constructor(...given) {
          if (given.length) super(...given);
          else super(Real.now() - slow);
        }
        static now() {
          return Real.now() - slow;
        }
      };
    });
    await page.goto(`${demo.url}/field`);
    await page.getByRole('button', { name: 'Take the round along' }).click();
    await page.getByText('clock is 24 hours slow').waitFor();
    await page.context().close();
  },
);

test(
  'a test that began with a signal goes on where it is lost: a tap answers from the device',
  { skip: inTurn(2) },
  async () => {
    const page = await withRound(demo, /Odd Harrick/);
    await page.goto(`${demo.url}/`);
    await page.getByText(/On board: /).waitFor();
    await beginNext(page);
    await page.locator('.run[data-home="true"]').waitFor();
    await page.context().setOffline(true);
    const was = await page.locator('#now-title').textContent();
    const answered = page.waitForFunction(old => document.querySelector('#now-title').textContent !== old, was);
    for (const chip of await page.locator('.together .ask-line .chip:visible').all()) await chip.click();
    await page.locator('.go .btn-go:visible').click();
    await answered;
    // Loaded anew without a signal it stands in the field rooms, where it was.
    const now = await page.locator('#now-title').textContent();
    await page.reload();
    await page.waitForURL(/\/field#run\//);
    await page.locator('.run svg.rig').waitFor({ state: 'attached' });
    assert.equal(await page.locator('#now-title').textContent(), now);
    // The thread of the core breaks off: the next tap is kept, and answered by another that reads all anew.
    const [thread] = page.workers().filter(worker => worker.url().includes('/js/core-worker'));
    const kept = Object.values(await logs(page)).at(-1);
    await thread.evaluate(() =>
      setTimeout(() => {
        throw new Error('broken off');
      }),
    );
    await page.waitForTimeout(300);
    assert.equal(page.workers().length, 0);
    await page.locator('.go .btn-go:visible').click();
    await page.waitForFunction(old => document.querySelector('#now-title').textContent !== old, now);
    assert.equal(Object.values(await logs(page)).at(-1), kept + 1);
    assert.equal(await page.locator('.run .error:visible').count(), 0);
    await page.context().setOffline(false);
    await sent(page);
    await page.context().close();
  },
);

test(
  'no room on the device is said at the tap, and what the browser threw away is fetched anew',
  { skip: inTurn(1) },
  async () => {
    const page = await withRound(demo, /Odd Harrick/);
    await page.evaluate(() => {
      const put = IDBObjectStore.prototype.put;
      globalThis.full = true;
      IDBObjectStore.prototype.put = function (...given) {
        if (globalThis.full && this.name === 'deeds') throw new DOMException('no room', 'QuotaExceededError');
        return put.apply(this, given);
      };
    });
    const stops = page.locator('.rest > .road li:is(.stop-open, .stop-running) a');
    await stops.last().click();
    await page.getByRole('button', { name: /Begin the test|Go on with/ }).click();
    await page.getByText('There is no room on this device: this was not kept.').waitFor();
    await page.evaluate(() => (globalThis.full = false));
    await page.getByRole('button', { name: /Begin the test|Go on with/ }).click();
    await page.locator('.run svg.rig').waitFor({ state: 'attached' });
    await sent(page);
    await page.evaluate(async () => {
      for (const name of await caches.keys()) await caches.delete(name);
    });
    await page.goto(`${demo.url}/field`);
    await page.getByText('Nothing on board').waitFor();
    await page.getByRole('button', { name: 'Take the round along' }).click();
    await page
      .locator('[data-aboard]')
      .getByText(/stops?,/)
      .waitFor();
    await page.context().close();
  },
);

test('no accessibility violations in the field rooms, in light, dark and sun', { skip: inTurn(2) }, async () => {
  for (const [scheme, theme] of [
    ['light', ''],
    ['dark', ''],
    ['light', 'sun'],
  ]) {
    const page = await withRound(demo, /Ines Tarrow/, { ...phone, colorScheme: scheme });
    if (theme) await page.evaluate(to => (document.documentElement.dataset.theme = to), theme);
    await page.context().setOffline(true);
    assert.deepEqual(await violations(page), [], 'today');
    const run = await beginHere(page, 'DC');
    assert.deepEqual(await violations(page), [], 'run');
    await perform(page, 'DC', [[/CV1/, '0.6']]);
    await page.locator('#field-sign').waitFor();
    assert.deepEqual(await violations(page), [], 'verdict');
    await room(page, `#board/${run}`);
    await page.locator('.hypotheses li').first().waitFor();
    assert.deepEqual(await violations(page), [], 'board');
    await page.context().close();
    if (!thorough) break;
  }
});

test('an answer that breaks off in the middle is asked for again', { skip: inTurn(0) }, async () => {
  const page = await withRound(demo, /Ines Tarrow/);
  await page.context().setOffline(true);
  const run = await beginHere(page, 'DC');
  await page.locator('.together .ask-line .chip:visible').first().click();
  await page.waitForFunction(() => Number(document.querySelector('.run').dataset.entries) > 0);
  // Opened anew, the page does not know who is signed in.
  await page.reload();
  await page.locator('.run svg.rig').waitFor({ state: 'attached' });
  // The server has taken each, and dies behind the first line of its answer: who is signed in, the run, its entries.
  await page.evaluate(() => {
    const [real, met] = [globalThis.fetch, new Set()];
    globalThis.broken = met;
    globalThis.fetch = async (to, how) => {
      const answer = await real(to, how);
      const kind = String(to).replace(/[0-9a-f-]{36}/, '');
      if (!answer.ok || met.has(kind) || !/field.me|field.runs|entries/.test(kind)) return answer;
      met.add(kind);
      return new Response(new ReadableStream({ start: body => body.error(new Error('cut off')) }), answer);
    };
  });
  const before = (await logs(page))[run];
  await page.context().setOffline(false);
  await sent(page);
  assert.deepEqual(await page.evaluate(() => [...globalThis.broken].sort()), [
    '/api/field/me',
    '/api/field/runs',
    '/api/runs//entries',
  ]);
  const log = await (await page.request.get(`${demo.url}/api/runs/${run}/log`)).json();
  assert.equal(log.length, before);
  await page.context().close();
});

test('what a test begins with is read by the core while somebody reads at the stop', { skip: inTurn(1) }, async () => {
  const page = await withRound(demo, /Odd Harrick/);
  await page.context().setOffline(true);
  const read = () =>
    page.evaluate(async () => {
      const { fieldCore } = await import('/js/core.js');
      const core = await fieldCore();
      try {
        return JSON.parse(await core.View('rehearsal', false)).stages.length;
      } catch {
        return 0;
      }
    });
  assert.equal(await read(), 0);
  await page.locator('.rest > .road li.stop-open a').first().click();
  await page.getByRole('button', { name: /Begin the test|Go on with/ }).waitFor();
  for (const until = Date.now() + 20_000; (await read()) === 0; await page.waitForTimeout(100))
    assert.ok(Date.now() < until, 'it is not read');
  // Nothing of it is kept: no test has begun.
  assert.deepEqual(await logs(page), {});
  assert.deepEqual(await deeds(page), []);
  await page.context().close();
});
