// The server is killed again and again, while it works and while it starts: it always starts again, and what was
// acknowledged is there, once. An ordinary run kills either at work or at a start, as its seed has it; MORDEL_KILLS and
// MORDEL_START_KILLS ask for more of both.
import assert from 'node:assert/strict';
import { randomUUID } from 'node:crypto';
import {
  cpSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  truncateSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test } from 'node:test';
import { demoData, freePort, mordel, sample, spawnServer, startServer, thorough } from './browser.mjs';

const killsAtWork = Number(process.env.MORDEL_KILLS ?? (thorough ? 12 : 1)),
  killsAtStart = Number(process.env.MORDEL_START_KILLS ?? (thorough ? 12 : 1));

const asked = process.env.MORDEL_KILLS ?? process.env.MORDEL_START_KILLS;
const killed = (when, ...all) => (asked || sample(['at work', 'at a start'], 2).includes(when)) && test(...all);

/** Every seal of an installation, checked by the command line: how many hold. */
function allHold(data) {
  const done = mordel(['verify', '--data', data]);
  const [, seals, runs] = done.stdout.match(/All (\d+) seals over (\d+) runs hold/) ?? [];
  assert.ok(seals, `${done.status}: ${done.stdout.slice(0, 2000)} ${done.stderr.slice(0, 2000)}`);
  return { seals: Number(seals), runs: Number(runs) };
}

class Visitor {
  jar = new Map();
  constructor(url) {
    this.url = url;
  }
  async ask(path, options = {}) {
    const answer = await fetch(this.url + path, {
      redirect: 'manual',
      ...options,
      headers: { cookie: [...this.jar].map(c => c.join('=')).join('; '), ...options.headers },
    });
    for (const cookie of answer.headers.getSetCookie()) {
      const [name, value] = cookie.split(';')[0].split(/=(.*)/s);
      this.jar.set(name, value);
    }
    return answer;
  }
  async post(page, to, fields) {
    const token = (await (await this.ask(page)).text()).match(
      /RequestVerificationToken" type="hidden" value="([^"]+)/,
    )[1];
    return this.ask(to, {
      method: 'POST',
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      body: new URLSearchParams({ ...fields, __RequestVerificationToken: token }),
    });
  }
}

killed(
  'at work',
  `${killsAtWork} kills in the middle of sending and sealing lose nothing that was acknowledged and double nothing`,
  { timeout: 180_000 + killsAtWork * 30_000 },
  async () => {
    const data = mkdtempSync(join(tmpdir(), 'mordel-kill-'));
    const port = await freePort();
    await demoData(data);
    let server = await startServer({ data, port });
    try {
      const visitor = new Visitor(server.url);
      const door = await (await visitor.ask('/sign-in')).text();
      const ines = door.match(/value="([^"]+)" class="persona">\s*<span class="persona-name">Ines/)[1];
      await visitor.post('/sign-in', '/sign-in?handler=As', { id: ines });
      const today = await (await visitor.ask('/')).text();
      const [stop, report] = [today.match(/data-go\s+href="([^"]+)"/)[1], today.match(/href="(\/reports\/[^"]+)"/)[1]];
      const run = (await visitor.post(stop, stop, {})).headers.get('location').split('/').pop();
      const token = (await (await visitor.ask(`/runs/${run}`)).text()).match(/data-token="([^"]+)"/)[1];
      const send = entries =>
        visitor.ask(`/api/runs/${run}/entries`, {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'X-Mordel-Token': token },
          body: JSON.stringify({ entries }),
        });

      const before = allHold(data);
      const sent = new Map(),
        acknowledged = new Set(),
        amendments = { asked: new Set(), acknowledged: new Set() };
      let tick = 0,
        stopping = false;
      const waiting = [],
        gone = () => new Promise(r => setTimeout(r, 20));
      const sender = async () => {
        while (!stopping || waiting.length > 0) {
          if (waiting.length === 0) {
            const entry = {
              id: randomUUID(),
              tick: ++tick,
              at: new Date().toISOString(),
              kind: 'note',
              step: 'before.notify',
              text: `note ${tick}`,
            };
            sent.set(entry.id, entry);
            waiting.push(entry);
          }
          const batch = waiting.slice(0, 3);
          try {
            const answer = await send(batch);
            if (answer.status !== 200) {
              if (answer.status < 500) assert.fail(`${answer.status}: ${await answer.text()}`);
              continue;
            }
            await answer.arrayBuffer();
            for (const entry of batch) {
              acknowledged.add(entry.id);
              const i = waiting.indexOf(entry);
              if (i >= 0) waiting.splice(i, 1);
            }
          } catch (problem) {
            if (problem.code === 'ERR_ASSERTION') throw problem;
            await gone();
          }
        }
      };
      // An amendment is a seal more on its assembly's chain.
      const sealer = async () => {
        while (!stopping) {
          const text = `amended ${randomUUID()}`;
          try {
            amendments.asked.add(text);
            const answer = await visitor.post(report, report, { text });
            if (answer.status === 302) amendments.acknowledged.add(text);
            await new Promise(r => setTimeout(r, 250));
          } catch {
            await gone();
          }
        }
      };
      const workers = [sender(), sender(), sealer()];
      for (let kills = 0; kills < killsAtWork; kills++) {
        // A kill falls a moment after some entries went through, however slow the machine is.
        const had = acknowledged.size;
        for (const end = Date.now() + 20_000; acknowledged.size < had + 3 && Date.now() < end;)
          await new Promise(r => setTimeout(r, 5));
        await new Promise(r => setTimeout(r, Math.random() * 300));
        await server.kill();
        server = await startServer({ data, port });
      }
      stopping = true;
      await Promise.all(workers);

      const log = await (await visitor.ask(`/api/runs/${run}/log`)).json();
      const kept = log.map(e => e.id);
      assert.equal(new Set(kept).size, kept.length, 'an entry is there twice');
      assert.deepEqual(
        [...acknowledged].filter(id => !kept.includes(id)),
        [],
        'an acknowledged entry is lost',
      );
      assert.ok(acknowledged.size >= 3 * killsAtWork, `only ${acknowledged.size} entries got through`);
      for (const entry of log) assert.equal(entry.text, sent.get(entry.id).text);
      const page = await (await visitor.ask(report)).text();
      for (const text of amendments.acknowledged)
        assert.equal(page.split(text).length, 2, 'an acknowledged amendment is lost or doubled');
      assert.ok(amendments.acknowledged.size > 0, 'no amendment got through');
      const after = allHold(data);
      const added = after.seals - before.seals;
      assert.ok(added >= amendments.acknowledged.size && added <= amendments.asked.size, `${added} seals more`);
      assert.equal(after.runs, before.runs);
      console.log(
        `# ${killsAtWork} kills at work: ${sent.size} entries sent, ${acknowledged.size} acknowledged, ${kept.length} kept; ${amendments.acknowledged.size} amendments acknowledged, ${added} sealed; all ${after.seals} seals hold`,
      );
    } finally {
      await server.kill();
      rmSync(data, { recursive: true, force: true });
    }
  },
);

