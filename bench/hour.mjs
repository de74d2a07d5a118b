// An hour of work with everything that goes wrong with machines: node bench/hour.mjs DIR [TESTERS] [MINUTES] [EVERY],
// where DIR was filled by `dotnet run -c Release --project bench/Mordel.Bench -- fill DIR --assemblies 4000
// --runs 2000` (after ./mordel help). Each tester posts an entry every so many seconds, as a phone does: what was not
// acknowledged is posted again, with the same id. Every five minutes the server ends and starts again, by turns asked
// to and killed; every ten a backup is made while all that goes on, put back elsewhere and compared with what was
// acknowledged before.
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort, startServer } from '../tests/EndToEnd/browser.mjs';
import { asked, at, jarOf, personas, signIn, tokenIn } from './server.mjs';

const [data, count = '200', minutes = '60', every = '3'] = asked('node bench/hour.mjs DIR [TESTERS] [MINUTES] [EVERY]');
const restartMinutes = 5;
const backupMinutes = 10;
const root = new URL('../', import.meta.url).pathname;
const cli = process.env.MORDEL_APP
  ? [`${process.env.MORDEL_APP}/Mordel.Cli.dll`]
  : [`${root}artifacts/bin/Mordel.Cli/release/Mordel.Cli.dll`];
