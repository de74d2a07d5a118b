// Asks the feeds of advisories about all that is built with and shipped: node tools/audit.mjs
// Ends with 0 when nothing grave is known, or a feed does not answer, which is said; with 1 when something grave is.
import { spawnSync } from 'node:child_process';

const root = new URL('../', import.meta.url).pathname;
const ask = (command, args) => {
  const done = spawnSync(command, args, { cwd: root, encoding: 'utf8', timeout: 120_000, maxBuffer: 1 << 26 });
  try {
    return JSON.parse(done.stdout);
  } catch {
    return null;
  }
};
const isGrave = severity => /^(high|critical)$/i.test(severity);
const grave = [];

const npm = ask('npm', ['audit', '--json']);
if (npm?.metadata?.vulnerabilities) {
  console.log(`npm: ${JSON.stringify(npm.metadata.vulnerabilities)}`);
  for (const [name, { severity }] of Object.entries(npm.vulnerabilities))
    if (isGrave(severity)) grave.push(`npm ${name}: ${severity}`);
} else console.log('npm: its feed of advisories does not answer here');

// A source that has no advisories says of every package that nothing is known.
const sources = spawnSync('dotnet', ['nuget', 'list', 'source', '--format', 'short'], { encoding: 'utf8' }).stdout;
const indexes = await Promise.all(
  [...sources.matchAll(/https:\S+/g)].map(([url]) =>
    fetch(url, { signal: AbortSignal.timeout(10_000) })
      .then(answer => answer.text())
      .catch(() => ''),
  ),
);
if (indexes.some(text => text.includes('VulnerabilityInfo'))) {
  const nuget = ask('dotnet', [
    'list',
    'Mordel.slnx',
    'package',
    '--vulnerable',
    '--include-transitive',
    '--format',
    'json',
  ]);
  const found = (nuget?.projects ?? [])
    .flatMap(p => p.frameworks ?? [])
    .flatMap(f => [...(f.topLevelPackages ?? []), ...(f.transitivePackages ?? [])])
    .flatMap(p => (p.vulnerabilities ?? []).map(v => `NuGet ${p.id} ${p.resolvedVersion}: ${v.severity}`));
  console.log(nuget ? `NuGet: ${found.length} known` : 'NuGet: could not be asked');
  grave.push(...new Set(found.filter(f => isGrave(f.split(': ')[1]))));
} else console.log('NuGet: its feed of advisories does not answer here');

for (const one of grave) console.log(one);
process.exit(grave.length ? 1 : 0);
