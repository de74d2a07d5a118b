// How lists and sizes grow, in a file and on a PostgreSQL server: node bench/scale.mjs [RUNS …], after ./mordel help
// and dotnet build bench/Mordel.Bench -c Release. Each size is filled into a file, read there, moved to a server of its
// own and read there. Writes docs/plots/scale.svg.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { database } from '../tests/EndToEnd/several.mjs';
import { mordel } from '../tests/EndToEnd/browser.mjs';

const sizes = process.argv.slice(2).map(Number);
if (!sizes.length) sizes.push(10_000, 30_000, 100_000);
const root = new URL('../', import.meta.url).pathname;

function bench(args, store) {
  const said = spawnSync(
    'dotnet',
    ['run', '-c', 'Release', '--no-build', '--project', join(root, 'bench/Mordel.Bench'), '--', ...args],
    { encoding: 'utf8', cwd: root, maxBuffer: 1 << 26, env: { ...process.env, MORDEL_STORE: store ?? '' } },
  );
  if (said.status !== 0) throw new Error(said.stderr + said.stdout);
  return said.stdout;
}

// "register: kitchen   median 12.3 ms, …; 8 questions of 3.1 ms; p95 of eight at once 40.0, of 64 300.0"
const rows = text =>
  [
    ...text.matchAll(
      new RegExp(
        '^(.+?) +median +([\\d.]+) ms.*?; +(\\d+) questions of +([\\d.]+) ms; ' +
          'p95 of eight at once +([\\d.]+), of 64 +([\\d.]+)',
        'gm',
      ),
    ),
  ].map(([, what, median, , sql, eight, many]) => ({ what, median: +median, sql: +sql, eight: +eight, many: +many }));

const found = [];
for (const runs of sizes) {
  const data = mkdtempSync(join(tmpdir(), 'mordel-scale-'));
  const base = await database();
  try {
    const began = Date.now();
    bench(['fill', data, '--assemblies', String(runs / 10), '--runs', String(runs), '--testers', '60']);
    const filled = Date.now();
    const file = rows(bench(['store', data]));
    const moving = Date.now();
    const moved = mordel(['move', '--from', `sqlite:${data}`, '--to', base.store, '--data', data]);
    if (moved.status !== 0) throw new Error(moved.stderr + moved.stdout);
    const there = Date.now();
    base.ask('VACUUM ANALYZE');
    const server = rows(bench(['store', data], base.store));
    const bytes = {
      file: statSync(join(data, 'mordel.db')).size,
      server: Number(base.ask('SELECT pg_database_size(current_database())')[0]),
    };
    found.push({ runs, file, server, bytes });
    console.log(
      `${runs} runs: filled in ${((filled - began) / 1000).toFixed(0)} s, moved, compared and checked in ` +
        `${((there - moving) / 1000).toFixed(0)} s; a run takes ` +
        `${(bytes.file / runs / 1000).toFixed(2)} KB in the file, ` +
        `${(bytes.server / runs / 1000).toFixed(2)} KB on the server`,
    );
    const f = n => n.toFixed(1).padStart(8);
    console.log(
      `  ${''.padEnd(34)}    file: median   of SQL  8 at once       64 | server: median   of SQL  8 at once       64`,
    );
    for (const [i, a] of file.entries()) {
      const b = server[i];
      console.log(
        `  ${a.what.padEnd(34)} ${f(a.median)}       ${f(a.sql)} ${f(a.eight)} ${f(a.many)} | ` +
          `${f(b.median)}       ${f(b.sql)} ${f(b.eight)} ${f(b.many)}`,
      );
    }
  } finally {
    await base.end();
    rmSync(data, { recursive: true, force: true });
  }
}

// Milliseconds over runs, both by tens.
const shown = ['register: ', 'register: kitchen', 'due, the year', 'standing', 'passport', 'runs, the desk'];
const [w, h, left, top] = [760, 420, 70, 30];
const most = Math.max(...found.flatMap(s => [...s.file, ...s.server]).map(r => r.median));
const [x0, x1] = [Math.log10(Math.min(...sizes)), Math.log10(Math.max(...sizes)) || 1];
const y1 = Math.ceil(Math.log10(most));
const x = n => left + ((Math.log10(n) - x0) / Math.max(0.001, x1 - x0)) * (w - left - 200);
const y = ms => top + ((y1 - Math.log10(Math.max(0.1, ms))) / (y1 + 1)) * (h - top - 60);
const line = (pick, dash) =>
  shown
    .map(what => {
      const points = found.flatMap(s => {
        const row = s[pick].find(r => r.what.trim() === what.trim());
        return row ? [`${x(s.runs).toFixed(1)},${y(row.median).toFixed(1)}`] : [];
      });
      const last = points.at(-1)?.split(',') ?? [0, 0];
      const name = pick === 'file' ? `<text x="${+last[0] + 8}" y="${+last[1] + 4}">${what || 'register'}</text>` : '';
      const how = `fill="none" stroke="currentColor" stroke-width="1.5"${dash}`;
      return `<polyline points="${points.join(' ')}" ${how}/>${name}`;
    })
    .join('\n');
const axis = [];
for (let p = -1; p <= y1; p++)
  axis.push(
    `<path d="M${left} ${y(10 ** p).toFixed(1)}H${w - 200}" stroke="currentColor" opacity=".15"/>` +
      `<text x="${left - 8}" y="${(y(10 ** p) + 4).toFixed(1)}" text-anchor="end">${10 ** p} ms</text>`,
  );
for (const n of sizes)
  axis.push(`<text x="${x(n).toFixed(1)}" y="${h - 34}" text-anchor="middle">${n.toLocaleString('en')}</text>`);
writeFileSync(
  join(root, 'docs/plots/scale.svg'),
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${w} ${h}"
  font-family="sans-serif" font-size="12" color="#1d2b2a">
<rect width="${w}" height="${h}" fill="#faf8f3"/>
<title>Median of a list over signed runs: whole lines in a file, dashed on a server</title>
${axis.join('\n')}
${line('file', '')}
${line('server', ' stroke-dasharray="5 4"')}
<text x="${(left + w - 200) / 2}" y="${h - 12}" text-anchor="middle">
signed runs; whole: in a file, dashed: on a server</text>
</svg>
`,
);
