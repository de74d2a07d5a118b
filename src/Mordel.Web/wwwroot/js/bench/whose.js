// Whose water it is: this browser's, or the server's until that is here; and what is played to come to a moment.
import { started } from '../core.js';
import { Away } from './away.js';

/** What is said where this browser can have none. */
export const noWater =
  'The bench computes its water in this browser, and WebAssembly did not start here. Another browser will do; ' +
  '“See a test done” on the bench’s page lets the server perform one instead.';

/**
 * Whoever can move the water first: the door to this browser's own, or who stands in for it. On a slow line the files
 * of the runtime hold all else: so what the server says is heard before it, if it comes soon.
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
 * This browser's water is here: it plays what was done on the server's, and goes on under the same hands. False where
 * they have begun something else meanwhile.
 */
export async function takeOver(desk, own, wanted) {
  const away = desk.door;
  const done = () => `${away.deeds.length} ${away.words.length} ${away.returns}`;
  let played, words;
  do {
    played = done();
    words = away.words.map(({ at, say, value }) => ({ at, kind: say, value }));
    if ((await own.load(away.Recording())) < 0) throw new Error('What was done so far could not be played again.');
    await own.play(away.tick, words);
    await own.run(Math.max(1, away.tick - own.now));
    if (!wanted()) return false;
    // What the hands did meanwhile is played once more.
  } while (played !== done());
  Object.assign(desk, { door: own, words, deeds: -1 });
  desk.advance(0);
  return true;
}
