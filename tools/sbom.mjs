// Lists what a packed folder is made of: sbom.cdx.json (CycloneDX 1.5) for programs, THIRD-PARTY.txt with the licences
// for people. Read from what was built, so that nothing is listed that does not ship.
//   node tools/sbom.mjs FOLDER VERSION
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { join } from 'node:path';

const [folder, version] = process.argv.slice(2);
if (!folder || !version) throw new Error('node tools/sbom.mjs FOLDER VERSION');
const root = new URL('../', import.meta.url).pathname;
const packages = process.env.NUGET_PACKAGES ?? join(homedir(), '.nuget/packages');
const json = path => JSON.parse(readFileSync(path, 'utf8'));

// The licence as an expression, where its package says one, and its text, where that is in the package.
const textIn = at => {
  const file = existsSync(at) ? readdirSync(at).find(f => /^(licen[cs]e|copying)(\.|$)/i.test(f)) : undefined;
  return file ? readFileSync(join(at, file), 'utf8').trim() : '';
};
const nuget = (name, version) => {
  const at = join(packages, name.toLowerCase(), version.toLowerCase());
  const spec = existsSync(at) ? readdirSync(at).find(f => f.endsWith('.nuspec')) : undefined;
  const says = spec ? readFileSync(join(at, spec), 'utf8') : '';
  const expression = says.match(/<license type="expression">([^<]+)</)?.[1];
  const address = says.match(/<licenseUrl>([^<]+)</)?.[1];
  return { licence: expression ?? address ?? 'not said', text: textIn(at) };
};
const npm = name => {
  const at = join(root, 'node_modules', name);
  return existsSync(at) ? { licence: json(join(at, 'package.json')).license, text: textIn(at) } : undefined;
};

const parts = new Map();
for (const deps of ['Mordel.Web.deps.json', 'Mordel.Cli.deps.json'])
  for (const [key, library] of Object.entries(json(join(folder, 'app', deps)).libraries)) {
    const [name, version] = key.split('/');
    // Of what is built for each system, only what this folder is for.
    if (/\.runtime\./i.test(name) && !folder.endsWith(name.split('.').at(-1))) continue;
    if (library.type !== 'package' || parts.has(`nuget ${name}`)) continue;
    const sha512 = library.sha512?.startsWith('sha512-')
      ? Buffer.from(library.sha512.slice(7), 'base64').toString('hex')
      : undefined;
    parts.set(`nuget ${name}`, {
      name,
      version,
      purl: `pkg:nuget/${name}@${version}`,
      sha512,
      ...nuget(name, version),
    });
  }
const lib = join(root, 'src/Mordel.Web/wwwroot/lib');
const front = { ...json(join(lib, 'versions.json')) };
for (const name of ['@zxcvbn-ts/language-common']) front[name] = json(join(root, 'package.json')).devDependencies[name];
for (const [name, version] of Object.entries(front))
  parts.set(`npm ${name}`, {
    name,
    version,
    purl: `pkg:npm/${name.replace('@', '%40')}@${version}`,
    ...(npm(name) ?? { licence: 'not said', text: '' }),
  });
for (const name of ['Microsoft.NETCore.App', 'Microsoft.AspNetCore.App']) {
  const version = readdirSync(join(folder, 'dotnet/shared', name))[0];
  const text = readFileSync(join(folder, 'dotnet/LICENSE.txt'), 'utf8').trim();
  parts.set(`runtime ${name}`, { name, version, purl: `pkg:generic/${name}@${version}`, licence: 'MIT', text });
}

const fonts = join(root, 'src/Mordel.Documents/Fonts');
parts.set('font of reports', {
  name: 'Atkinson Hyperlegible',
  version: 'as shipped',
  purl: 'pkg:generic/atkinson-hyperlegible',
  licence: 'OFL-1.1',
  text: textIn(fonts),
});

const all = [...parts.values()].sort((a, b) => a.name.localeCompare(b.name));
const spdx = /^[A-Za-z0-9.+-]+( (AND|OR|WITH) [A-Za-z0-9.+-]+)*$/;
const component = ({ name, version, purl, licence, sha512 }) => ({
  type: 'library',
  'bom-ref': purl,
  name,
  version,
  purl,
  licenses: [
    spdx.test(licence)
      ? { expression: licence }
      : { license: licence.startsWith('http') ? { name: 'see url', url: licence } : { name: licence } },
  ],
  ...(sha512 ? { hashes: [{ alg: 'SHA-512', content: sha512 }] } : {}),
});
const hash = createHash('sha256')
  .update(all.map(p => p.purl).join('\n'))
  .digest('hex');
const uuid = [
  hash.slice(0, 8),
  hash.slice(8, 12),
  `4${hash.slice(13, 16)}`,
  `8${hash.slice(17, 20)}`,
  hash.slice(20, 32),
].join('-');
const bom = {
  bomFormat: 'CycloneDX',
  specVersion: '1.5',
  serialNumber: `urn:uuid:${uuid}`,
  version: 1,
  metadata: { component: { type: 'application', 'bom-ref': 'mordel', name: 'mordel', version } },
  components: all.map(component),
  dependencies: [{ ref: 'mordel', dependsOn: all.map(p => p.purl) }],
};
writeFileSync(join(folder, 'sbom.cdx.json'), JSON.stringify(bom, null, 1) + '\n');

// A text that many share stands once.
const texts = new Map();
for (const part of all) if (part.text) texts.set(part.text, [...(texts.get(part.text) ?? []), part.name]);
writeFileSync(
  join(folder, 'THIRD-PARTY.txt'),
  [
    'What ships with Mordel, and under which licence. The texts follow where their packages bring one.',
    '',
    ...all.map(p => `${p.name} ${p.version}: ${p.licence}`),
    ...[...texts].flatMap(([text, names]) => ['', '='.repeat(80), names.join(', '), '='.repeat(80), '', text]),
    '',
  ].join('\n'),
);
