// The server is killed again and again while entries are being sent: what was acknowledged is there, once.
import assert from 'node:assert/strict';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test } from 'node:test';
import { freePort, startServer } from './browser.mjs';

class Visitor {
  jar = new Map();
  constructor(url) { this.url = url; }
  async ask(path, options = {}) {
    const answer = await fetch(this.url + path, { redirect: 'manual', ...options, headers: { cookie: [...this.jar].map(c => c.join('=')).join('; '), ...options.headers } });
    for (const cookie of answer.headers.getSetCookie()) { const [name, value] = cookie.split(';')[0].split(/=(.*)/s); this.jar.set(name, value); }
    return answer;
  }
  async post(page, to, fields) {
    const token = (await (await this.ask(page)).text()).match(/RequestVerificationToken" type="hidden" value="([^"]+)/)[1];
    return this.ask(to, { method: 'POST', headers: { 'content-type': 'application/x-www-form-urlencoded' }, body: new URLSearchParams({ ...fields, __RequestVerificationToken: token }) });
  }
}

test('eight kills in the middle of sending lose no acknowledged entry and double none', { timeout: 300_000 }, async () => {
  const data = mkdtempSync(join(tmpdir(), 'mordel-kill-'));
  const port = await freePort();
  let server = await startServer({ data, port });
  try {
    const visitor = new Visitor(server.url);
    const door = await (await visitor.ask('/sign-in')).text();
    const ines = door.match(/value="([^"]+)" class="persona"><span class="persona-name">Ines/)[1];
    await visitor.post('/sign-in', '/sign-in?handler=As', { id: ines });
    const stop = (await (await visitor.ask('/')).text()).match(/data-go href="([^"]+)"/)[1];
    const run = (await visitor.post(stop, stop, {})).headers.get('location').split('/').pop();
    const token = (await (await visitor.ask(`/runs/${run}`)).text()).match(/data-token="([^"]+)"/)[1];
    const send = entries => visitor.ask(`/api/runs/${run}/entries`, { method: 'POST', headers: { 'content-type': 'application/json', 'X-Mordel-Token': token }, body: JSON.stringify({ entries }) });

    const sent = new Map(), acknowledged = new Set();
    let tick = 0, stopping = false, kills = 0;
    const waiting = [];
    const worker = async () => {
      while (!stopping || waiting.length > 0) {
        if (waiting.length === 0) {
          const entry = { id: randomUUID(), tick: ++tick, at: new Date().toISOString(), kind: 'note', step: 'before.notify', text: `note ${tick}` };
          sent.set(entry.id, entry);
          waiting.push(entry);
        }
        const batch = waiting.slice(0, 3);
        try {
          const answer = await send(batch);
          if (answer.status !== 200) { if (answer.status < 500) assert.fail(`${answer.status}: ${await answer.text()}`); continue; }
          await answer.arrayBuffer();
          for (const entry of batch) { acknowledged.add(entry.id); const i = waiting.indexOf(entry); if (i >= 0) waiting.splice(i, 1); }
        } catch (problem) {
          if (problem.code === 'ERR_ASSERTION') throw problem;
          await new Promise(r => setTimeout(r, 20));
        }
      }
    };
    const workers = [worker(), worker()];
    for (kills = 0; kills < 8; kills++) {
      // A kill falls a moment after some entries went through, however slow the machine is.
      const before = acknowledged.size;
      for (const end = Date.now() + 20_000; acknowledged.size < before + 3 && Date.now() < end;) await new Promise(r => setTimeout(r, 5));
      await new Promise(r => setTimeout(r, Math.random() * 300));
      await server.kill();
      server = await startServer({ data, port });
    }
    stopping = true;
    await Promise.all(workers);

    const log = await (await visitor.ask(`/api/runs/${run}/log`)).json();
    const kept = log.map(e => e.id);
    assert.equal(new Set(kept).size, kept.length, 'an entry is there twice');
    assert.deepEqual([...acknowledged].filter(id => !kept.includes(id)), [], 'an acknowledged entry is lost');
    assert.ok(acknowledged.size >= 24, `only ${acknowledged.size} entries got through`);
    for (const entry of log) assert.equal(entry.text, sent.get(entry.id).text);
    console.log(`# ${kills} kills, ${sent.size} entries sent, ${acknowledged.size} acknowledged, ${kept.length} kept`);
  } finally {
    await server.kill();
    rmSync(data, { recursive: true, force: true });
  }
});
