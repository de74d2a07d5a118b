// How long pages and searches take on a large installation: node bench/pages.mjs DIR, where DIR was made by
// `dotnet run -c Release --project bench/Mordel.Bench -- fill DIR` (after ./mordel help has built).
// The wall is shared with whatever else the machine does; the processor's time is the server's own.
import { asked, at, personas, serverOn, signIn } from './server.mjs';

const [data] = asked('node bench/pages.mjs DIR');
const alone = 30,
  together = 8;
const began = performance.now();
const { url, processor, stop } = await serverOn(data);
console.log(`started with this data in ${((performance.now() - began) / 1000).toFixed(1)} s`);

const cookies = async name => (await signIn(url, text => personas(text, name)[0])).join('; ');

let over = 0;

async function time(what, path, cookie) {
  const ask = async () => {
    const from = performance.now();
    const answer = await fetch(`${url}${path}`, { headers: { cookie } });
    const { byteLength } = await answer.arrayBuffer();
    if (!answer.ok) throw new Error(`${path}: ${answer.status}`);
    return [performance.now() - from, byteLength];
  };
  for (let i = 0; i < 5; i++) await ask();
  const cpu = processor();
  const times = [];
  let bytes = 0;
  for (let i = 0; i < alone; i++) {
    const [ms, size] = await ask();
    times.push(ms);
    bytes = size;
  }
  const work = (processor() - cpu) / alone;
  const many = [];
  for (let i = 0; i < 5; i++)
    many.push(...(await Promise.all(Array.from({ length: together }, ask))).map(([ms]) => ms));
  const [p95, p95of8] = [at(times, 0.95), at(many, 0.95)];
  if (p95 > 50 || p95of8 > 150) over++;
  const f = (n, d = 0) => n.toFixed(d).padStart(6);
  console.log(
    `${what.padEnd(34)} median ${f(at(times, 0.5), 1)} p95 ${f(p95, 1)} ms; with eight p95 ${f(p95of8, 1)} ms; ` +
      `processor ${f(work, 1)} ms; ${f(bytes / 1000)} KB`,
  );
}

try {
  const [office, owner, tester, teacher] = [
    await cookies('Wilma Quent'),
    await cookies('Hester Fenn'),
    await cookies('Ines Tarrow'),
    await cookies('Tove Maring'),
  ];
  const first = await (await fetch(`${url}/register?q=L-150000`, { headers: { cookie: office } })).text();
  const passport = first.match(/\/register\/[0-9a-f-]{36}/)[0];
  const serial = first.match(/class="num">([A-Z]\d{7})</)[1];
  const report = (await (await fetch(`${url}${passport}`, { headers: { cookie: office } })).text()).match(
    /\/reports\/[0-9a-f-]{36}/,
  )[0];
  const group = (await (await fetch(`${url}/classes`, { headers: { cookie: teacher } })).text()).match(
    /\/bench\/classes\/[0-9a-f-]{36}/,
  )[0];
  await time('Today of the office', '/', office);
  await time('Today of a tester', '/', tester);
  await time('Register', '/register', office);
  await time('search: exact serial', `/register?q=${serial}`, office);
  await time('search: part of a serial', `/register?q=${serial.slice(3)}`, office);
  await time('search: a common word', '/register?q=kitchen', office);
  await time('search: three words', '/register?q=bakery+weir+laundry', office);
  await time('search: two letters', '/register?q=ba', office);
  await time('search: a word and two letters', '/register?q=kitchen+ba', office);
  await time('search: no hit', '/register?q=zeppelin', office);
  await time('search: far page', '/register?q=kitchen&after=L-190000', office);
  await time('register of a type, by what is due', '/register?type=RP&order=Due', office);
  await time('register of a district with a word', '/register?district=Millrace&q=kitchen', office);
  await time('register: failed last', '/register?outcome=fail&hazard=high', office);
  await time('map', '/register/map', office);
  await time('Due', '/due', office);
  await time('Standing', '/standing?by=make&years=3', office);
  await time('Due to an authority, a type', '/due?type=DC&show=overdue', office);
  await time('passport', passport, office);
  await time('report', report, office);
  await time('Rules', '/rules', owner);
  await time('Kits & people', '/kits-and-people', owner);
  await time('Outbox', '/outbox', office);
  await time('class', group, teacher);
  await time('API: runs, the desk', '/api/runs', office);
  await time('API: open runs, the desk', '/api/runs?open=true', office);
  await time('API: runs, a tester', '/api/runs', tester);
  console.log(
    over === 0 ? 'all within 50 ms alone and 150 ms with eight' : `${over} beyond 50 ms alone or 150 ms with eight`,
  );
} finally {
  await stop();
}
process.exit(over === 0 ? 0 : 1);
