// Who should not come in: an outsider, a learner, somebody who was dismissed, a cookie that was stolen. Everything is
// refused, nothing breaks, and nobody learns by the clock who has a name here.
import assert from 'node:assert/strict';
import { connect } from 'node:net';
import { mkdtempSync, readFileSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { freePort, startServer } from './browser.mjs';

const phrase = 'Six lanterns 4 Kelp';
let data, server, url, port;

/** Somebody who keeps cookies and fills in forms, without a browser. */
class Client {
  cookies = new Map();
  async ask(path, { method = 'GET', headers = {}, body } = {}) {
    const cookie = [...this.cookies].map(([k, v]) => `${k}=${v}`).join('; ');
    const answer = await fetch(url + path, {
      method,
      headers: { ...(cookie ? { cookie } : {}), ...headers },
      body,
      redirect: 'manual',
    });
    for (const set of answer.headers.getSetCookie()) {
      const [, name, value] = set.match(/^([^=]+)=([^;]*)/);
      if (value) this.cookies.set(name, value);
      else this.cookies.delete(name);
    }
    return answer;
  }
  async form(page, to, fields) {
    const token =
      (await (await this.ask(page)).text()).match(/RequestVerificationToken[^>]*value="([^"]+)"/)?.[1] ?? '';
    const body = new URLSearchParams({ __RequestVerificationToken: token, ...fields });
    return this.ask(to, { method: 'POST', body });
  }
  async in(name, password = phrase) {
    const answer = await this.form('/sign-in', '/sign-in', { userName: name, password });
    return answer.headers.get('location') === '/';
  }
}

const owner = new Client();
// Who adds somebody knows their password: they change it before they do anything.
const add = async (userName, fullName, role) => {
  const first = 'Four gannets 9 Weir';
  await owner.form('/kits-and-people', '/kits-and-people?handler=Person', {
    userName,
    fullName,
    role,
    password: first,
  });
  const who = new Client();
  assert.ok(await who.in(userName, first));
  await who.form('/password', '/password', { current: first, wanted: phrase, again: phrase });
};
const idOf = async name => {
  const page = await (await owner.ask('/kits-and-people')).text();
  return page.match(new RegExp(`/kits-and-people/([0-9a-f-]{36})[^>]*>[^<]*${name}`))?.[1];
};

before(async () => {
  data = mkdtempSync(join(tmpdir(), 'mordel-attack-'));
  port = await freePort();
  server = await startServer({ data, port, demo: false, more: ['--Mordel:SignInsPerMinute', '100000'] });
  url = `http://127.0.0.1:${port}`;
  const [, code] = server.said().match(/the code is (\S+)/);
  await owner.form('/first-account', '/first-account', {
    code,
    fullName: 'Hester Fenn',
    userName: 'hester',
    password: phrase,
  });
  await add('moa', 'Moa Ferrin', 'tester');
  await add('pia', 'Pia Lund', 'learner');
});
after(async () => {
  await server?.kill();
  rmSync(data, { recursive: true, force: true });
});

const rooms = [
  '/',
  '/due',
  '/rounds',
  '/register',
  '/imports',
  '/rules',
  '/outbox',
  '/notices',
  '/standing',
  '/programs',
  '/kits-and-people',
  '/installation',
  '/installation/audit',
  '/installation/audit.csv',
  '/installation/sign-ins',
  '/exports/register.csv',
  '/exports/people.csv',
  '/api/runs',
  '/api/openapi.json',
  '/account',
  '/account?handler=About',
  '/password',
  '/show-again',
];
const isRefused = answer =>
  [401, 403, 404].includes(answer.status) ||
  (answer.status === 302 && /\/sign-in|\/problem\/403/.test(answer.headers.get('location') ?? ''));

