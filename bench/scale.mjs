// How lists, imports, signatures and sizes grow, in a file and on a PostgreSQL server, after ./mordel help and dotnet
// build bench/Mordel.Bench -c Release:
//   node bench/scale.mjs [RUNS …]            fills each size, reads it, moves it to a server of its own, reads it there
//   node bench/scale.mjs --filled DIR STORE  the same of what has been filled and moved already
//   node bench/scale.mjs --drawn             nothing is measured, what is known is drawn again
// What was found is kept in docs/plots/scale.json by size, and all sizes in it are drawn in docs/plots/scale.svg.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { database } from '../tests/EndToEnd/several.mjs';

const root = new URL('../', import.meta.url).pathname;
const kept = join(root, 'docs/plots/scale.json');
const found = existsSync(kept) ? JSON.parse(readFileSync(kept, 'utf8')) : {};
const args = process.argv.slice(2);
const lines = 2_000;

function run(what, args, store, input) {
  const said = spawnSync('dotnet', [join(root, `artifacts/bin/${what}/release/${what}.dll`), ...args], {
    encoding: 'utf8',
    cwd: root,
    input,
    maxBuffer: 1 << 26,
    env: { ...process.env, MORDEL_STORE: store ?? '', MORDEL_ATLASES: join(root, 'src/Mordel.Core/Diagnosis/Atlases') },
  });
  if (said.status !== 0) throw new Error(`${what} ${args.join(' ')}\n${said.stderr}${said.stdout}`);
  return said.stdout;
}
const bench = (args, store) => run('Mordel.Bench', args, store);
const seconds = from => (Date.now() - from) / 1000;

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

/** Signatures one by one and eight at once, and a list of assemblies taken in; milliseconds, and seconds. */
function written(data, store, name) {
  const said = bench(['seal', data], store);
  const one = what => {
    const [, median, p95] = said.match(new RegExp(`${what} +median +([\\d.]+) ms, p95 +([\\d.]+)`));
    return { median: +median, p95: +p95 };
  };
  const file = join(mkdtempSync(join(tmpdir(), 'mordel-list-')), 'list.csv');
  const line = i =>
    `Owner ${name} ${i >> 4},Yard ${name} ${i >> 1},${i >> 1} Long Ditch,Quarter ${i % 40},DCVA,Corvane,Twin 40,1,` +
    `S${name}${i},Low,${1 + (i % 27)}/03/2026,P`;
  writeFileSync(
    file,
    'Customer,Premises,Street,Quarter,Device Type,Maker,Model,Size,Serial No,Hazard,Last Test,Result\n' +
      Array.from({ length: lines }, (_, i) => line(i)).join('\n'),
  );
  const from = Date.now();
  run('Mordel.Cli', ['import', file, '--data', data], store);
  return {
    log: one('a whole log taken in'),
    seal: one('signed and sealed, one by one'),
    together: one('signed and sealed, eight at once'),
    import: seconds(from),
  };
}

function measured(data, store, ask) {
  ask('VACUUM ANALYZE');
  const runs = Number(ask('SELECT COUNT(*) FROM "Runs" WHERE "SignedAt" IS NOT NULL')[0]);
  const bytes = {
    file: statSync(join(data, 'mordel.db')).size,
    server: Number(ask('SELECT pg_database_size(current_database())')[0]),
  };
  const name = Date.now().toString(36);
  const [file, server] = [rows(bench(['store', data])), rows(bench(['store', data], store))];
  const [inFile, onServer] = [written(data, '', `f${name}`), written(data, store, `s${name}`)];
  return { runs, bytes, file, server, written: { file: inFile, server: onServer } };
}

function print(one) {
  const f = (n, digits = 1) => n.toFixed(digits).padStart(7);
  console.log(
    `${one.runs} runs` +
      (one.filled ? `: filled in ${one.filled} s, moved, compared and checked in ${one.moved} s; ` : '; ') +
      `a run takes ${(one.bytes.file / one.runs / 1000).toFixed(2)} KB in the file, ` +
      `${(one.bytes.server / one.runs / 1000).toFixed(2)} KB on the server`,
  );
  const head = ' median  of SQL  times 8 at once     64';
  console.log(`  ${''.padEnd(34)} file:${head.slice(5)} | server:${head.slice(7)}`);
  const half = a => `${f(a.median)} ${f(a.sql)} ${f(a.median / a.sql, 0).slice(2)}  ${f(a.eight)} ${f(a.many)}`;
  for (const [i, a] of one.file.entries()) console.log(`  ${a.what.padEnd(34)} ${half(a)} | ${half(one.server[i])}`);
  for (const [what, w] of Object.entries(one.written))
    console.log(
      `  ${what.padEnd(6)} a log of a whole test taken in ${w.log.median} ms; signed one by one ${w.seal.median}, ` +
        `p95 ${w.seal.p95}, eight at once ${w.together.median}, p95 ${w.together.p95}; ` +
        `${lines} lines brought in ${w.import.toFixed(1)} s`,
    );
}

