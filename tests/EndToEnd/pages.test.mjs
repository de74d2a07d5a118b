// What must hold on every page: accessibility, weight, nothing from outside.
import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { beginNext, beginOn, desk, goOn, openDemo, phone, sample, signedIn, thorough, violations } from './browser.mjs';

let demo;
const others = [
  ['Hester Fenn', '/register/new'],
  ['Hester Fenn', '/kits-and-people'],
  ['Hester Fenn', '/kits-and-people/branches'],
  ['Wilma Quent', '/'],
  ['Wilma Quent', '/diagnoses'],
  ['Wilma Quent', '/repairs'],
  ['Wilma Quent', '/parts'],
  ['Hester Fenn', '/diagnoses/learned'],
  ['Wilma Quent', '/rules'],
  ['Wilma Quent', '/rules/compare?one=psid-standard.1&other=psid-strict.1'],
  ['Pia Lorne', '/bench-sheets'],
  ['Pia Lorne', '/bench-sheets/cam-arm-sleeve?order=in&step=3'],
  ['Wilma Quent', '/outbox'],
  ['Wilma Quent', '/due'],
  ['Wilma Quent', '/register?type=DC&order=Due'],
  ['Wilma Quent', '/register/twice'],
  ['Wilma Quent', '/imports'],
  ['Wilma Quent', '/exports'],
  ['Wilma Quent', '/classes'],
  ['Wilma Quent', '/standing?by=make'],
  ['Hester Fenn', '/installation'],
  ['Hester Fenn', '/installation/audit'],
  ['Hester Fenn', '/installation/sign-ins'],
  ['Ines Tarrow', '/account'],
  ['Ines Tarrow', '/show-again'],
];
const pages = {
  today: '/',
  register: '/register',
  'run sheet of an RP': '/run-sheets/rp-relief-first/three-valve',
  programs: '/programs',
  map: '/register/map',
  water: '/bench/water?procedure=dc-sight-tube&kit=five-valve&supply=60&site=none&fault-1=so1+leaks&size-1=small',
  nowhere: '/nowhere',
};
before(async () => {
  demo = await openDemo();
  const page = await signedIn(demo, /Ines Tarrow/);
  pages.stop = new URL(await page.locator('a[data-go]').getAttribute('href'), demo.url).pathname;
  pages.report = await page.locator('.road a[href^="/reports/"]').nth(1).getAttribute('href');
  await beginNext(page);
  const run = new URL(page.url()).pathname;
  await page.goto(`${demo.url}/register`);
  pages.passport = await page.locator('#found tbody a').nth(3).getAttribute('href');
  // A run at the reading, with its sights; its verdict page shows an unfinished run.
  await page.goto(`${demo.url}${run}`);
  await page.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
  await page.keyboard.type('1.0');
  await page.getByText(/Passes/).waitFor();
  await page.keyboard.press('Enter');
  await page.getByText('Close both cocks, open SO1').first().waitFor();
  pages.run = run;
  pages.verdict = `${run}/verdict`;
  await beginOn(page, 'RP');
  await goOn(page, 'Open TC4, bypass control fully open', undefined, {
    'apparent reading': '7.4',
    'first drip': '2.4',
  });
  pages['run of an RP'] = new URL(page.url()).pathname;
  await page.context().close();
  // Another tester's run at its end, in kPa: the verdict with the form to sign.
  const odd = await signedIn(demo, /Odd Harrick/);
  await beginNext(odd);
  await odd.getByRole('button', { name: /All as listed/ }).click();
  for (const value of ['13', '9']) {
    await odd.locator('#digits').fill(value);
    await odd.getByRole('button', { name: 'Record' }).click();
    await odd.locator('.taken').getByText(`${value} kPa`).waitFor();
  }
  await odd.getByRole('button', { name: 'Done' }).click();
  await odd.getByRole('button', { name: /to the verdict/ }).click();
  await odd.waitForURL(/verdict/);
  others.push(['Odd Harrick', new URL(odd.url()).pathname]);
  await odd.context().close();
  const wilma = await signedIn(demo, /Wilma Quent/);
  others.push(['Wilma Quent', `${pages.passport}/edit`]);
  await wilma.goto(`${demo.url}/imports`);
  const list = await wilma.getByRole('link', { name: 'board-list.csv' }).getAttribute('href');
  others.push(['Wilma Quent', list], ['Wilma Quent', `${list}?columns=again`]);
  await wilma.context().close();
  const sanna = await signedIn(demo, /Sanna Wick/);
  await beginNext(sanna);
  others.push(['Sanna Wick', new URL(sanna.url()).pathname]);
  await sanna.context().close();
});
after(async () => {
  await demo.close();
});