const sql = (folder, text) => {
  const done = spawnSync('sqlite3', ['-readonly', `${folder}/mordel.db`, text], {
    encoding: 'utf8',
    maxBuffer: 1 << 30,
  });
  if (done.status !== 0) throw new Error(`sqlite3: ${done.stderr}`);
  return done.stdout.trim();
};
// Without holding up the testers.
const mordel = (...args) =>
  new Promise(done => {
    const child = spawn('dotnet', [...cli, ...args], { stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', piece => (said += piece));
    child.once('exit', code => done({ code, said }));
  });
const mb = n => n.toFixed(0);
const minute = () => ((performance.now() - began) / 60_000).toFixed(1);

spawnSync('sqlite3', [
  `${data}/mordel.db`,
  "UPDATE AspNetUsers SET DemoNote = 'bench' WHERE UserName GLOB 'tester[0-9]*';",
]);
const port = await freePort();
const start = () =>
  startServer({
    data,
    port,
    more: ['--Mordel:SignInsPerMinute', '100000', '--Mordel:WatchSeals', 'false', '--Mordel:DeliverOutbox', 'false'],
  });
let server = await start();
const { url } = server;
const began = performance.now();
const until = began + Number(minutes) * 60_000;
const acknowledged = new Map();
const [waits, outages] = [[], []];
let retried = 0;
let refused = 0;

/** Asks until there is an answer: the server may just be away. */
async function patiently(path, options) {
  for (let first = true; ; first = false) {
    try {
      const answer = await fetch(url + path, { redirect: 'manual', ...options });
      const text = await answer.text();
      if (answer.status < 500) return { answer, text };
    } catch {
      // Away.
    }
    if (first) retried++;
    await new Promise(r => setTimeout(r, 400 + 400 * Math.random()));
  }
}

async function begin(cookies, stop) {
  const cookie = cookies.join('; ');
  const page = await patiently(stop, { headers: { cookie } });
  const jar = jarOf(page.answer, cookies).join('; ');
  const run = await patiently(stop, {
    method: 'POST',
    headers: { cookie: jar, 'content-type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams({ __RequestVerificationToken: tokenIn(page.text) }),
  });
  const path = run.answer.headers.get('location');
  // Not every assembly can be tested: one is of a type that nobody here may sign.
  if (!path) return null;
  const screen = await patiently(path, { headers: { cookie: jar } });
  const view = JSON.parse(screen.text.match(/<script type="application\/json" id="view">([^]*?)<\/script>/)[1]);
  return {
    id: path.split('/').at(-1),
    path: `/api${path}`,
    token: screen.text.match(/data-token="([^"]+)"/)[1],
    cookie: jarOf(screen.answer, [jar]).join('; '),
    step: view.now.key,
    tick: view.nextTick,
  };
}

async function work({ cookies, stops }) {
  await new Promise(r => setTimeout(r, Math.random() * 3000));
  const share = (Number(minutes) * 60_000) / 4;
  const left = [...stops];
  for (let i = 0; performance.now() < until;) {
    const run = left.length ? await begin(cookies, left.shift()) : null;
    if (!run && !left.length) return;
    if (!run) continue;
    i++;
    for (const end = began + share * i; performance.now() < Math.min(end, until);) {
      const due = performance.now();
      const entry = {
        id: crypto.randomUUID(),
        tick: run.tick++,
        at: new Date().toISOString(),
        kind: 'note',
        step: run.step,
        text: `Seen ${acknowledged.size} ${run.tick}`,
      };
      const { answer, text } = await patiently(`${run.path}/entries`, {
        method: 'POST',
        headers: { cookie: run.cookie, 'content-type': 'application/json', 'X-Mordel-Token': run.token },
        body: JSON.stringify({ entries: [entry] }),
      });
      if (answer.ok) {
        acknowledged.set(entry.id, run.id);
        waits.push(performance.now() - due);
      } else {
        refused++;
        console.log(`${minute()}: ${answer.status} ${text.slice(0, 200)}`);
      }
      await new Promise(r => setTimeout(r, Math.max(0, 1000 * Number(every) - (performance.now() - due))));
    }
  }
}

const memory = () => {
  try {
    return Number(readFileSync(`/proc/${server.child.pid}/status`, 'utf8').match(/VmRSS:\s+(\d+)/)[1]) / 1024;
  } catch {
    return NaN;
  }
};

const rss = [];
async function restarts() {
  for (let turn = 1; performance.now() < until; turn++) {
    await new Promise(r => setTimeout(r, 60_000));
    const first = memory();
    await new Promise(r => setTimeout(r, Math.min((restartMinutes - 1) * 60_000, until - performance.now())));
    rss.push([first, memory()]);
    if (performance.now() >= until) return;
    const away = performance.now();
    await (turn % 2 ? server.stop() : server.kill());
    server = await start();
    outages.push(performance.now() - away);
  }
}

const checked = [];
async function backups() {
  for (let due = backupMinutes * 60_000; due < Number(minutes) * 60_000; due += backupMinutes * 60_000) {
    await new Promise(r => setTimeout(r, Math.max(0, began + due - 90_000 - performance.now())));
    const before = [...acknowledged.keys()];
    const folder = mkdtempSync(join(tmpdir(), 'mordel-hour-'));
    const file = join(folder, 'one.backup');
    const from = performance.now();
    const made = await mordel('backup', file, '--data', data);
    const took = performance.now() - from;
    const size = made.code === 0 ? statSync(file).size : 0;
    const back = await mordel('restore', file, '--data', join(folder, 'back'));
    const there =
      back.code === 0
        ? new Set(
            sql(join(folder, 'back'), 'SELECT EntryId FROM Entries')
              .split('\n')
              .map(id => id.toLowerCase()),
          )
        : new Set();
    const missing = before.filter(id => !there.has(id)).length;
    checked.push({ code: made.code + back.code, missing });
    const says = back.said.trim().split('\n').at(-1);
    console.log(
      `${minute()}: backup of ${mb(size / 1e6)} MB in ${(took / 1000).toFixed(1)} s; put back: ${says} ` +
        `${before.length} acknowledged before, ${missing} missing`,
    );
    if (made.code + back.code) console.log(made.said, back.said);
    rmSync(folder, { recursive: true, force: true });
  }
}

const testers = [];
for (const id of personas(await (await fetch(`${url}/sign-in`)).text(), 'bench').slice(0, Number(count))) {
  const cookies = await signIn(url, () => id);
  const today = await (await fetch(`${url}/`, { headers: { cookie: cookies.join('; ') } })).text();
  testers.push({ cookies, stops: [...new Set(today.match(/\/stops\/[0-9a-f-]{36}/g) ?? [])] });
}
console.log(`${minute()}: ${testers.length} testers have begun`);
await Promise.all([...testers.filter(t => t.stops.length).map(work), restarts(), backups()]);
await server.stop();

const kept = new Map(
  sql(data, 'SELECT EntryId, RunId FROM Entries')
    .split('\n')
    .map(l => l.toLowerCase().split('|')),
);
const lost = [...acknowledged].filter(([id, run]) => kept.get(id) !== run.toLowerCase()).length;
const doubled = Number(
  sql(
    data,
    `SELECT COUNT(*) FROM (SELECT 1 FROM Entries WHERE Json LIKE '%"Seen %'
     GROUP BY RunId, json_extract(Json, '$.tick') HAVING COUNT(*) > 1)`,
  ),
);
const seals = await mordel('verify', '--data', data);
const ms = share => at(waits, share).toFixed(0);
const seconds = share => (at(outages, share) / 1000).toFixed(1);
const bad = checked.filter(c => c.code || c.missing).length;
console.log(
  [
    `${testers.length} testers, ${minutes} minutes, an entry every ${every} s;`,
    `${outages.length} restarts, ${checked.length} backups put back`,
    `${acknowledged.size} entries acknowledged: ${lost} lost, ${doubled} doubled, ${refused} refused;`,
    `${retried} had to be sent again`,
    `waits: median ${ms(0.5)} p95 ${ms(0.95)} p99 ${ms(0.99)} max ${ms(1)} ms`,
    `away at a restart: median ${seconds(0.5)} s, longest ${seconds(1)} s`,
    'memory of the server a minute after each start and before its end, MB:',
    rss.map(([a, b]) => `${mb(a)}-${mb(b)}`).join(' '),
    `backups that failed or lacked something: ${bad}`,
    `seals: ${seals.said.trim().split('\n').at(-1)}`,
  ].join('\n'),
);
process.exit(lost + doubled + refused + bad + seals.code === 0 ? 0 : 1);