test('an outsider sees nothing but the door, whatever is asked and however it is written', async () => {
  const outsider = new Client();
  for (const room of rooms) assert.ok(isRefused(await outsider.ask(room)), room);
  const odd = [
    '/..%2f..%2finstallation-key.pem',
    '/%2e%2e/mordel.db',
    '/core/..%2f..%2fmordel.db',
    '/lib/../../mordel.db',
    '/files/..%2fmordel.db',
    '/papers/00000000-0000-0000-0000-000000000000',
    "/register?q=' OR 1=1 --",
    '/reports/1;DROP TABLE Runs',
    '/sign-in?returnUrl=//evil.example',
    '/new-password/' + '0'.repeat(48),
    '/new-password/..%2f..',
    '/o/' + '0'.repeat(48),
    '/metrics',
    '/.env',
    '/%00',
    '/INSTALLATION',
  ];
  for (const path of odd) {
    const answer = await outsider.ask(path);
    const text = await answer.text();
    assert.ok(answer.status < 500, `${path}: ${answer.status}`);
    assert.ok(!/BEGIN (EC |)PRIVATE KEY|SQLite format/.test(text), path);
    if (answer.status === 200) assert.match(text, /Sign in|links?|Mordel/, path);
  }
  // Signed in, nobody is sent elsewhere.
  const onward = await new Client().form('/sign-in', '/sign-in', {
    userName: 'hester',
    password: phrase,
    returnUrl: '//evil.example/x',
  });
  assert.equal(onward.headers.get('location'), '/');
});

test('another site can neither send our forms nor open our sockets, and another name is not answered', async () => {
  const victim = new Client();
  assert.ok(await victim.in('hester'));
  for (const to of ['/sign-out', '/account?handler=EndOthers', '/installation', '/programs', '/password']) {
    const answer = await victim.ask(to, { method: 'POST', body: new URLSearchParams({ name: 'x' }) });
    assert.equal(answer.status, 400, to);
  }
  assert.equal((await victim.ask('/account')).status, 200);
  const other = await new Promise((done, failed) => {
    const socket = connect(port, '127.0.0.1', () =>
      socket.write('GET /sign-in HTTP/1.1\r\nHost: rebound.example\r\nConnection: close\r\n\r\n'),
    );
    let said = '';
    socket.on('data', chunk => (said += chunk));
    socket.on('end', () => done(said));
    socket.on('error', failed);
  });
  assert.match(other, /^HTTP\/1\.1 400/);
  const page = await victim.ask('/account');
  for (const [header, wanted] of [
    ['content-security-policy', /default-src 'none'.*frame-ancestors 'none'/],
    ['x-content-type-options', /nosniff/],
    ['referrer-policy', /same-origin/],
    ['cache-control', /no-store/],
  ])
    assert.match(page.headers.get(header), wanted);
  assert.equal(page.headers.get('server'), null);
});

test('a learner gets no customer, no record and no office, by pages, by programs and by forms', async () => {
  const learner = new Client();
  assert.ok(await learner.in('pia'));
  assert.equal((await learner.ask('/bench')).status, 200);
  const open = ['/', '/account', '/account?handler=About', '/password', '/show-again', '/api/openapi.json'];
  for (const room of rooms.filter(r => !open.includes(r))) assert.ok(isRefused(await learner.ask(room)), room);
  const moa = await idOf('Moa Ferrin');
  const hester = await idOf('Hester Fenn');
  assert.ok(moa && hester);
  for (const handler of ['Roles', 'Password', 'Link', 'Dismiss', 'Forget', 'Mail', 'TakeBack'])
    for (const who of [moa, hester]) {
      const answer = await learner.form('/account', `/kits-and-people/${who}?handler=${handler}`, {
        roles: 'owner-of-the-installation',
        wanted: phrase,
        mail: 'a@b.c',
      });
      assert.ok(isRefused(answer), `${handler}: ${answer.status}`);
    }
  assert.ok(await new Client().in('moa'));
});

