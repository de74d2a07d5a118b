// How long an acknowledged entry takes while many testers work at once:
// node bench/posts.mjs DIR [TESTERS] [SECONDS] [whole], where DIR was filled by
// `dotnet run -c Release --project bench/Mordel.Bench -- fill DIR` (after ./mordel help).
// Each tester posts an entry every three seconds and asks once in four seconds whether anything is new. Their devices
// have the core at hand and want no view back, as after taking the round along; with "whole" they want it. The client
// shares the machine with the server: the wall is an upper bound, the processor's time is the server's own.
import { spawnSync } from 'node:child_process';
import { asked, at, jarOf, personas, serverOn, signIn, tokenIn } from './server.mjs';

const [data, count = '500', length = '30', whole] = asked('node bench/posts.mjs DIR [TESTERS] [SECONDS] [whole]');
const wants = whole === 'whole' ? {} : { Prefer: 'return=minimal' };
// The filled testers may sign in with a click, as the demo's personas do.
const named = spawnSync('sqlite3', [
  `${data}/mordel.db`,
  "UPDATE AspNetUsers SET DemoNote = 'bench' WHERE UserName GLOB 'tester[0-9]*';",
]);
if (named.status !== 0) throw new Error(`sqlite3: ${named.stderr}`);
const { url, processor, stop } = await serverOn(data, [
  '--Mordel:SignInsPerMinute',
  '100000',
  '--Mordel:DeliverOutbox',
  'false',
]);

async function begin(cookies, stop) {
  const page = await fetch(`${url}${stop}`, { headers: { cookie: cookies.join('; ') } });
  const jar = jarOf(page, cookies);
  const began = await fetch(`${url}${stop}`, {
    method: 'POST',
    redirect: 'manual',
    headers: { cookie: jar.join('; '), 'content-type': 'application/x-www-form-urlencoded' },
    body: new URLSearchParams({ __RequestVerificationToken: tokenIn(await page.text()) }),
  });
  const run = began.headers.get('location');
  // An RP with a kit that cannot do it: the next stop will do.
  if (!run) return null;
  const screen = await fetch(`${url}${run}`, { headers: { cookie: jar.join('; ') } });
  const text = await screen.text();
  const view = JSON.parse(text.match(/<script type="application\/json" id="view">([^]*?)<\/script>/)[1]);
  return {
    path: `/api${run}`,
    token: text.match(/data-token="([^"]+)"/)[1],
    cookie: jarOf(screen, jar).join('; '),
    step: view.now.key,
    tick: view.nextTick,
    etag: '',
  };
}

try {
  const people = personas(await (await fetch(`${url}/sign-in`)).text(), 'bench');
  const runs = [];
  for (const id of people) {
    if (runs.length >= Number(count)) break;
    const cookies = await signIn(url, () => id);
    const today = await (await fetch(`${url}/`, { headers: { cookie: cookies.join('; ') } })).text();
    for (const stop of new Set(today.match(/\/stops\/[0-9a-f-]{36}/g)?.slice(0, 6) ?? []))
      if (runs.length < Number(count)) {
        const begun = await begin(cookies, stop);
        if (begun) runs.push(begun);
      }
  }
  console.log(`${runs.length} testers have begun`);
  const [posts, looks] = [[], []];
  // The compiler settles first.
  const warm = performance.now() + 10_000;
  const until = warm + Number(length) * 1000;
  let from = 0;
  setTimeout(() => {
    from = processor();
    posts.length = looks.length = 0;
  }, 10_000);
  async function work(run) {
    await new Promise(r => setTimeout(r, Math.random() * 3000));
    for (let beat = 0; performance.now() < until; beat++) {
      const due = performance.now();
      const entry = {
        id: crypto.randomUUID(),
        tick: run.tick++,
        at: new Date().toISOString(),
        kind: 'note',
        step: run.step,
        text: `Seen ${beat}`,
      };
      const posted = await fetch(`${url}${run.path}/entries`, {
        method: 'POST',
        headers: { cookie: run.cookie, 'content-type': 'application/json', 'X-Mordel-Token': run.token, ...wants },
        body: JSON.stringify({ entries: [entry] }),
      });
      const answer = await posted.arrayBuffer();
      if (!posted.ok) throw new Error(`${posted.status} ${Buffer.from(answer)}`);
      posts.push(performance.now() - due);
      run.etag = posted.headers.get('etag');
      if (beat % 4 !== 3) {
        const asked = performance.now();
        const view = await fetch(`${url}${run.path}/view`, {
          headers: { cookie: run.cookie, 'if-none-match': run.etag, ...wants },
        });
        await view.arrayBuffer();
        if (view.status !== 304) throw new Error(`${view.status}: nothing is new, and it says otherwise`);
        looks.push(performance.now() - asked);
      }
      await new Promise(r => setTimeout(r, Math.max(0, 3000 - (performance.now() - due))));
    }
  }
  await Promise.all(runs.map(work));
  const used = processor() - from;
  const say = (what, times) =>
    console.log(
      `${what}: ${times.length}; median ${at(times, 0.5).toFixed(1)} p95 ${at(times, 0.95).toFixed(1)} ` +
        `p99 ${at(times, 0.99).toFixed(1)} max ${at(times, 1).toFixed(1)} ms`,
    );
  say('acknowledged entries', posts);
  say('"nothing new"', looks);
  console.log(
    `the server used ${(used / 10 / Number(length)).toFixed(0)} % of a processor: ` +
      `${(used / posts.length).toFixed(1)} ms for each entry with the looks beside it`,
  );
} finally {
  await stop();
}
process.exit(0);
