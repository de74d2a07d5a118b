// Starts the application with fresh demo data and a headless Chromium, for journeys and pictures.
import { deepEqual } from 'node:assert/strict';
import { spawn, spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdtempSync, renameSync, rmSync, statSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { AxeBuilder } from '@axe-core/playwright';
import { chromium } from 'playwright-core';

const root = fileURLToPath(new URL('../../', import.meta.url));
// Another build of it is tried by naming its folder.
const web = process.env.MORDEL_APP ?? `${root}artifacts/app/web/`;
// The shell without windows of its own takes half the work; the whole browser does where it is missing.
export const chromiumPath =
  process.env.MORDEL_CHROMIUM ||
  ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'].find(existsSync) ||
  '/usr/bin/chromium';
export const flags = [
  '--headless',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

// What lives for a minute is not worth compiling twice; what is measured is.
const shortLived = () =>
  process.env.MORDEL_MEASURED
    ? {}
    : { DOTNET_TC_BackgroundWorkerTimeoutMs: '0', DOTNET_TC_CallCountingDelayMs: '2000' };

export const freePort = () =>
  new Promise((found, failed) => {
    const probe = createServer().on('error', failed);
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => found(port));
    });
  });

/** The command line, run to its end. */
export const mordel = (args, input) =>
  spawnSync(`${root}mordel`, args, { input, encoding: 'utf8', env: { ...process.env, ...shortLived() } });

/** The server's process on a data folder; said() is everything it printed. */
export function spawnServer({ data, port, demo = true, more = [] }) {
  const child = spawn(
    'dotnet',
    [
      'Mordel.Web.dll',
      '--urls',
      `http://127.0.0.1:${port}`,
      '--Mordel:Data',
      data,
      '--Mordel:WatchSeals',
      'False',
      '--Mordel:Demo',
      String(demo),
      ...more,
    ],
    { cwd: web, stdio: ['ignore', 'pipe', 'pipe'], env: { ...process.env, ...shortLived() } },
  );
  let said = '';
  child.stdout.on('data', chunk => {
    said += chunk;
  });
  child.stderr.on('data', chunk => {
    said += chunk;
  });
  const ended = new Promise(done => child.once('exit', done));
  return {
    child,
    ended,
    said: () => said,
    end: signal => {
      child.kill(signal);
      return ended;
    },
  };
}

/** Starts the server on a data folder and waits until it is well; kill() ends it without a goodbye. */
export async function startServer({ data, port, demo = true, more = [] }) {
  const server = spawnServer({ data, port, demo, more });
  const url = `http://127.0.0.1:${port}`;
  const until = Date.now() + 120_000;
  for (;;) {
    if (server.child.exitCode !== null) throw new Error(`the server ended:\n${server.said()}`);
    if (
      await fetch(`${url}/health`).then(
        a => a.ok,
        () => false,
      )
    )
      break;
    if (Date.now() > until) throw new Error(`the server did not answer in two minutes:\n${server.said()}`);
    await new Promise(r => setTimeout(r, 50));
  }
  return {
    url,
    child: server.child,
    said: server.said,
    kill: () => server.end('SIGKILL'),
    stop: () => server.end('SIGTERM'),
  };
}

/** A folder with the demo town, made once for this build and this day, to be copied. */
export async function demoTown() {
  const made = join(
    root,
    'artifacts',
    `demo-${statSync(join(root, 'artifacts/app/.built')).mtimeMs}-${new Date().toISOString().slice(0, 10)}`,
  );
  if (!existsSync(made)) {
    const fresh = mkdtempSync(join(tmpdir(), 'mordel-fill-'));
    await (await startServer({ data: fresh, port: await freePort() })).stop();
    const part = `${made}.${process.pid}`;
    cpSync(fresh, part, { recursive: true });
    // Who comes second to the same end has the other's.
    try {
      renameSync(part, made);
    } catch (e) {
      if (!existsSync(made)) throw e;
      rmSync(part, { recursive: true, force: true });
    }
    rmSync(fresh, { recursive: true, force: true });
  }
  return made;
}

/** Fills a data folder with the demo town. */
export const demoData = async data => cpSync(await demoTown(), data, { recursive: true });

/** A browser with a new empty profile of its own. */
export const chromiumBrowser = () => chromium.launch({ executablePath: chromiumPath, args: flags });

/** A demo server with its own data and a browser; close() removes everything. */
export async function openDemo(more = []) {
  const data = mkdtempSync(join(tmpdir(), 'mordel-e2e-'));
  const port = await freePort();
  await demoData(data);
  let server = await startServer({ data, port, more });
  const browser = await chromiumBrowser();
  return {
    url: server.url,
    browser,
    data,
    async restart() {
      await server.kill();
      server = await startServer({ data, port, more });
    },
    async kill() {
      await server.kill();
    },
    async start() {
      server = await startServer({ data, port, more });
    },
    async close() {
      await browser.close();
      await server.kill();
      rmSync(data, { recursive: true, force: true });
    },
  };
}

