// The bench by hand: a whole exam by pointer alone, the sheet by keyboard alone, five mistakes, and what is told of
// them.
import assert from 'node:assert/strict';
import { after, before, test } from 'node:test';
import { desk, openDemo, phone, sample, signedIn, violations } from './browser.mjs';

let demo;
before(async () => {
  demo = await openDemo();
});
after(async () => {
  await demo.close();
});

const ready = page =>
  page.waitForFunction(
    () => (document.getElementById('bench') ?? document.getElementById('replay'))?.dataset.ready === 'yes',
    null,
    { timeout: 60_000 },
  );
const part = (page, id) => page.locator(`.bench-rig .part[data-part="${id}"]`);
const opening = (page, id) => page.evaluate(id => window.bench.desk.opening(id), id);
const opens = (page, id, wanted) =>
  page.waitForFunction(([id, wanted]) => Math.abs(window.bench.desk.opening(id) - wanted) < 0.005, [id, wanted]);

// Middle of what a pointer would aim at.
async function middle(page, id) {
  const box = await part(page, id).locator('.target').first().boundingBox();
  return [box.x + box.width / 2, box.y + Math.min(box.height / 2, 30)];
}

// Twice on a valve turns it fully.
async function turn(page, id, wanted) {
  if (Math.abs((await opening(page, id)) - wanted) < 0.005) return;
  const [x, y] = await middle(page, id);
  // What is in the hand already turns at the first touch.
  if (!(await part(page, id).evaluate(el => el.classList.contains('chosen')))) await page.mouse.click(x, y);
  await page.mouse.click(x, y);
  await opens(page, id, wanted);
}

// Carries a hose or fitting to a place on the drawing.
async function carry(page, id, [x, y]) {
  const [fromX, fromY] = await middle(page, id);
  await page.mouse.move(fromX, fromY);
  await page.mouse.down();
  await page.mouse.move((fromX + x) / 2, (fromY + y) / 2, { steps: 4 });
  await page.mouse.move(x, y, { steps: 6 });
  await page.mouse.up();
}

const outlet = (page, cock, up = 0) =>
  page.evaluate(
    ([cock, up]) => {
      const [x, y] = window.bench.desk.plan.outlets[cock],
        at = new DOMPoint(x, y - up).matrixTransform(document.querySelector('.bench-rig').getScreenCTM());
      return [at.x, at.y];
    },
    [cock, up],
  );
const on = (page, item, cock) =>
  page.waitForFunction(([item, cock]) => window.bench.desk.connections.get(item) === cock, [item, cock]);

async function lift(page, inches) {
  const [x, y] = await middle(page, 'height');
  const wanted = await page.evaluate(inches => {
    const s = window.bench.desk.plan.scale,
      svg = document.querySelector('.bench-rig').getScreenCTM(),
      level =
        inches <= 0
          ? s.centre - inches * s.perInch
          : inches <= 1
            ? s.centre - inches * s.firstInch
            : s.centre - s.firstInch - (inches - 1) * s.perInch;
    return new DOMPoint(0, level).matrixTransform(svg).y;
  }, inches);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, (y + wanted) / 2, { steps: 3 });
  await page.mouse.move(x, wanted, { steps: 6 });
  await page.mouse.up();
}

const still = async page => {
  await page.waitForFunction(
    () => Math.abs(window.bench.desk.rate) < 0.01 && window.bench.desk.spills('sight-tube') < 0.001,
    null,
    { timeout: 60_000 },
  );
  await page.waitForTimeout(600);
};
// What an eye reads off the dial.
const dial = page => page.evaluate(() => (Math.round(10 * Math.max(0, window.bench.desk.needle)) / 10).toFixed(1));
// An exam has no other pace than the clock's; a test lets it run faster.
const hurry = (page, pace) =>
  page.evaluate(pace => {
    window.bench.clock.speed = pace;
  }, pace);

