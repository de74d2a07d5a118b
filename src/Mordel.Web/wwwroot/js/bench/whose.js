// Whose water it is: this browser's, or the server's until that is here; and what is played to come to a moment.
import { started } from '../core.js';
import { Away } from './away.js';
import { Desk } from './desk.js';

/** What is said where this browser can have none. */
export const noWater =
  'The bench computes its water in this browser, and WebAssembly did not start here. Another browser will do; ' +
  '“See a test done” on the bench’s page lets the server perform one instead.';

/**
 * Whoever can move the water first: the door to this browser's own, or who stands in for it. The runtime's start holds
 * the page, and on a slow line its files hold all else: so what the server says is heard before it, if it comes soon.
 */
export async function first(load, asked) {
  const own = () => load().then(door => ({ door }));
  const soon = (ms = 0) => new Promise(done => setTimeout(done, ms));
  const already = started() && (await Promise.race([own(), soon()]));
  if (already) return already;
  const away = new Away(asked);
  const begins = away.begin();
  await Promise.race([begins, soon(1500)]);
  const found = await Promise.race([begins.then(there => (there ? { away } : own())), own()]);
  if (!found.away) away.end();
  return found;
}

/**
 * Lets a recording run to its end: up to the next word to the sheet, or a piece of the way, so that the page stays
 * awake.
 */
export async function play(bench, end, words, shown = () => {}) {
  for (; end > bench.tick || words.length; await new Promise(done => setTimeout(done))) {
    while (words.length && words[0].at <= bench.tick) {
      const word = words.shift();
      bench.said(word.kind, word.value);
    }
    if (end <= bench.tick) break;
    bench.advance(Math.min(1800, end - bench.tick, words.length ? Math.max(1, words[0].at - bench.tick) : 1800));
    shown(bench.tick / end);
    if (bench.tick >= 432000) break;
  }
}

/**
 * This browser's water is here: it plays what was done on the server's, and goes on under the same hands. False where
 * they have begun something else meanwhile.
 */
export async function takeOver(desk, door, wanted) {
  const away = desk.door;
  const own = new Desk(door, desk.n);
  const done = () => `${away.deeds.length} ${away.words.length} ${away.returns}`;
  let played;
  do {
    played = done();
    if (own.load(away.Recording(), away.guided) < 0) throw new Error('What was done so far could not be played again.');
    own.advance(0);
    await play(
      own,
      away.tick,
      away.words.map(({ at, say, value }) => ({ at, kind: say, value })),
    );
    if (!wanted()) return false;
    // What the hands did meanwhile is played once more.
  } while (played !== done());
  own.advance(Math.max(1, away.tick - own.tick));
  Object.assign(desk, { door, words: own.words, deeds: -1 });
  desk.advance(0);
  return true;
}
