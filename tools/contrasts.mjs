// Measures the palette's contrasts from the tokens themselves (WCAG 2.2, relative luminance) and prints the table of
// docs/look.md.
import { readFileSync } from 'node:fs';

const css = readFileSync(new URL('../src/Mordel.Web/wwwroot/css/tokens.css', import.meta.url), 'utf8');
const block = start =>
  Object.fromEntries(
    [
      ...css
        .slice(css.indexOf(start))
        .split('}')[0]
        .matchAll(/--([a-z-]+): (#[0-9a-f]{6})/g),
    ].map(m => [m[1], m[2]]),
  );
const themes = { light: block(':root {'), dark: block(':root[data-theme="dark"]') };
const light = hex =>
  [1, 3, 5]
    .map(i => parseInt(hex.slice(i, i + 2), 16) / 255)
    .map(c => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4))
    .reduce((sum, c, i) => sum + c * [0.2126, 0.7152, 0.0722][i], 0);
const contrast = (a, b) => {
  const [x, y] = [light(a), light(b)].sort((p, q) => q - p);
  return (x + 0.05) / (y + 0.05);
};
const pairs = [
  ['ink', 'paper', 7, 'text'],
  ['ink', 'sheet', 7, 'readings'],
  ['soft', 'paper', 4.5, 'second-rank text'],
  ['soft', 'sheet', 4.5, 'second-rank text on the slate'],
  ['act', 'paper', 4.5, 'links, pass'],
  ['act-ink', 'act', 4.5, 'words on buttons'],
  ['ink', 'act-tint', 7, 'the step at hand'],
  ['soft', 'act-tint', 4.5, 'its second rank'],
  ['brass', 'paper', 4.5, 'attention in words'],
  ['ink', 'brass-fill', 7, 'marks, warnings'],
  ['fail', 'paper', 4.5, 'fail'],
  ['fail', 'sheet', 4.5, 'fail on the slate'],
  ['ink', 'fail-tint', 7, 'errors'],
  ['ink', 'live', 3, 'walls against water'],
  ['ink', 'held', 3, ''],
  ['ink', 'open', 3, ''],
  ['live', 'held', 0, 'depths of water, told apart by words too'],
  ['held', 'open', 0, ''],
];
let missed = 0;
console.log('| ink on ground | for | asked | light | dark |\n| --- | --- | --- | --- | --- |');
for (const [a, b, least, use] of pairs) {
  const [l, d] = ['light', 'dark'].map(t => contrast(themes[t][a], themes[t][b]));
  missed += l < least || d < least ? 1 : 0;
  console.log(`| ${a} on ${b} | ${use} | ${least || '–'} | ${l.toFixed(1)} | ${d.toFixed(1)} |`);
}
if (missed) {
  console.error(`${missed} pairs fall short`);
  process.exitCode = 1;
}