test('before this browser has its water the server moves it, and what was done there goes on here', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, desk, '/');
  let come;
  const held = new Promise(done => {
    come = done;
  });
  await page.route('**/core/dotnet.js', async route => {
    await held;
    await route.continue();
  });
  await page.goto(`${demo.url}/bench/free?procedure=dc-sight-tube&kit=five-valve`);
  await page.locator('#bench[data-usable="yes"]').waitFor();
  await page.getByText('The server moves the water for now').waitFor();
  await carry(page, 'high-hose', await outlet(page, 'tc2'));
  await on(page, 'high-hose', 'tc2');
  await turn(page, 'tc2', 1);
  await page.waitForFunction(() => window.bench.desk.through('tc2') > 0.01 || window.bench.desk.needle > 10);
  await turn(page, 'tc3', 1);
  await page.locator('#happened li', { hasText: 'TC3' }).first().waitFor();
  // Time goes back there too, and what was done since has not been done.
  const before = await page.evaluate(() => window.bench.desk.tick);
  await turn(page, 'so2', 0);
  await page.waitForTimeout(400);
  await page.evaluate(tick => window.bench.clock.back(tick), before);
  await opens(page, 'so2', 1);
  const asked = [];
  page.on('request', request => asked.push(request.url()));
  come();
  await ready(page);
  await page.getByText('This browser has its own water now').waitFor();
  assert.equal(await opening(page, 'tc2'), 1);
  assert.equal(await opening(page, 'so2'), 1);
  await on(page, 'high-hose', 'tc2');
  const kept = JSON.parse(await page.evaluate(() => window.bench.desk.whole()));
  assert.deepEqual(
    kept.deeds.map(deed => Object.keys(deed)[1]),
    ['connect', 'turn', 'turn'],
  );
  asked.length = 0;
  await turn(page, 'high-bleed', 1);
  await page.waitForTimeout(700);
  assert.deepEqual(
    asked.filter(url => url.includes('/api/bench')),
    [],
  );
  await page.context().close();
});

test('who sets another rig while the server moves the water has that one, and nobody asks for the first any more', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, desk, '/');
  let come;
  const held = new Promise(done => {
    come = done;
  });
  await page.route('**/core/dotnet.js', async route => {
    await held;
    await route.continue();
  });
  await page.goto(`${demo.url}/bench/free?procedure=dc-sight-tube&kit=five-valve`);
  await page.locator('#bench[data-usable="yes"]').waitFor();
  await page.getByText('Set the rig', { exact: true }).click();
  await page.locator('#set [name=procedure]').selectOption('rp-relief-first');
  await page.locator('#go').click();
  await page.waitForFunction(() => window.bench.desk?.plan?.procedure === 'rp-relief-first');
  come();
  await ready(page);
  assert.equal(await page.evaluate(() => window.bench.desk.plan.procedure), 'rp-relief-first');
  const asked = [];
  page.on('request', request => asked.push(request.url()));
  await page.waitForTimeout(1200);
  assert.deepEqual(asked, []);
  await page.context().close();
});

test('where a browser starts no thread the bench has its water in the page, and what is done last is kept', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, desk, '/');
  await page.addInitScript(() => delete globalThis.Worker);
  await page.goto(`${demo.url}/bench/free?procedure=dc-sight-tube&kit=five-valve`);
  await ready(page);
  assert.equal(page.workers().length, 0);
  await carry(page, 'high-hose', await outlet(page, 'tc2'));
  await on(page, 'high-hose', 'tc2');
  await turn(page, 'tc2', 1);
  await page.waitForFunction(() => window.bench.desk.needle > 10);
  await page.goto(`${demo.url}/bench`);
  await page.getByRole('link', { name: 'Go on' }).click();
  await ready(page);
  await on(page, 'high-hose', 'tc2');
  assert.equal(await opening(page, 'tc2'), 1);
  await page.context().close();
});

