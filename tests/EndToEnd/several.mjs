// Several processes of one installation on a PostgreSQL server: for the journey and for the benchmark.
import { spawn, spawnSync } from 'node:child_process';
import {
  chownSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoData, freePort, mordel, startServer } from './browser.mjs';

const versions = existsSync('/usr/lib/postgresql') ? readdirSync('/usr/lib/postgresql') : [];
const bin = versions.length ? `/usr/lib/postgresql/${versions.sort((a, b) => b - a)[0]}/bin` : null;
const nginx = '/usr/sbin/nginx';

/** Why there can be none here; false where there can. */
export const lacking = !bin
  ? 'PostgreSQL is not here: apt-get install postgresql'
  : !existsSync(nginx)
    ? 'nginx is not here: apt-get install nginx-light'
    : false;

const pause = ms => new Promise(r => setTimeout(r, ms));

/** A database server in a folder of its own; kill() ends it as a power cut does, start() brings it back. */
export async function database(safe = true) {
  const folder = mkdtempSync(join(tmpdir(), 'mordel-pg-'));
  const data = join(folder, 'data');
  const port = await freePort();
  // It refuses to run as root.
  const root = process.getuid() === 0;
  const number = what => Number(spawnSync('id', [what, 'postgres'], { encoding: 'utf8' }).stdout);
  const as = root ? { uid: number('-u'), gid: number('-g') } : {};
  if (root) chownSync(folder, as.uid, as.gid);
  const made = spawnSync(
    `${bin}/initdb`,
    ['-D', data, '-A', 'trust', '-U', 'postgres', '-E', 'UTF8', '--locale=C.UTF-8'],
    {
      ...as,
      cwd: folder,
      encoding: 'utf8',
    },
  );
  if (made.status !== 0) throw new Error(`initdb: ${made.stderr}`);
  const careless = safe ? [] : ['-c', 'fsync=off', '-c', 'full_page_writes=off', '-c', 'synchronous_commit=off'];
  let child, ended;
  const ready = () => spawnSync(`${bin}/pg_isready`, ['-q', '-h', '127.0.0.1', '-p', String(port)]).status === 0;
  async function start() {
    child = spawn(
      `${bin}/postgres`,
      [
        '-D',
        data,
        '-p',
        String(port),
        '-k',
        folder,
        '-c',
        'listen_addresses=127.0.0.1',
        '-c',
        'max_connections=300',
        ...careless,
      ],
      { ...as, cwd: folder, stdio: 'ignore' },
    );
    ended = new Promise(r => child.once('exit', r));
    for (let i = 0; i < 300 && !ready(); i++) await pause(100);
    if (!ready()) throw new Error('the database server does not start');
  }
  await start();
  return {
    store: `postgres:Host=127.0.0.1;Port=${port};Username=postgres;Database=mordel;Maximum Pool Size=60`,
    start,
    kill: () => {
      child.kill('SIGQUIT');
      return ended;
    },
    ask: sql => {
      const said = spawnSync(
        'psql',
        ['-h', '127.0.0.1', '-p', String(port), '-U', 'postgres', '-d', 'mordel', '-Atc', sql],
        {
          encoding: 'utf8',
          maxBuffer: 1 << 28,
        },
      );
      if (said.status !== 0) throw new Error(said.stderr);
      return said.stdout.trim().split('\n').filter(Boolean);
    },
    end: async () => {
      child.kill('SIGINT');
      await ended;
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** The demo town on a server, two processes, and the proxy of the documentation in front of them. */
export async function severalServers(base, more = []) {
  const data = mkdtempSync(join(tmpdir(), 'mordel-several-'));
  await demoData(data);
  const moved = mordel(['move', '--from', `sqlite:${data}`, '--to', base.store, '--data', data]);
  if (moved.status !== 0) throw new Error(`move: ${moved.stderr}${moved.stdout}`);
  const ports = [await freePort(), await freePort()];
  const front = await freePort();
  const begin = i =>
    startServer({
      data,
      port: ports[i],
      more: [
        '--Mordel:StoredAt',
        base.store,
        '--Mordel:Proxies',
        '127.0.0.1',
        '--Mordel:SignInsPerMinute',
        '100000',
        ...more,
      ],
    });
  const all = [await begin(0), await begin(1)];
  const folder = mkdtempSync(join(tmpdir(), 'mordel-front-'));
  for (const at of ['body', 'proxy', 'fastcgi', 'uwsgi', 'scgi']) mkdirSync(join(folder, at));
  const example = readFileSync(new URL('../../docs/proxy/nginx-several.conf', import.meta.url), 'utf8')
    .replace('127.0.0.1:5170', `127.0.0.1:${ports[0]}`)
    .replace('127.0.0.1:5171', `127.0.0.1:${ports[1]}`)
    .replace(/listen [^;]+;/, `listen 127.0.0.1:${front};`)
    .replace('server_name tests.example;', 'server_name 127.0.0.1;');
  writeFileSync(
    join(folder, 'nginx.conf'),
    `daemon off; pid ${join(folder, 'pid')}; error_log ${join(folder, 'error.log')}; worker_processes 1;
events { worker_connections 1024; }
http {
  access_log off;
  client_body_temp_path ${join(folder, 'body')}; proxy_temp_path ${join(folder, 'proxy')};
  fastcgi_temp_path ${join(folder, 'fastcgi')}; uwsgi_temp_path ${join(folder, 'uwsgi')};
  scgi_temp_path ${join(folder, 'scgi')};
  ${example}
}`,
  );
  const proxy = spawn(nginx, ['-c', join(folder, 'nginx.conf'), '-p', folder], { stdio: 'ignore' });
  const url = `http://127.0.0.1:${front}`;
  for (let i = 0; i < 100; i++) {
    if (
      await fetch(`${url}/health`).then(
        a => a.ok,
        () => false,
      )
    )
      break;
    await pause(100);
  }
  return {
    url,
    each: () => all.map(s => s.url),
    /** Ends one as a crash does, and brings it back. */
    async kill(i) {
      await all[i].kill();
    },
    async back(i) {
      all[i] = await begin(i);
    },
    said: () => all.map(s => s.said()).join('\n'),
    async end() {
      proxy.kill('SIGTERM');
      await Promise.all(all.map(s => s.stop()));
      for (const at of [data, folder]) rmSync(at, { recursive: true, force: true });
    },
  };
}

const jarOf = (answer, jar = []) => [...jar, ...answer.headers.getSetCookie().map(c => c.split(';')[0])];

/** A tester at a run of their own. */
export async function atWork(url, id) {
  const door = await fetch(`${url}/sign-in`);
  const text = await door.text();
  const token = page => page.match(/__RequestVerificationToken" type="hidden" value="([^"]+)"/)[1];
  const form = (to, cookies, fields) =>
    fetch(`${url}${to}`, {
      method: 'POST',
      redirect: 'manual',
      headers: { cookie: cookies.join('; '), 'content-type': 'application/x-www-form-urlencoded' },
      body: new URLSearchParams(fields),
    });
  let jar = jarOf(door);
  const come = await form('/sign-in?handler=As', jar, { id, __RequestVerificationToken: token(text) });
  jar = jarOf(come, jar);
  return {
    cookies: jar,
    /** Opens runs at the stops that have none. */
    async runs(stops) {
      const begun = [];
      for (const stop of stops) {
        const page = await fetch(`${url}/stops/${stop}`, { headers: { cookie: jar.join('; ') } });
        if (!page.ok) continue;
        const own = jarOf(page, jar);
        const answer = await form(`/stops/${stop}`, own, {
          __RequestVerificationToken: token(await page.text()),
          unsigned: 'true',
        });
        const run = answer.headers.get('location');
        if (!run?.startsWith('/runs/')) continue;
        const screen = await fetch(`${url}${run}`, { headers: { cookie: own.join('; ') } });
        const words = await screen.text();
        const view = JSON.parse(words.match(/<script type="application\/json" id="view">([^]*?)<\/script>/)[1]);
        begun.push({
          id: run.split('/').at(-1),
          path: `/api${run}/entries`,
          token: words.match(/data-token="([^"]+)"/)[1],
          cookie: jarOf(screen, own).join('; '),
          step: view.now.key,
          tick: view.nextTick,
        });
      }
      return begun;
    },
  };
}

/**
 * Writes notes into runs until a moment, each beat long, as a device does: what was not acknowledged is sent again.
 * Told is what came of it: acknowledged ids, milliseconds until each was, answers that were errors, and broken lines.
 */
export async function writeUntil(url, runs, until, beat) {
  const told = { kept: new Map(), took: [], errors: [], broken: 0 };
  const phase = crypto.randomUUID();
  await Promise.all(
    runs.map(async run => {
      const mine = [];
      told.kept.set(run.id, mine);
      await pause(Math.random() * beat);
      for (let n = 0; Date.now() < until; n++) {
        const began = performance.now();
        const entry = {
          id: crypto.randomUUID(),
          tick: run.tick++,
          at: new Date().toISOString(),
          kind: 'note',
          step: run.step,
          text: `Seen ${n} of ${phase}`,
        };
        for (;;) {
          const answer = await fetch(`${url}${run.path}`, {
            method: 'POST',
            headers: {
              cookie: run.cookie,
              'content-type': 'application/json',
              'X-Mordel-Token': run.token,
              Prefer: 'return=minimal',
            },
            body: JSON.stringify({ entries: [entry] }),
          }).catch(() => null);
          const says = await answer?.text().catch(() => null);
          if (answer?.ok && says !== null) break;
          if (answer) told.errors.push(`${answer.status} ${says?.slice(0, 200)}`);
          else told.broken++;
          await pause(250);
        }
        told.took.push(performance.now() - began);
        mine.push(entry.id);
        await pause(Math.max(0, beat - (performance.now() - began)));
      }
    }),
  );
  return told;
}

/** What was acknowledged and is not there, and what is there more than once. */
export function lostOrDoubled(base, told) {
  const [lost, doubled] = [[], []];
  for (const [run, ids] of told.kept) {
    const there = base.ask(`SELECT lower("EntryId"::text) || ' ' || "Json" FROM "Entries" WHERE "RunId" = '${run}'`);
    const known = new Set(there.map(line => line.slice(0, 36)));
    lost.push(...ids.filter(id => !known.has(id)));
    const notes = there
      .filter(line => line.includes('"text":"Seen '))
      .map(line => line.match(/"text":"(Seen [^"]+)"/)[1]);
    if (new Set(notes).size !== notes.length) doubled.push(run);
  }
  return { lost, doubled };
}
