// Copies the front-end libraries that the application ships from node_modules into wwwroot/lib and records their
// versions.
// Run it after changing a version in package.json: npm ci && node tools/vendor.mjs
import { cpSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { brotliCompressSync } from 'node:zlib';
import { only } from './styles.mjs';

const lib = new URL('../src/Mordel.Web/wwwroot/lib/', import.meta.url);
const modules = new URL('../node_modules/', import.meta.url);
const files = {
  'bootstrap.min.css': 'bootstrap/dist/css/bootstrap.min.css',
  'alpine.esm.min.js': '@alpinejs/csp/dist/module.esm.min.js',
  'idb.js': 'idb/build/index.js',
  'signature_pad.min.js': 'signature_pad/dist/signature_pad.min.js',
  'fonts/next-400.woff2':
    '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff2',
  'fonts/next-700.woff2':
    '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff2',
  'fonts/mono-500.woff2':
    '@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-500-normal.woff2',
};
mkdirSync(new URL('fonts/', lib), { recursive: true });
// The classes that pages name; a test finds one that is missing here.
const styles = ['btn', 'btn-primary', 'form-control', 'form-select', 'visually-hidden', 'active', 'disabled', 'show'];
const versions = {};
for (const [to, from] of Object.entries(files)) {
  const name = from.startsWith('@') ? from.split('/').slice(0, 2).join('/') : from.split('/')[0];
  versions[name] = JSON.parse(readFileSync(new URL(`${name}/package.json`, modules))).version;
  if (/\.(css|js)$/.test(to)) {
    // Source maps are not shipped, so nothing may point to them.
    const text = readFileSync(new URL(from, modules), 'utf8').replace(/\n?(\/\*|\/\/)# sourceMappingURL=.*$/m, '\n');
    const licence = text.match(/\/\*![^]*?\*\//)?.[0];
    writeFileSync(new URL(to, lib), to.endsWith('.css') ? `${licence}\n${only(text, styles)}\n` : text);
  } else cpSync(new URL(from, modules), new URL(to, lib));
}
writeFileSync(new URL('versions.json', lib), JSON.stringify(versions, null, 2) + '\n');

// What is known of passwords that were stolen elsewhere: those that a longer one may be made of.
const leaked = '@zxcvbn-ts/language-common';
const passwords = JSON.parse(readFileSync(new URL(`${leaked}/src/passwords.json`, modules), 'utf8'))
  .filter(word => word.length >= 6)
  .sort();
writeFileSync(
  new URL('../src/Mordel.Data/Accounts/leaked-passwords.txt.br', import.meta.url),
  brotliCompressSync(passwords.join('\n')),
);
