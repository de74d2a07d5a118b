// Behind the proxy of the documentation, as it stands there but for names and ports: TLS, who asks, and gauges.
import assert from 'node:assert/strict';
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { freePort, startServer } from './browser.mjs';

const nginx = '/usr/sbin/nginx';
const skip = existsSync(nginx) ? false : 'nginx is not here: apt-get install nginx-light';
const name = 'tests.example';
const phrase = 'Six lanterns 4 Kelp';
let folder, server, proxy, secure, plain, direct;

before(async () => {
  if (skip) return;
  folder = mkdtempSync(join(tmpdir(), 'mordel-proxy-'));
  const port = await freePort();
  direct = `http://127.0.0.1:${port}`;
  [secure, plain] = [await freePort(), await freePort()];
  const [key, pem] = [join(folder, 'key.pem'), join(folder, 'cert.pem')];
  const made = spawnSync(
    'openssl',
    [
      'req',
      '-x509',
      '-newkey',
      'ec',
      '-pkeyopt',
      'ec_paramgen_curve:prime256v1',
      '-nodes',
      '-days',
      '2',
      '-subj',
      `/CN=${name}`,
      '-addext',
      `subjectAltName=DNS:${name}`,
      '-keyout',
      key,
      '-out',
      pem,
    ],
    { encoding: 'utf8' },
  );
  assert.equal(made.status, 0, made.stderr);
  const example = readFileSync(new URL('../../docs/proxy/nginx.conf', import.meta.url), 'utf8');
  const here = example
    .replace('listen 80;', `listen 127.0.0.1:${plain};`)
    .replace('listen 443 ssl;', `listen 127.0.0.1:${secure} ssl;`)
    .replace(/ssl_certificate +\S+;/, `ssl_certificate ${pem};`)
    .replace(/ssl_certificate_key +\S+;/, `ssl_certificate_key ${key};`)
    .replace('http://127.0.0.1:5170', direct);
  assert.doesNotMatch(here, /5170|\/etc\/ssl|listen (80|443)/);
  for (const at of ['body', 'proxy', 'fastcgi', 'uwsgi', 'scgi']) mkdirSync(join(folder, at));
  const conf = join(folder, 'nginx.conf');
  writeFileSync(
    conf,
    `daemon off; pid ${join(folder, 'pid')}; error_log ${join(folder, 'error.log')};
events {}
http {
  access_log off; client_body_temp_path ${join(folder, 'body')}; proxy_temp_path ${join(folder, 'proxy')};
  fastcgi_temp_path ${join(folder, 'fastcgi')}; uwsgi_temp_path ${join(folder, 'uwsgi')};
  scgi_temp_path ${join(folder, 'scgi')};
${here}
}
`,
  );
  server = await startServer({
    data: join(folder, 'data'),
    port,
    demo: false,
    more: ['--Mordel:Address', `https://${name}`, '--Mordel:Proxies', '127.0.0.1', '--Mordel:MetricsFrom', '127.0.0.1'],
  });
  const log = join(folder, 'error.log');
  let said = '';
  proxy = spawn(nginx, ['-c', conf, '-e', log], { stdio: ['ignore', 'ignore', 'pipe'] });
  proxy.stderr.on('data', chunk => (said += chunk));
  proxy.on('error', problem => (said += problem));
  for (let i = 0; !(await ask('/health').catch(problem => void (said = said || String(problem)))); i++) {
    assert.ok(
      i < 400 && proxy.exitCode === null,
      `ended with ${proxy.exitCode}: ${said} ${existsSync(log) ? readFileSync(log, 'utf8') : ''}`,
    );
    await new Promise(r => setTimeout(r, 50));
  }
});
after(async () => {
  proxy?.kill();
  await server?.kill();
  if (folder) rmSync(folder, { recursive: true, force: true });
});