test('while a rig is chosen, what every rig needs is fetched, and the rig itself fetches none of it', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, desk, '/bench');
  const core = (where = page) =>
    where.evaluate(() =>
      performance
        .getEntriesByType('resource')
        .filter(e => e.responseEnd > 0 && /\/core\/.+\.\w{10}\./.test(e.name))
        .map(e => ({ name: new URL(e.name).pathname, fetched: e.transferSize > 0 })),
    );
  await page.waitForFunction(() =>
    performance.getEntriesByType('resource').some(e => /\/core\/dotnet\.native.*\.wasm/.test(e.name)),
  );
  await page.waitForLoadState('networkidle');
  const ahead = await core();
  assert.ok(ahead.length > 5 && ahead.every(f => f.fetched), JSON.stringify(ahead));
  await page.goto(`${demo.url}/bench/free?procedure=rp-relief-first&kit=five-valve`);
  await ready(page);
  const used = await core(page.workers().find(worker => worker.url().includes('/js/core-worker')));
  assert.deepEqual(used.map(f => f.name).sort(), ahead.map(f => f.name).sort());
  assert.deepEqual(
    used.filter(f => f.fetched),
    [],
  );
  await page.context().close();
});

test(
  'a whole exam on a double check, done by pointer alone, is handed in and marked',
  { timeout: 240_000 },
  async () => {
    const page = await signedIn(demo, /Pia Lorne/, desk);
    await page.goto(`${demo.url}/bench`);
    await page.goto(`${demo.url}/bench/exam?procedure=dc-sight-tube&kit=five-valve&rules=exam&seed=11`);
    await ready(page);
    assert.equal(await page.locator('.bench.inside').count(), 0, 'an exam shows no inside');
    assert.equal(await page.getByRole('button', { name: 'See inside' }).count(), 0);
    assert.doesNotMatch(await page.locator('#sheet').textContent(), /wrong with/);
    const requests = [];
    page.on('request', request => requests.push(request.url()));
    await hurry(page, 10);
    for (const cock of ['tc1', 'tc2', 'tc3', 'tc4']) {
      await turn(page, cock, 1);
      await page.waitForTimeout(300);
      await turn(page, cock, 0);
    }
    for (const [up, down, item] of [
      ['tc2', 'tc3', 'CV1 differential'],
      ['tc3', 'tc4', 'CV2 differential'],
    ]) {
      await carry(page, 'sight-tube', await outlet(page, down));
      await on(page, 'sight-tube', down);
      await carry(page, 'bleed-off', await outlet(page, up));
      await on(page, 'bleed-off', up);
      if (up === 'tc2') {
        await carry(page, 'high-hose', await outlet(page, up, 34));
        await on(page, 'high-hose', 'bleed-off');
      }
      await turn(page, up, 1);
      await turn(page, 'high-bleed', 1);
      await page.waitForFunction(() => window.bench.desk.airIn('high-hose') < 0.01, null, { timeout: 30_000 });
      await turn(page, 'high-bleed', 0);
      await turn(page, down, 1);
      await page.waitForTimeout(500);
      await turn(page, down, 0);
      await turn(page, 'so2', 0);
      await lift(page, 9);
      await turn(page, 'so1', 0);
      await turn(page, down, 1);
      await still(page);
      const read = await dial(page);
      await page.getByRole('textbox', { name: new RegExp(item) }).click();
      await page.getByRole('textbox', { name: new RegExp(item) }).fill(read);
      await page.getByRole('button', { name: `Write down ${item}` }).click();
      await page
        .locator('.wanted output')
        .filter({ hasText: `${read} psid` })
        .first()
        .waitFor();
      await turn(page, up, 0);
      await turn(page, down, 0);
      await turn(page, 'so1', 1);
    }
    await turn(page, 'high-bleed', 1);
    await page.waitForTimeout(600);
    for (const item of ['high-hose', 'sight-tube', 'bleed-off']) {
      await carry(
        page,
        item,
        await page.evaluate(() => {
          const b = document.querySelector('.bench-rig').getBoundingClientRect();
          return [b.x + b.width * 0.5, b.y + b.height * 0.93];
        }),
      );
      await page.waitForFunction(item => !window.bench.desk.connections.has(item), item);
    }
    await turn(page, 'so2', 1);
    for (const valve of ['high-control', 'low-control', 'bypass-control', 'low-bleed']) await turn(page, valve, 1);
    const wrong = await page.evaluate(async () => {
      const { benchCore } = await import('/js/core.js');
      const core = await benchCore();
      return JSON.parse(await core.Mark(await window.bench.desk.whole()));
    });
    await page.getByRole('radio', { name: wrong.verdict === 'pass' ? 'Pass' : 'Fail', exact: true }).check();
    for (const finding of wrong.marks.filter(mark => mark.id.startsWith('found.') && mark.id !== 'found.nothing-else'))
      await page.getByRole('checkbox', { name: new RegExp(finding.title.replace('Found: ', ''), 'i') }).check();
    assert.deepEqual(requests, [], 'the server is not asked while a learner works');
    await page.getByRole('button', { name: 'Hand in' }).click();
    await page.locator('#hand-in-yes').click();
    await page.waitForURL(/bench\/attempts/, { timeout: 30_000 });
    await ready(page);
    const said = await page.locator('.score').textContent();
    assert.match(said, /passed/, `${said}: ${await page.locator('#marks').textContent()}`);
    assert.ok(Number(said.match(/\d+/)[0]) >= 90, `${said}: ${await page.locator('#marks').textContent()}`);
    assert.match(await page.locator('#marks').textContent(), /CV1 differential: gauge level with the water/);
    await page.context().close();
  },
);