/** Whether every case is tried (./mordel prove), or a sample (./mordel test). */
export const thorough = process.env.MORDEL_THOROUGH === '1';

const seed = Number(process.env.MORDEL_SEED ?? process.pid);

/** Every so-manieth of a list, the rest in the runs with other seeds; all of it when proving. */
export const sample = (list, every) => (thorough ? list : list.filter((_, i) => (i + seed) % every === 0));

/** A journey that every third run makes, and whoever proves: `test(name, { skip: inTurn(1) }, …)`. */
export const inTurn = n =>
  thorough || (seed + n) % 3 === 0 ? false : `in every third run: MORDEL_SEED=${seed + 3 - ((seed + n) % 3)}`;

export const desk = { viewport: { width: 1280, height: 800 } };
export const phone = { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, deviceScaleFactor: 2 };

/** A page that is signed in as a persona, at Today or at another address. */
export async function signedIn(demo, persona, options = desk, at = '/') {
  const context = await demo.browser.newContext({ reducedMotion: 'reduce', ...options });
  const page = await context.newPage();
  // Long enough for a busy machine: what never comes is told a little later, what comes is not waited for.
  page.setDefaultTimeout(40_000);
  // Who was here before has a cookie already.
  const sessions = (demo.sessions ??= new Map());
  const known = sessions.get(String(persona));
  if (known) {
    await context.addCookies(known);
    await page.goto(demo.url + at);
    // Who signed out meanwhile is out with every copy of the cookie.
    if (!new URL(page.url()).pathname.startsWith('/sign-in')) return page;
  }
  await page.goto(`${demo.url}/sign-in`);
  await page.getByRole('button', { name: persona }).click();
  await page.waitForURL(url => !url.pathname.startsWith('/sign-in'));
  sessions.set(String(persona), await context.cookies());
  if (at !== '/') await page.goto(demo.url + at);
  return page;
}

/** What axe finds wrong with a page, by the rules of WCAG 2.2 AA or by all it has. Our pages have no frames: it looks
    at one only. Of a long list it looks at the first rows and the last, which are written as all the others are; at
    every one when proving. */
export const violations = async (page, byAll = false) => {
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] });
  if (!thorough) axe.exclude('tbody > tr:nth-child(n + 9):nth-last-child(n + 2)');
  if (!byAll) axe.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']);
  return (await axe.analyze()).violations;
};

/** That axe finds nothing wrong with a page. */
export const accessible = async page =>
  deepEqual(
    (await violations(page)).map(v => `${v.id}: ${v.nodes[0]?.html}`),
    [],
  );

/** Does step after step, as it should be, until the one with this title is at hand; a number asked for on the way
   is taken from the list by its name. */
export async function goOn(page, title, confirm = () => page.keyboard.press('Enter'), numbers = {}) {
  for (let i = 0; i < 60; i++) {
    const now = await page.locator('#now-title').textContent();
    if (now === title) return;
    const [name, number] = Object.entries(numbers).find(([asked]) => now.includes(asked)) ?? [];
    if (number) {
      await page.keyboard.type(number);
      delete numbers[name];
    }
    await confirm();
    await page.waitForFunction(
      was => document.querySelector('#now-title')?.textContent !== was || location.pathname.endsWith('/verdict'),
      now,
    );
    if (page.url().endsWith('/verdict')) return;
  }
  throw new Error(`"${title}" does not come`);
}

/** Answers what the sheet asks beside its steps, permission, positions, who was asked, each as it offers. */
export async function answerAll(page, tap = button => button.click()) {
  const chips = page.locator('.together .ask-line .chip:visible');
  for (let left = await chips.count(); left > 0; left = await chips.count()) {
    await tap(chips.first());
    await page.waitForFunction(
      before =>
        [...document.querySelectorAll('.together .ask-line .chip')].filter(c => c.checkVisibility()).length < before,
      left,
    );
  }
}

/** Opens the first stop of this round on an assembly of a type and begins its test. */
export async function beginOn(page, type) {
  await page.goto(new URL('/', page.url()).href);
  const hrefs = await page
    .locator('.road li a')
    .evaluateAll(
      (all, wanted) =>
        all
          .filter(
            a =>
              a.querySelector('.what').textContent.startsWith(`${wanted} `) &&
              a.getAttribute('href').startsWith('/stops/'),
          )
          .map(a => a.getAttribute('href')),
      type,
    );
  await page.goto(new URL(hrefs[0], page.url()).href);
  await page.getByRole('button', { name: /Begin the test|Go on with/ }).click();
  await page.waitForURL(/\/runs\//);
  await page.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
}

/** Opens the next stop and begins its test. */
export async function beginNext(page) {
  await page.goto(new URL('/', page.url()).href);
  const open = page.locator('a[data-go]');
  const begun = /\/runs\//.test(await open.getAttribute('href'));
  await open.click();
  if (!begun) await page.getByRole('button', { name: 'Begin the test' }).click();
  await page.waitForURL(/\/runs\//);
  await page.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
}