// Of the pages a sixth at a desk and another on a phone, in opposite schemes; the seed says which. Proving
// looks at every page at both in both, and by every rule at each.
const pair = Number(process.env.MORDEL_SEED ?? process.pid) % 2 === 0;
for (const [size, options] of [
  ['desk', desk],
  ['phone', phone],
]) {
  for (const scheme of thorough ? ['light', 'dark'] : [(size === 'desk') === pair ? 'light' : 'dark']) {
    test(`no accessibility violations, ${size}, ${scheme}`, async () => {
      const page = await signedIn(demo, /Ines Tarrow/, { ...options, colorScheme: scheme });
      const found = [];
      const some = all => sample([...(size === 'desk' ? [] : [null]), ...all], 6).filter(Boolean);
      for (const [name, path] of some(Object.entries(pages))) {
        await page.goto(`${demo.url}${path}`);
        if (name.startsWith('run of') || name === 'run')
          await page.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
        found.push(
          ...(await violations(page)).map(
            v => `${name}: ${v.id}: ${v.nodes[0].target} ${v.nodes[0].failureSummary?.split('\n')[1] ?? ''}`,
          ),
        );
        const width = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
        if (width > 0) found.push(`${name}: ${width} px wider than the screen`);
      }
      for (const [who, path] of some(others)) {
        const their = await signedIn(demo, new RegExp(who), { ...options, colorScheme: scheme }, path);
        await their.locator('details.desk').evaluateAll(all =>
          all.forEach(d => {
            d.open = true;
          }),
        );
        found.push(...(await violations(their)).map(v => `${path}: ${v.id}: ${v.nodes[0].target}`));
        const wide = await their.evaluate(() => document.documentElement.scrollWidth - innerWidth);
        if (wide > 0) found.push(`${path}: ${wide} px wider than the screen`);
        await their.context().close();
      }
      const door = await (await demo.browser.newContext({ ...options, colorScheme: scheme })).newPage();
      await door.goto(`${demo.url}/sign-in`);
      found.push(...(await violations(door, true)).map(v => `sign-in: ${v.id}: ${v.nodes[0].target}`));
      assert.deepEqual(found, []);
      await page.context().close();
      await door.context().close();
    });
  }
}