const mistakes = {
  'hoses swapped': {
    rig: ['RP', 'rp-relief-first'],
    says: /hoses were swapped: the high port felt the water in the zone/,
    deeds: [
      ['connect', 'high-hose', 'tc3'],
      ['connect', 'low-hose', 'tc2'],
      ['turn', 'tc3', 1],
      ['turn', 'tc2', 1],
      ['wait', 4],
      ['turn', 'so2', 0],
      ['wait', 4],
      ['write', 'check-1', '0'],
    ],
  },
  'SO1 first on a vacuum breaker': {
    rig: ['PVB', 'pvb-inlet-first', { site: { demand: 'open' } }],
    says: /SO1 was shut while SO2 stood open: the body's water ran off to the site/,
    deeds: [
      ['connect', 'high-hose', 'tc2'],
      ['turn', 'tc2', 1],
      ['turn', 'high-bleed', 1],
      ['wait', 6],
      ['turn', 'high-bleed', 0],
      ['lift', 3],
      ['turn', 'so1', 0],
      ['wait', 8],
      ['turn', 'so2', 0],
      ['write', 'air-inlet-opening', '1.7'],
    ],
  },
  'low control flung open': {
    rig: ['RP', 'rp-relief-first'],
    says: /low control stood 100 % open.*relief poured/,
    deeds: [
      ['connect', 'high-hose', 'tc2'],
      ['connect', 'low-hose', 'tc3'],
      ['turn', 'tc3', 1],
      ['turn', 'low-bleed', 1],
      ['wait', 4],
      ['turn', 'tc2', 1],
      ['turn', 'high-bleed', 1],
      ['wait', 5],
      ['turn', 'high-bleed', 0],
      ['turn', 'low-bleed', 0],
      ['turn', 'so2', 0],
      ['wait', 4],
      ['turn', 'high-control', 1],
      ['fling', 'low-control', 1],
      ['wait', 4],
      ['write', 'relief-opening', '1.0'],
    ],
  },
  'air not purged': {
    rig: ['DC', 'dc-sight-tube'],
    says: /% of the high hose was still air/,
    deeds: [
      ['connect', 'bleed-off', 'tc2'],
      ['connect', 'high-hose', 'bleed-off'],
      ['connect', 'sight-tube', 'tc3'],
      ['turn', 'tc2', 1],
      ['turn', 'tc3', 1],
      ['wait', 2],
      ['turn', 'tc3', 0],
      ['turn', 'so2', 0],
      ['lift', 9],
      ['turn', 'so1', 0],
      ['turn', 'tc3', 1],
      ['wait', 30],
      ['write', 'check-1', '2.1'],
    ],
  },
  'a gauge a foot low': {
    rig: ['DC', 'dc-sight-tube'],
    says: /hung 12 in below the water.*added 0\.43 psid/,
    deeds: [
      ['connect', 'bleed-off', 'tc2'],
      ['connect', 'high-hose', 'bleed-off'],
      ['connect', 'sight-tube', 'tc3'],
      ['turn', 'tc2', 1],
      ['turn', 'high-bleed', 1],
      ['wait', 6],
      ['turn', 'high-bleed', 0],
      ['turn', 'tc3', 1],
      ['wait', 2],
      ['turn', 'tc3', 0],
      ['turn', 'so2', 0],
      ['lift', -3],
      ['turn', 'so1', 0],
      ['turn', 'tc3', 1],
      ['wait', 50],
      ['write', 'check-1', '2.5'],
    ],
  },
};

