// Brings a file of N lines (100,000) into an empty installation, and into the database shell, and prints the ratio:
// node bench/import.mjs [LINES] (after ./mordel help). Needs sqlite3 from Debian for the comparison.
import { spawnSync } from 'node:child_process';
import { createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const lines = Number(process.argv[2] ?? 100_000);
const cli = fileURLToPath(new URL('../artifacts/bin/Mordel.Cli/release/Mordel.Cli.dll', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'mordel-import-'));
const file = join(folder, 'list.csv');
const pick = (list, i) => list[(i * 7919) % list.length];
const day = i =>
  new Date(Date.UTC(2025, 0, 1) + (i % 600) * 86_400_000).toISOString().slice(0, 10).split('-').reverse().join('/');

/** Runs a command; seconds of processor time and of the wall, and the most memory in MB. */
function timed(command, args) {
  const run = spawnSync('/usr/bin/time', ['-f', '%e %U %S %M', command, ...args], { encoding: 'utf8' });
  if (run.status !== 0) throw new Error(`${command} ${args.join(' ')}\n${run.stderr}`);
  const [wall, user, system, memory] = run.stderr.trim().split('\n').at(-1).split(' ').map(Number);
  return { wall, processor: user + system, memory: memory / 1024, said: run.stdout };
}

try {
  const out = createWriteStream(file);
  out.write(
    'Customer,Premises,Street,Quarter,Device Type,Maker,Model,Size,Serial No,Hazard,Last Test,Result,Test Due\n',
  );
  for (let i = 0; i < lines; i++) {
    const type = pick(['RPZ', 'DCVA', 'Double Check', 'PVB', 'SRVB'], i);
    const size = pick(['3/4', '1', '1-1/2', '2 inch', 'DN50'], i);
    const line = [
      `Owner ${Math.floor(i / 20)},Place ${Math.floor(i / 3)},${Math.floor(i / 3)} Long Street,Quarter ${i % 40}`,
      `${type},Corvane,Twin ${i % 9},${size},S${String(i).padStart(7, '0')}`,
      `${type === 'RPZ' ? 'High' : 'Low'},${day(i)},P,${day(i + 300)}`,
    ].join(',');
    if (!out.write(`${line}\n`)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'close');
  const shell = timed('sqlite3', [join(folder, 'shell.db'), '.mode csv', `.import ${file} t`]);
  const look = timed('dotnet', [cli, 'import', file, '--dry-run', '--data', join(folder, 'data')]);
  const take = timed('dotnet', [cli, 'import', file, '--data', join(folder, 'data')]);
  const again = timed('dotnet', [cli, 'import', file, '--dry-run', '--data', join(folder, 'data')]);
  const counts = JSON.parse(take.said);
  console.log(`${lines} lines, ${(statSync(file).size / 1e6).toFixed(1)} MB: ${counts.new} new, ${counts.wrong} wrong`);
  const say = (what, run) =>
    console.log(
      `${what.padEnd(34)} ${run.processor.toFixed(1)} s of a processor, ` +
        `${(run.processor / shell.processor).toFixed(0)} times the shell's, at most ${run.memory.toFixed(0)} MB`,
    );
  say('the database shell loads it', shell);
  say('looked at, line by line', look);
  say('looked at and taken in', take);
  say('looked at again: all as it is', again);
} finally {
  rmSync(folder, { recursive: true, force: true });
}
