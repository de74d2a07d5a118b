// Two processes behind the proxy of the documentation, on one PostgreSQL server: each of them dies while testers write,
// and the database too.
import assert from 'node:assert/strict';
import { after, before, test } from 'node:test';
import { atWork, database, lacking, lostOrDoubled, severalServers, writeUntil } from './several.mjs';

const skip = lacking;
let base, servers, testers, runs;

before(async () => {
  if (skip) return;
  base = await database();
  servers = await severalServers(base);
  const ids = base.ask(`SELECT u."Id" FROM "AspNetUsers" u WHERE u."UserName" IN ('ines', 'moa')`);
  testers = await Promise.all(ids.map(id => atWork(servers.url, id)));
  runs = [];
  for (const [i, id] of ids.entries()) {
    const stops = base.ask(
      `SELECT s."Id" FROM "Stops" s WHERE s."TesterId" = '${id}' AND s."Day" = (SELECT MAX("Day") FROM "Stops" t ` +
        `WHERE t."TesterId" = '${id}' AND t."Day" <= CURRENT_DATE) ` +
        `AND NOT EXISTS (SELECT 1 FROM "Runs" r WHERE r."StopId" = s."Id") LIMIT 3`,
    );
    runs.push(...(await testers[i].runs(stops)));
  }
});

after(async () => {
  if (skip) return;
  await servers?.end();
  await base?.end();
});

test(
  'each of two processes is killed while testers write: nothing acknowledged is lost, nothing is there twice',
  { skip },
  async () => {
    assert.ok(runs.length >= 2, `${runs.length} runs`);
    const until = Date.now() + 24_000;
    const killing = (async () => {
      for (let i = 0; Date.now() < until - 8_000; i++) {
        await new Promise(r => setTimeout(r, 1_500));
        await servers.kill(i % 2);
        await new Promise(r => setTimeout(r, 500));
        await servers.back(i % 2);
      }
      return true;
    })();
    const told = await writeUntil(servers.url, runs, until, 300);
    assert.ok(await killing);
    assert.deepEqual(lostOrDoubled(base, told), { lost: [], doubled: [] });
    assert.deepEqual(told.errors, []);
    assert.ok(told.took.length > 50, `${told.took.length} entries`);
  },
);

test('the database server is killed and comes back: who writes waits, and sees no error', { skip }, async () => {
  const until = Date.now() + 14_000;
  const killing = (async () => {
    await new Promise(r => setTimeout(r, 3_000));
    await base.kill();
    await new Promise(r => setTimeout(r, 2_000));
    await base.start();
  })();
  const told = await writeUntil(servers.url, runs, until, 300);
  await killing;
  assert.deepEqual(lostOrDoubled(base, told), { lost: [], doubled: [] });
  assert.deepEqual(told.errors, [], servers.said().match(/\[\S+ (ERR|FTL)\][^]{0,3000}/)?.[0]);
  assert.equal(told.broken, 0);
  const longest = Math.max(...told.took);
  assert.ok(longest > 1_000 && longest < 12_000, `the longest wait was ${longest} ms`);
});

test('who is signed out by one process is out at the other at once', { skip }, async () => {
  const [one, other] = servers.each();
  const cookie = testers[0].cookies.join('; ');
  const at = async url => (await fetch(`${url}/`, { headers: { cookie }, redirect: 'manual' })).status;
  assert.deepEqual([await at(one), await at(other)], [200, 200]);
  const page = await (await fetch(`${one}/`, { headers: { cookie } })).text();
  const token = page.match(/__RequestVerificationToken" type="hidden" value="([^"]+)"/)[1];
  const out = await fetch(`${one}/sign-out`, {
    method: 'POST',
    redirect: 'manual',
    headers: { cookie, 'content-type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams({ __RequestVerificationToken: token }),
  });
  assert.equal(out.status, 302);
  await new Promise(r => setTimeout(r, 1_000));
  assert.deepEqual([await at(one), await at(other)], [302, 302]);
});