test(
  'classic mistakes are each told by what the water did, and the replay shows the moment',
  { timeout: 180_000 },
  async () => {
    const page = await signedIn(demo, /Pia Lorne/, desk);
    await page.goto(`${demo.url}/bench/free`);
    await ready(page);
    for (const [
      name,
      {
        rig: [type, procedure, more],
        says,
        deeds,
      },
    ] of sample(Object.entries(mistakes), 2)) {
      const tape = await page.evaluate(
        async ([rig, deeds]) => {
          const { benchCore } = await import('/js/core.js');
          const door = await benchCore(),
            n = 1;
          const wrong = await door.Open(n, rig, false);
          if (wrong) throw new Error(wrong);
          for (const [what, a, b] of deeds) {
            const refused =
              what === 'turn'
                ? await door.Turn(n, a, b, a.startsWith('so') ? 120 : 30)
                : what === 'fling'
                  ? await door.Turn(n, a, b, 0)
                  : what === 'connect'
                    ? await door.Connect(n, a, b)
                    : what === 'lift'
                      ? await door.Lift(n, a)
                      : what === 'write'
                        ? await door.Write(n, a, b)
                        : '';
            if (refused) throw new Error(`${what} ${a}: ${refused}`);
            await door.Advance(n, Math.round((what === 'wait' ? a : 2.2) * 60));
          }
          return door.Recording(n);
        },
        [
          JSON.stringify({ format: 'mordel.scenario/1', assembly: { type }, procedure, kit: 'five-valve', ...more }),
          deeds,
        ],
      );
      const at = await page.evaluate(async tape => {
        const answer = await fetch('/api/bench/attempts', {
          method: 'POST',
          headers: {
            'content-type': 'application/json',
            'X-Mordel-Token': document.getElementById('bench').dataset.token,
          },
          body: `{"assignment":null,"tape":${tape}}`,
        });
        return (await answer.json()).at;
      }, tape);
      const seen = await page.context().newPage();
      await seen.goto(demo.url + at);
      await ready(seen);
      const mark = seen.locator('.lost-mark').filter({ hasText: says }).first();
      assert.equal(await mark.count(), 1, `${name}: ${await seen.locator('#marks').textContent()}`);
      await mark.getByRole('button', { name: /Show it/ }).click();
      await seen.waitForFunction(() => Number(document.querySelector('.clock .when').value) > 60);
      await seen.close();
    }
    // Beside a careful tester's, on one clock: from a moment that is dragged to, to the end.
    const two = await page.context().newPage();
    await two.goto(`${demo.url}/bench`);
    await two.locator('.attempts a').first().click();
    await two.getByRole('link', { name: 'Beside a careful tester’s' }).click();
    await ready(two);
    assert.equal(await two.locator('.two .drawn svg').count(), 2);
    const when = two.locator('.clock .when'),
      end = Number(await when.getAttribute('max'));
    assert.ok(end > 9000, `${end}`);
    await when.evaluate((slide, from) => {
      for (const part of [0.2, 0.9, 0.4, 1]) {
        slide.value = Math.round(part * from);
        slide.dispatchEvent(new Event('input'));
      }
    }, end - 9000);
    assert.equal(Number(await when.inputValue()), end - 9000);
    await two.getByRole('button', { name: 'Time 16×' }).click();
    await two.getByRole('button', { name: 'Play' }).click();
    await two.waitForFunction(end => Number(document.querySelector('.clock .when').value) >= end, end);
    await two.getByRole('button', { name: 'Play' }).waitFor();
    assert.match(
      await two
        .locator('.two .caption')
        .allTextContents()
        .then(all => all.join(' ')),
      /\w/,
    );
    await two.close();
    await page.context().close();
  },
);