test('a cookie that was stolen is worth nothing once its owner has signed out or ended it', async () => {
  const [victim, thief] = [new Client(), new Client()];
  assert.ok(await victim.in('hester'));
  thief.cookies = new Map(victim.cookies);
  assert.equal((await thief.ask('/account')).status, 200);
  await victim.form('/account', '/sign-out', {});
  for (const room of rooms) assert.ok(isRefused(await thief.ask(room)), room);
  // One that was altered is none.
  const forged = new Client();
  assert.ok(await forged.in('pia'));
  const cookie = forged.cookies.get('mordel');
  for (const at of [5, cookie.length >> 1, cookie.length - 3]) {
    const other = cookie[at] === 'A' ? 'B' : 'A';
    forged.cookies.set('mordel', cookie.slice(0, at) + other + cookie.slice(at + 1));
    assert.ok(isRefused(await forged.ask('/account')), `altered at ${at}`);
  }
});

test('a tester who was dismissed is out that moment, with the key of their program', async () => {
  const tester = new Client();
  assert.ok(await tester.in('moa'));
  const page = await (
    await tester.form('/programs', '/programs', { name: 'the van', scope: 'write', days: '30' })
  ).text();
  const authorization = `Bearer ${page.match(/mordel_[\w-]{20,}/)[0]}`;
  assert.equal((await new Client().ask('/api/runs', { headers: { authorization } })).status, 200);
  const moa = await idOf('Moa Ferrin');
  await owner.form(`/kits-and-people/${moa}`, `/kits-and-people/${moa}?handler=Dismiss`, {});
  for (const room of rooms) assert.ok(isRefused(await tester.ask(room)), room);
  assert.equal((await new Client().ask('/api/runs', { headers: { authorization } })).status, 401);
  assert.equal(await new Client().in('moa'), false);
});

test('a name that is known is refused as fast as one that is not', async () => {
  const times = { hester: [], moa: [], 'nobody at all': [] };
  const strangers = Object.fromEntries(Object.keys(times).map(name => [name, new Client()]));
  for (const client of Object.values(strangers)) await client.ask('/sign-in');
  // Turn by turn, so that what else the machine does is spread over all of them.
  for (let i = 0; i < 12; i++)
    for (const name of Object.keys(times)) {
      const began = process.hrtime.bigint();
      const answer = await strangers[name].form('/sign-in', '/sign-in', { userName: name, password: `guess ${i}` });
      times[name].push(Number(process.hrtime.bigint() - began) / 1e6);
      assert.match(await answer.text(), /do not fit together/);
    }
  const median = list => list.toSorted((a, b) => a - b)[list.length >> 1];
  const spread = list => {
    const sorted = list.toSorted((a, b) => a - b);
    return sorted[Math.floor(list.length * 0.75)] - sorted[Math.floor(list.length * 0.25)];
  };
  const medians = Object.values(times).map(median);
  // A name that is not hashed for answers in a tenth of the time: a fifth more or less is the machine's own.
  const noise = Math.max(...Object.values(times).map(spread), 0.2 * Math.max(...medians));
  console.log(
    Object.entries(times)
      .map(([name, list]) => `${name}: median ${median(list).toFixed(1)} ms, half within ${spread(list).toFixed(1)} ms`)
      .join('; '),
  );
  assert.ok(Math.max(...medians) - Math.min(...medians) <= noise, 'the medians differ by more than the noise');
});

test('whoever reads the disk as another user reads nothing, and the log holds no secret', async () => {
  const walk = at =>
    readdirSync(at, { withFileTypes: true }).flatMap(e =>
      e.isDirectory() ? walk(join(at, e.name)) : [join(at, e.name)],
    );
  for (const file of walk(data)) assert.equal(statSync(file).mode & 0o077, 0, file);
  const log = await (await owner.ask('/installation/audit.csv')).text();
  assert.match(log, /signed-in/);
  assert.match(log, /sign-in-failed/);
  assert.ok(!/mordel_[\w-]{20,}|Six lanterns|guess \d/.test(log));
  const database = readFileSync(join(data, 'mordel.db'));
  assert.ok(!database.includes('Six lanterns'));
});