/** Asks through the proxy, by its certificate alone. */
const ask = (path, { method = 'GET', headers = {}, body } = {}) =>
  new Promise((done, failed) => {
    const asked = request(
      {
        host: '127.0.0.1',
        port: secure,
        servername: name,
        ca: readFileSync(join(folder, 'cert.pem')),
        path,
        method,
        headers: { host: name, ...headers },
      },
      answer => {
        let text = '';
        answer.on('data', chunk => (text += chunk));
        answer.on('end', () => done({ status: answer.statusCode, headers: answer.headers, text }));
      },
    );
    asked.on('error', failed);
    asked.on('upgrade', (answer, socket) => {
      socket.destroy();
      done({ status: answer.statusCode, headers: answer.headers, text: '' });
    });
    asked.end(body);
  });

const cookies = answer => (answer.headers['set-cookie'] ?? []).map(c => c.split(';')[0]).join('; ');

test('people reach it by TLS alone, browsers are told to stay, and cookies never leave without', { skip }, async () => {
  const redirected = await fetch(`http://127.0.0.1:${plain}/today`, { headers: { host: name }, redirect: 'manual' });
  assert.equal(redirected.status, 301);
  const page = await ask('/first-account');
  assert.equal(page.status, 200);
  assert.match(page.headers['strict-transport-security'], /max-age=31536000/);
  for (const cookie of page.headers['set-cookie']) assert.match(cookie, /; secure/i);
  // Only under its own name.
  assert.equal((await ask('/first-account', { headers: { host: 'rebound.example' } })).status, 400);
});

test(
  'who asks is written down by the address they come from, not the proxy’s nor what they say',
  { skip },
  async () => {
    const page = await ask('/first-account');
    const token = page.text.match(/RequestVerificationToken[^>]*value="([^"]+)"/)[1];
    const body = new URLSearchParams({
      __RequestVerificationToken: token,
      code: server.said().match(/the code is (\S+)/)[1],
      fullName: 'Hester Fenn',
      userName: 'hester',
      password: phrase,
    }).toString();
    const made = await ask('/first-account', {
      method: 'POST',
      headers: {
        cookie: cookies(page),
        'content-type': 'application/x-www-form-urlencoded',
        'x-forwarded-for': '203.0.113.9',
      },
      body,
    });
    assert.equal(made.status, 302, made.text.slice(0, 500));
    const session = cookies(made);
    assert.match(
      made.headers['set-cookie'].find(c => c.startsWith('mordel=')),
      /secure; samesite=lax; httponly/i,
    );
    const here = await ask('/account', { headers: { cookie: session, 'x-forwarded-for': '203.0.113.9' } });
    assert.equal(here.status, 200);
    assert.match(here.text, /127\.0\.0\.1/);
    assert.doesNotMatch(here.text, /203\.0\.113\.9/);
    // Nobody signed in opens a gauge; the proxy lets the socket through to the refusal.
    const upgrade = {
      connection: 'Upgrade',
      upgrade: 'websocket',
      'sec-websocket-version': '13',
      'sec-websocket-key': 'AAAAAAAAAAAAAAAAAAAAAA==',
    };
    const gauge = '/api/runs/00000000-0000-0000-0000-000000000000/gauge';
    assert.equal((await ask(gauge, { headers: upgrade })).status, 401);
    assert.equal(
      (await ask(gauge, { headers: { ...upgrade, cookie: session, origin: `https://${name}` } })).status,
      404,
    );
  },
);

test('the figures are read on the machine and not through the proxy', { skip }, async () => {
  const figures = await (await fetch(`${direct}/metrics`)).text();
  assert.ok(/^microsoft_aspnetcore_hosting_http_server_request_duration_count/m.test(figures), figures.slice(0, 300));
  assert.ok(/^mordel_mordel_sign_ins/m.test(figures), 'no sign-ins are counted');
  assert.ok(!/hester|Hester/.test(figures), 'somebody is named');
  assert.equal((await ask('/metrics')).status, 404);
  assert.equal((await ask('/health/live')).status, 200);
});