if (args[0] === '--drawn') {
  // What has been found is drawn again.
} else if (args[0] === '--filled') {
  const [, data, store] = args;
  const pg = Object.fromEntries(
    store
      .slice('postgres:'.length)
      .split(';')
      .map(p => p.split('=')),
  );
  const ask = sql => {
    const at = ['-h', pg.Host, '-p', pg.Port ?? '5432', '-U', pg.Username, '-d', pg.Database];
    const said = spawnSync('psql', [...at, '-Atc', sql], { encoding: 'utf8' });
    if (said.status !== 0) throw new Error(said.stderr);
    return said.stdout.trim().split('\n');
  };
  const one = measured(data, store, ask);
  found[Math.round(one.runs / 1000) * 1000] = one;
  print(one);
} else
  for (const runs of args.length ? args.map(Number) : [10_000, 100_000]) {
    const data = mkdtempSync(join(tmpdir(), 'mordel-scale-'));
    const base = await database();
    try {
      const began = Date.now();
      bench(['fill', data, '--assemblies', String(runs / 10), '--runs', String(runs), '--testers', '60']);
      const filled = Math.round(seconds(began));
      const moving = Date.now();
      run('Mordel.Cli', ['move', '--from', `sqlite:${data}`, '--to', base.store, '--data', data]);
      const moved = Math.round(seconds(moving));
      const one = { ...measured(data, base.store, base.ask), filled, moved };
      found[runs] = one;
      print(one);
    } finally {
      await base.end();
      rmSync(data, { recursive: true, force: true });
    }
  }
writeFileSync(kept, `${JSON.stringify(found, null, 1)}\n`);

// A small picture for each, over the runs by tens: milliseconds by tens, and kilobytes.
const sizes = Object.keys(found)
  .map(Number)
  .sort((a, b) => a - b);
const list = what => (one, which) => one[which].find(r => r.what.trim() === what)?.median;
const shown = [
  ['register, ms', list('register:')],
  ['a common word, ms', list('register: kitchen')],
  ['what is due, ms', list('due, the year')],
  ['a passport, ms', list('passport')],
  ['runs at the desk, ms', list('runs, the desk')],
  ['Today of the office, ms', list('Today of the office')],
  ['a signature, ms', (one, which) => one.written[which].seal.median],
  ['a run, KB', (one, which) => one.bytes[which] / one.runs / 1000],
];
const [w, h, across, pad] = [230, 170, 4, 42];
const x = i => pad + (i / Math.max(1, sizes.length - 1)) * (w - pad - 26);
const panel = ([title, pick], n) => {
  const bytes = title.endsWith('KB');
  // Milliseconds from 1 to 1,000, kilobytes from 0 to 10.
  const y = v => h - 34 - (bytes ? v / 10 : Math.log10(Math.max(1, v)) / 3) * (h - 34 - 28);
  const line = (which, dash) => {
    const points = sizes.map((s, i) => [x(i), y(pick(found[s], which) ?? 1)].map(v => v.toFixed(1)).join(','));
    return `<polyline points="${points.join(' ')}" fill="none" stroke="currentColor" stroke-width="1.6"${dash}/>`;
  };
  const grid = (bytes ? [0, 5, 10] : [1, 10, 100, 1000]).map(
    v =>
      `<path d="M${pad} ${y(v).toFixed(1)}H${w - 20}" stroke="currentColor" opacity=".15"/>` +
      `<text x="${pad - 6}" y="${(y(v) + 4).toFixed(1)}" text-anchor="end">${v.toLocaleString('en')}</text>`,
  );
  const short = s => (s >= 1e6 ? `${s / 1e6} M` : `${s / 1e3} k`);
  const under = sizes.map(
    (s, i) => `<text x="${x(i).toFixed(1)}" y="${h - 16}" text-anchor="middle">${short(s)}</text>`,
  );
  return `<g transform="translate(${(n % across) * w},${Math.floor(n / across) * h})">
<text x="${pad}" y="16" font-weight="bold">${title}</text>
${[...grid, ...under, line('file', ''), line('server', ' stroke-dasharray="5 4"')].join('\n')}
</g>`;
};
const tall = Math.ceil(shown.length / across) * h + 24;
writeFileSync(
  join(root, 'docs/plots/scale.svg'),
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${across * w} ${tall}"
  font-family="sans-serif" font-size="11" color="#1d2b2a">
<rect width="${across * w}" height="${tall}" fill="#faf8f3"/>
<title>Medians over signed runs: whole lines in a file, dashed on a server</title>
${shown.map(panel).join('\n')}
<text x="${pad}" y="${tall - 8}">over signed runs; whole lines: in a file, dashed: on a server</text>
</svg>
`,
);