test(
  'with the sheet and the keyboard alone the sheet ticks itself, hints, tries it otherwise and steps back',
  { timeout: 120_000 },
  async () => {
    const page = await signedIn(demo, /Pia Lorne/, desk);
    await page.goto(`${demo.url}/bench/guided?procedure=pvb-inlet-first&kit=five-valve`);
    await ready(page);
    const at = title =>
      page
        .waitForFunction(wanted => document.getElementById('step-title')?.textContent === wanted, title, {
          timeout: 45_000,
        })
        .catch(async () => assert.fail(`"${title}" does not come: ${await page.locator('#sheet').innerText()}`));
    const press = async (id, key) => {
      await part(page, id).focus();
      await page.keyboard.press(key);
    };
    await hurry(page, 8);
    await at('Before the test');
    await page.getByRole('button', { name: 'Done' }).focus();
    await page.keyboard.press('Enter');
    await at('Canopy off, seat and float looked at');
    await page.getByRole('button', { name: 'Done' }).focus();
    await page.keyboard.press('Enter');
    await at('Flush TC1 and TC2');
    for (const cock of ['tc1', 'tc2']) {
      await press(cock, 'Enter');
      await opens(page, cock, 1);
      await press(cock, 'Enter');
      await opens(page, cock, 0);
    }
    await page
      .getByRole('button', { name: 'Done' })
      .focus()
      .catch(() => {});
    if ((await page.locator('#step-title').textContent()) !== 'Tee on TC1, high hose on TC2, purge')
      await page.waitForFunction(
        () =>
          document.getElementById('step-title').textContent.startsWith('Adapters') ||
          document.getElementById('step-title').textContent.startsWith('Tee'),
      );
    if ((await page.locator('#step-title').textContent()).startsWith('Adapters')) {
      await page.getByRole('button', { name: 'Done' }).focus();
      await page.keyboard.press('Enter');
    }
    await at('Tee on TC1, high hose on TC2, purge');
    await page.keyboard.press('h');
    await page.getByText(/^Hint: /).waitFor();
    for (const [item, place] of [
      ['bleed-off', 'On TC1'],
      ['high-hose', 'On TC2'],
    ]) {
      await press(item, 'Enter');
      await page.locator('#hand').getByRole('button', { name: place }).focus();
      await page.keyboard.press('Enter');
    }
    await on(page, 'high-hose', 'tc2');
    await press('tc2', 'End');
    await opens(page, 'tc2', 1);
    await press('high-bleed', 'End');
    await page.waitForFunction(() => window.bench.desk.airIn('high-hose') < 0.01, null, { timeout: 30_000 });
    await press('high-bleed', 'Home');
    await at('Close SO2, gauge level with the air inlet, then close SO1');
    // The state is there in words for somebody who cannot see it.
    await part(page, 'so2').focus();
    await page.keyboard.press('s');
    await page.waitForFunction(() => document.getElementById('spoken').textContent);
    assert.match(
      await page.locator('#spoken').textContent(),
      /Needle 15\.0 psid, still\. SO1 open\. SO2 open\. .*high hose \(H\) on TC2/i,
    );
    assert.equal(await part(page, 'so2').getAttribute('aria-valuetext'), 'open');
    // At its own pace, so that a busy machine is not ahead of itself when the moment is looked at.
    await hurry(page, 1);
    const before = await page.evaluate(() => window.bench.desk.tick);
    await page.getByRole('button', { name: /What if\? Close SO1 first/ }).click();
    await hurry(page, 8);
    await page.getByText(/The needle goes from 15\.0 psid to .*The air inlet opens/).waitFor({ timeout: 30_000 });
    await hurry(page, 1);
    await page.getByRole('button', { name: 'Step back to before' }).click();
    await at('Close SO2, gauge level with the air inlet, then close SO1');
    assert.ok((await page.evaluate(() => window.bench.desk.tick)) <= before + 400);
    await hurry(page, 8);
    assert.equal(await opening(page, 'so1'), 1);
    await page.context().close();
  },
);

