// What is shipped of the library of styles is what pages use, and nothing that they use is missing.
import assert from 'node:assert/strict';
import { readdirSync, readFileSync } from 'node:fs';
import { test } from 'node:test';
import { fileURLToPath } from 'node:url';
import { allClasses, only } from '../../tools/styles.mjs';

const root = fileURLToPath(new URL('../../', import.meta.url));
const whole = readFileSync(`${root}node_modules/bootstrap/dist/css/bootstrap.min.css`, 'utf8');
const shipped = readFileSync(`${root}src/Mordel.Web/wwwroot/lib/bootstrap.min.css`, 'utf8');

test('no page names a class of the library that is not shipped', () => {
  const files = readdirSync(`${root}src/Mordel.Web`, { recursive: true })
    .filter(f => /\.(cshtml|cs|js)$/.test(f) && !f.includes('lib/'))
    .map(f => readFileSync(`${root}src/Mordel.Web/${f}`, 'utf8'));
  const named = new Set(
    files.flatMap(text => [...text.matchAll(/class(?:Name)?="([^"]*)"/g)].flatMap(m => m[1].match(/[\w-]+/g) ?? [])),
  );
  // A row of a table is no class of ours.
  named.delete('row');
  const [all, here] = [allClasses(whole), allClasses(shipped)];
  assert.ok(all.size > 1000 && here.size < 20, `${here.size} of ${all.size}`);
  assert.deepEqual(
    [...named].filter(c => all.has(c) && !here.has(c)),
    [],
    'name it in tools/vendor.mjs and run it',
  );
});

test('what is kept of a file of styles is the rules for elements and those for the classes named, with what they ask for', () => {
  const css =
    '@charset "UTF-8";/*! L */:root{--a:1;--b:var(--c);--c:2;--d:3}[data-bs-theme=dark]{--b:9}p,.x p{margin:var(--b)}' +
    '.y:not(.x,.z){top:0}.btn,.z{left:0}@media (min-width:1px){.x{top:1px}.btn:hover{top:2px}}@keyframes k{to{top:0}}';
  assert.equal(
    only(css, ['btn']),
    ':root{--b:var(--c);--c:2;}p{margin:var(--b)}.btn{left:0}@media (min-width:1px){.btn:hover{top:2px}}',
  );
});
