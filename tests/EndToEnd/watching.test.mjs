// What goes out to whoever watches: a log for programs, traces and figures to a collector; nothing that opens a door.
import assert from 'node:assert/strict';
import { createServer } from 'node:http2';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { freePort, startServer } from './browser.mjs';

const secret = '0123456789abcdef'.repeat(3);
const got = [];
let data, server, collector;

before(async () => {
  data = mkdtempSync(join(tmpdir(), 'mordel-watching-'));
  // A stand-in for a collector: takes what comes by gRPC and says that it is well.
  collector = createServer();
  collector.on('stream', (stream, headers) => {
    const pieces = [];
    stream.on('data', piece => pieces.push(piece));
    stream.on('end', () => {
      got.push({ path: headers[':path'], body: Buffer.concat(pieces).toString('latin1') });
      stream.respond({ ':status': 200, 'content-type': 'application/grpc' }, { waitForTrailers: true });
      stream.on('wantTrailers', () => stream.sendTrailers({ 'grpc-status': '0' }));
      stream.end(Buffer.alloc(5));
    });
  });
  const [port, at] = [await freePort(), await freePort()];
  await new Promise(done => collector.listen(at, '127.0.0.1', done));
  server = await startServer({
    data,
    port,
    demo: false,
    more: ['--Mordel:LogAs', 'json', '--Mordel:Otlp', `http://127.0.0.1:${at}`],
  });
  await fetch(`${server.url}/new-password/${secret}`);
  await fetch(`${server.url}/register?q=${secret}`, { redirect: 'manual' });
  await fetch(`${server.url}/no/such/${secret}`);
});
after(async () => {
  await server?.kill();
  collector?.close();
  rmSync(data, { recursive: true, force: true });
});

test('each request is a line that programs read, named by its pattern and never by the secret in it', async () => {
  // What follows the last end of a line is still being written.
  const whole = () =>
    server
      .said()
      .split('\n')
      .slice(0, -1)
      .filter(l => l.startsWith('{'))
      .map(l => JSON.parse(l));
  const asked = path => whole().find(l => l.RequestPath === path);
  const until = Date.now() + 20_000;
  while (!(asked('new-password/{secret}') && asked('register')) && Date.now() < until)
    await new Promise(r => setTimeout(r, 50));
  const one = asked('new-password/{secret}');
  assert.ok(one, server.said().slice(0, 2000));
  assert.equal(one.StatusCode, 404);
  assert.ok(one.Elapsed > 0 && one.Request);
  assert.ok(!server.said().includes(secret));
});

test(
  'traces reach the collector, with what was asked for and without what opens a door',
  { timeout: 40_000 },
  async () => {
    const isTrace = g => g.path.endsWith('TraceService/Export');
    for (let i = 0; i < 300 && !got.some(isTrace); i++) await new Promise(r => setTimeout(r, 100));
    const traces = got
      .filter(isTrace)
      .map(g => g.body)
      .join('');
    assert.match(traces, /new-password\/\{secret\}/);
    assert.ok(!traces.includes(secret), 'a secret stands in a trace');
  },
);

test('it says whether it lives, whether it is ready, and why not to who may know', async () => {
  assert.equal(await (await fetch(`${server.url}/health/live`)).text(), 'Healthy');
  assert.equal((await fetch(`${server.url}/health/ready`)).status, 200);
  assert.equal((await fetch(`${server.url}/health`)).status, 200);
  assert.equal((await fetch(`${server.url}/metrics`)).status, 404);
});