test(
  'a bench with the sheet is taken up again after its page was closed, and one set with a fault comes with its sheet',
  { timeout: 120_000 },
  async () => {
    const page = await signedIn(demo, /Pia Lorne/, desk);
    await page.goto(
      `${demo.url}/bench/free?procedure=dc-sight-tube&kit=five-valve&supply=60&site=none&fault-1=cv1+leaks&size-1=large&fault-2=so1+leaks&size-2=weep&flow=Downward`,
    );
    await ready(page);
    assert.match(await page.locator('#truth').textContent(), /CV1 leaks.*SO1 leaks/);
    assert.equal(await page.evaluate(() => window.bench.desk.plan.scale.stands), true);
    await page.locator('#setting > summary').click();
    await page.getByRole('button', { name: 'Set it up with the sheet' }).click();
    await ready(page);
    await page.locator('#sheet').getByRole('button', { name: 'Done' }).click();
    for (const cock of ['tc1', 'tc2', 'tc3', 'tc4']) {
      await turn(page, cock, 1);
      await page.waitForTimeout(300);
      await turn(page, cock, 0);
    }
    await page.waitForFunction(() => document.getElementById('step-title').textContent.startsWith('Adapters'), null, {
      timeout: 20_000,
    });
    await page.locator('#sheet').getByRole('button', { name: 'Done' }).click();
    await page.waitForFunction(
      () =>
        document.getElementById('step-title').textContent === 'Close the kit' ||
        document.getElementById('step-title').textContent.startsWith('Tube on'),
    );
    const was = await page.evaluate(() => window.bench.desk.tick);
    await page.goto(`${demo.url}/bench`);
    await page.getByText('Left unfinished').waitFor();
    await page.getByRole('link', { name: 'Go on' }).click();
    await ready(page);
    // Its clock goes on at once: a step that is done already may have ticked itself off by now.
    await page.waitForFunction(
      () => /^(Close the kit|Tube on)/.test(document.getElementById('step-title')?.textContent ?? ''),
      null,
      { timeout: 20_000 },
    );
    assert.ok((await page.evaluate(() => window.bench.desk.tick)) >= was);
    await page.goto(`${demo.url}/bench`);
    await page.getByRole('button', { name: 'Put it away' }).click();
    await page.reload();
    assert.equal(await page.getByText('Left unfinished').isVisible(), false);
    await page.context().close();
  },
);

for (const [size, options] of sample(
  [
    ['desk', desk],
    ['phone', phone],
  ],
  2,
)) {
  test(`no accessibility violations at the bench, ${size}`, { timeout: 120_000 }, async () => {
    const page = await signedIn(demo, /Pia Lorne/, { ...options, colorScheme: size === 'desk' ? 'light' : 'dark' });
    const found = [];
    const check = async name => {
      const wrong = await violations(page);
      found.push(...wrong.map(v => `${name}: ${v.id} at ${v.nodes[0].target} ${v.nodes[0].failureSummary}`));
    };
    // Each way to play on one of the two sizes; the rooms around it on both.
    for (const path of size === 'desk'
      ? [
          '/bench/free?procedure=rp-relief-first&kit=five-valve&supply=60&site=none&flow=Upward',
          '/bench/exam?procedure=svb-check-first&kit=five-valve&rules=field&seed=3&minutes=15',
        ]
      : ['/bench/guided?procedure=rp-relief-first&kit=five-valve']) {
      await page.goto(demo.url + path);
      await ready(page);
      await page.evaluate(() => (window.bench.clock.running = false));
      await check(path);
    }
    await page.goto(`${demo.url}/bench`);
    await check('/bench');
    await page.locator('.attempts a, .assignments a[href*=attempts]').first().click();
    await ready(page);
    await check('marks');
    await page.context().close();
    const tove = await signedIn(demo, /Tove Maring/, options);
    await tove.goto(`${demo.url}/classes`);
    await tove.getByRole('link', { name: 'Autumn beginners' }).click();
    await tove.locator('.glance').waitFor();
    found.push(
      ...(await violations(tove, true))
        .filter(v => v.impact !== 'moderate' && v.impact !== 'minor')
        .map(v => `class: ${v.id} at ${v.nodes[0].target}`),
    );
    await tove.context().close();
    assert.deepEqual(found, []);
  });
}