killed(
  'at a start',
  `${killsAtStart} kills at any moment of a start leave a folder that starts, whole`,
  { timeout: 240_000 + killsAtStart * 60_000 },
  async () => {
    const [fresh, filled] = [
      mkdtempSync(join(tmpdir(), 'mordel-start-')),
      mkdtempSync(join(tmpdir(), 'mordel-filled-')),
    ];
    await demoData(filled);
    const whole = allHold(filled);
    const moments = [];
    try {
      for (let i = 0; i < killsAtStart; i++) {
        // By turns the first start of an empty folder, which makes key, tables and town, and the next one of a full
        // one. Most are killed early: that is when things are made.
        const data = i % 2 === 0 ? fresh : filled;
        const server = spawnServer({ data, port: await freePort() });
        const moment = Math.round(i % 4 === 0 ? Math.random() * 12_000 : Math.random() * 2_500);
        await Promise.race([new Promise(r => setTimeout(r, moment)), server.ended]);
        assert.equal(
          server.child.exitCode,
          null,
          `a start ended by itself after ${moments.join(', ')} ms:\n${server.said()}`,
        );
        await server.end('SIGKILL');
        moments.push(moment);
      }
      for (const data of [fresh, filled]) {
        const server = await startServer({ data, port: await freePort() });
        await server.stop();
        assert.deepEqual(allHold(data), whole);
      }
      console.log(
        `# ${killsAtStart} kills of a start, after ${moments.slice(0, 12).join(', ')}${moments.length > 12 ? ', …' : ''} ms; both folders start, ${whole.seals} seals hold in each`,
      );
    } finally {
      for (const data of [fresh, filled]) rmSync(data, { recursive: true, force: true });
    }
  },
);

test(
  'a start that cannot be is refused in a sentence with what to do, and no trace of the program',
  { timeout: 120_000 },
  async () => {
    const made = mkdtempSync(join(tmpdir(), 'mordel-refused-'));
    await demoData(made);
    const folder = () => {
      const data = mkdtempSync(join(tmpdir(), 'mordel-refused-'));
      cpSync(made, data, { recursive: true });
      return data;
    };
    const refused = async (data, says, port) => {
      const server = spawnServer({ data, port: port ?? (await freePort()) });
      assert.equal(
        await Promise.race([server.ended, new Promise(r => setTimeout(() => r('runs'), 30_000).unref())]),
        1,
        server.said(),
      );
      assert.match(server.said(), /Mordel does not start\./);
      assert.match(server.said(), says);
      assert.doesNotMatch(server.said(), /^\s+at |Exception|\.cs:/m);
    };
    const port = await freePort();
    const running = await startServer({ data: made, port });
    try {
      await refused(made, /another/i);
      const other = folder();
      await refused(other, new RegExp(`${port}`), port);
      writeFileSync(
        join(
          other,
          readdirSync(other).find(name => name.endsWith('.pem')),
        ),
        '',
      );
      await refused(other, /key/);
      const damaged = folder();
      const database = join(damaged, 'mordel.db');
      const held = openSync(database, 'r+');
      writeSync(held, Buffer.alloc(30_000, 7), 0, 30_000, 5_000);
      await refused(damaged, /damaged/);
      truncateSync(database, 20_000);
      await refused(damaged, /damaged/);
      assert.ok(readFileSync(database).length === 20_000, 'a refused database is left as it is');
      for (const data of [other, damaged]) rmSync(data, { recursive: true, force: true });
    } finally {
      await running.kill();
      rmSync(made, { recursive: true, force: true });
    }
  },
);