describe('what a page weighs and asks for', () => {
  test('the first load of Today is at most 200 KB compressed and asks nothing from outside', async () => {
    const page = await signedIn(demo, /Ines Tarrow/);
    const client = await page.context().newCDPSession(page);
    await client.send('Network.enable');
    await client.send('Network.setCacheDisabled', { cacheDisabled: true });
    let bytes = 0;
    const asked = [];
    const said = [];
    client.on('Network.loadingFinished', event => {
      bytes += event.encodedDataLength;
    });
    client.on('Network.requestWillBeSent', event => asked.push(event.request.url));
    page.on('console', message => said.push(message.text()));
    const kept = [];
    page.on('response', answer => {
      if (/\/(css|js|lib)\//.test(answer.url()))
        kept.push([answer.url(), answer.headers()['cache-control'] ?? '', answer.status()]);
    });
    await page.goto(demo.url, { waitUntil: 'networkidle' });
    assert.ok(kept.length > 3);
    assert.deepEqual(
      kept.filter(([, how, status]) => status !== 200 || !how.includes('immutable')),
      [],
      'scripts, styles and typefaces are kept for good',
    );
    console.log(`# Today: ${bytes} bytes in ${asked.length} requests`);
    assert.ok(bytes > 10_000 && bytes <= 200_000, `${bytes} bytes`);
    assert.deepEqual(
      asked.filter(url => !url.startsWith(demo.url) && !url.startsWith('data:')),
      [],
    );
    assert.deepEqual(said, []);
    await page.context().close();
  });

  test('nothing moves on a phone when a typeface comes late, or when the script takes a run over', async () => {
    const page = await signedIn(demo, /Ines Tarrow/, { ...phone, serviceWorkers: 'block' });
    await page.route('**/*.woff2', async route => {
      await new Promise(late => setTimeout(late, 600));
      await route.continue();
    });
    await page.addInitScript(() => {
      globalThis.shifted = 0;
      new PerformanceObserver(list => {
        for (const entry of list.getEntries()) globalThis.shifted += entry.value;
      }).observe({ type: 'layout-shift', buffered: true });
    });
    const client = await page.context().newCDPSession(page);
    await client.send('Network.setCacheDisabled', { cacheDisabled: true });
    for (const path of [pages.today, pages['run sheet of an RP'], pages['run of an RP'], pages.passport]) {
      await page.goto(`${demo.url}${path}`);
      await page.evaluate(() => document.fonts.ready);
      assert.ok(await page.evaluate(() => document.fonts.check('700 16px "Atkinson Next"')));
      await page.waitForTimeout(200);
      const shifted = await page.evaluate(() => globalThis.shifted);
      assert.ok(shifted < 0.02, `${path}: ${shifted}`);
    }
    await page.context().close();
  });

  test('at a desk what may be seen stands above the fold, on a phone the masthead and the strip leave the screen to the step', async () => {
    const page = await signedIn(demo, /Ines Tarrow/, desk),
      hand = await signedIn(demo, /Ines Tarrow/, phone);
    for (const screen of [page, hand]) {
      await screen.goto(`${demo.url}${pages['run of an RP']}`);
      await screen.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
      await screen.waitForTimeout(300);
    }
    const low = (screen, what) =>
      screen
        .locator(what)
        .evaluateAll(all =>
          Math.max(...all.filter(e => e.checkVisibility()).map(e => Math.round(e.getBoundingClientRect().bottom))),
        );
    assert.ok(
      (await low(page, '.answers .sight')) <= 800,
      `the last answer ends at ${await low(page, '.answers .sight')}`,
    );
    assert.deepEqual(
      await page
        .locator('.strip li')
        .evaluateAll(all => all.filter(e => e.scrollWidth > e.clientWidth + 1).map(e => e.textContent)),
      [],
      'no stage name is cut',
    );
    assert.ok((await low(hand, '.stage-name')) <= 100, `the strip ends at ${await low(hand, '.stage-name')}`);
    for (const what of ['#now-title', '.instructions li', '.go .btn-go'])
      assert.ok((await low(hand, what)) <= 844, `${what} ends at ${await low(hand, what)}`);
    await page.context().close();
    await hand.context().close();
  });

  test('no page trips over its own content security policy', async () => {
    const page = await signedIn(demo, /Ines Tarrow/);
    const said = [];
    page.on('console', message => {
      if (message.type() === 'error') said.push(message.text());
    });
    page.on('pageerror', error => said.push(error.message));
    for (const path of Object.values(pages).filter(p => p !== '/nowhere')) {
      await page.goto(`${demo.url}${path}`, { waitUntil: 'load' });
      await page.waitForTimeout(100);
    }
    assert.deepEqual(said, []);
    await page.context().close();
  });

  test('targets of the run screen are at least 56 px high where a glove taps', async () => {
    const page = await signedIn(demo, /Ines Tarrow/, phone);
    await page.goto(`${demo.url}${pages.run}`);
    await page.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
    const small = await page
      .locator('.keypad button:visible, .sight:visible, .run .btn-go:visible')
      .evaluateAll(all =>
        all.map(b => [b.textContent.trim().slice(0, 20), b.getBoundingClientRect().height]).filter(([, h]) => h < 56),
      );
    assert.deepEqual(small, []);
    await page.context().close();
  });
});
