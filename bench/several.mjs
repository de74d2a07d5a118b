// Two processes on a PostgreSQL server behind nginx, each dying in turn, while testers write; then the database too:
// node bench/several.mjs [TESTERS] [MINUTES] [SECONDS BETWEEN DEATHS] (after ./mordel help).
import { at } from './server.mjs';
import { atWork, database, lacking, lostOrDoubled, severalServers, writeUntil } from '../tests/EndToEnd/several.mjs';

if (lacking) {
  console.error(lacking);
  process.exit(1);
}
const [count = '100', minutes = '10', between = '10'] = process.argv.slice(2);
const base = await database();
const servers = await severalServers(base);
const pause = ms => new Promise(r => setTimeout(r, ms));

function say(what, told) {
  const { lost, doubled } = lostOrDoubled(base, told);
  console.log(
    `${what}: ${told.took.length} entries acknowledged; median ${at(told.took, 0.5).toFixed(0)} ms, ` +
      `p95 ${at(told.took, 0.95).toFixed(0)}, p99 ${at(told.took, 0.99).toFixed(0)}, ` +
      `longest ${at(told.took, 1).toFixed(0)}; ${told.errors.length} errors answered, ${told.broken} lines broken; ` +
      `${lost.length} lost, ${doubled.length} doubled`,
  );
  if (told.errors.length) console.log(`  such as ${told.errors[0]}`);
  return lost.length + doubled.length;
}

let wrong = 0;
try {
  const runs = [];
  // Stops of any day do: what is measured is the writing.
  const testers = base.ask(`SELECT "Id" FROM "AspNetUsers" WHERE "UserName" IN ('ines', 'moa', 'lev', 'odd')`);
  for (const id of testers) {
    if (runs.length >= Number(count)) break;
    const [some, any] = [
      `SELECT * FROM "Stops" WHERE "TesterId" = '${id}' LIMIT 1`,
      `SELECT "Id" FROM "Assemblies" WHERE "Type" = 'DC' AND "ReplacedOn" IS NULL LIMIT ${Math.ceil(count / 2)}`,
    ];
    base.ask(
      `INSERT INTO "Stops" SELECT (jsonb_populate_record(NULL::"Stops", to_jsonb(s) || jsonb_build_object(` +
        `'Id', gen_random_uuid(), 'Day', CURRENT_DATE + 400, 'AssemblyId', a."Id"))).* FROM (${some}) s, (${any}) a`,
    );
    const stops = base.ask(`SELECT "Id" FROM "Stops" s WHERE "TesterId" = '${id}' AND "Day" = CURRENT_DATE + 400`);
    runs.push(...(await (await atWork(servers.url, id)).runs(stops)).slice(0, Number(count) - runs.length));
  }
  console.log(`${runs.length} runs are open, an entry each three seconds`);
  wrong += say('nobody dies, 1 minute', await writeUntil(servers.url, runs, Date.now() + 60_000, 3_000));

  const until = Date.now() + Number(minutes) * 60_000;
  let deaths = 0;
  const killing = (async () => {
    for (let i = 0; Date.now() < until - Number(between) * 1_000; i++) {
      const began = Date.now();
      await servers.kill(i % 2);
      deaths++;
      await servers.back(i % 2);
      await pause(Math.max(0, Number(between) * 1_000 - (Date.now() - began)));
    }
  })();
  const told = await writeUntil(servers.url, runs, until, 3_000);
  await killing;
  wrong += say(`a process dies each ${between} s, ${minutes} minutes, ${deaths} deaths`, told);

  const end = Date.now() + 90_000;
  const database2 = (async () => {
    for (let i = 0; i < 3; i++) {
      await pause(15_000);
      await base.kill();
      await pause(3_000);
      await base.start();
    }
  })();
  const over = await writeUntil(servers.url, runs, end, 3_000);
  await database2;
  wrong += say('the database dies three times, 3 s each', over);
} finally {
  await servers.end();
  await base.end();
}
process.exit(wrong ? 1 : 0);
