// What is entered in a run or a repair, made into entries: each has its id, its place in the order and its time from
// this device.
import { now } from './clock.js';
import { keep, logOf, waiting, written } from './store.js';

/**
 * Keeps what was entered, to be sent; answers the entries, and the promise that they are kept.
 * @param of The run or repair.
 * @param me Whose they are.
 * @param kind What they are: of a run entry, of a repair mend.
 * @param least The first place that is free, as far as the view knows.
 * @param knowsAll Whether the view knows all that waits: where the core on this device made it.
 */
export async function enter(of, me, bodies, { least = 0, knowsAll = false, kind = 'entry' } = {}) {
  const known = knowsAll ? [] : [...(await logOf(of)), ...(await waiting(of))];
  const first = Math.max(least, ...known.map(entry => (entry.tick ?? 0) + 1));
  const at = now().toISOString();
  // What comes from the screen may be wrapped to be watched; what is kept is plain.
  const entries = JSON.parse(JSON.stringify(bodies)).map((body, i) =>
    written({ id: crypto.randomUUID(), tick: first + i, at, ...body }),
  );
  return { entries, kept: keep(entries.map(entry => ({ kind, of, by: me, ...entry }))) };
}
