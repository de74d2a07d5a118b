// What this device holds: the round that was taken along, the runs and repairs made here, and the deeds that wait for
// the server, in the order in which they were done. Everything is here before anything is sent.
import { openDB } from '/lib/idb.js';

const stores = {
  about: { keyPath: 'key' },
  stops: { keyPath: 'id' },
  runs: { keyPath: 'id' },
  repairs: { keyPath: 'id' },
  boards: { keyPath: 'id' },
};

const opened = openDB('mordel-outbox', 2, {
  async upgrade(db, before, _, tx) {
    for (const [name, keys] of Object.entries(stores)) db.createObjectStore(name, keys);
    db.createObjectStore('logs', { keyPath: 'id' }).createIndex('of', 'of');
    const deeds = db.createObjectStore('deeds', { keyPath: 'seq', autoIncrement: true });
    deeds.createIndex('of', 'of');
    if (before !== 1) return;
    // What an earlier version kept to be sent is sent by this one.
    for (const { run, entry } of await tx.objectStore('entries').getAll())
      deeds.put({ kind: 'entry', of: run, ...written(entry) });
    db.deleteObjectStore('entries');
  },
  blocking(_, __, event) {
    event.target.close();
  },
});

/**
 * An entry as it is kept and sent: its text, in which a reading keeps its digits (2.0 stays 2.0, which JSON.stringify
 * alone would write as 2), with what it is found by.
 */
export const written = entry => ({
  id: entry.id,
  tick: entry.tick ?? 0,
  text: JSON.stringify(entry).replace(/\{"raw":"(-?[0-9.]+)"\}/g, '$1'),
});

/** Entries as the server writes them, each a line. */
export const lines = log =>
  log
    .split('\n')
    .map(line => line.replace(/^\[|,$|\]$/g, ''))
    .filter(line => line)
    .map(line => ({ id: JSON.parse(line).id, tick: JSON.parse(line).tick ?? 0, text: line }));

/** Entries as they are sent. */
export const batch = entries => `{"entries":[${entries.map(entry => entry.text).join(',')}]}`;

const changes = new BroadcastChannel('mordel-field'),
  here = crypto.randomUUID();

/** Says to every other tab, and to the worker, that something here has changed. */
export const tell = what => changes.postMessage({ ...what, by: here });

/** Calls back when another tab, or the worker, has changed something. */
export const listen = heard => {
  const channel = new BroadcastChannel('mordel-field');
  channel.onmessage = event => {
    if (event.data.by !== here) heard(event.data);
  };
  return () => channel.close();
};

/** What stands under a key of the device: whose it is, the package, how its clock goes. */
export const about = async key => (await (await opened).get('about', key))?.value;
export const setAbout = async (key, value) => (await opened).put('about', { key, value });

export const get = async (store, id) => (await opened).get(store, id);
export const all = async store => (await opened).getAll(store);
export const put = async (store, row) => (await opened).put(store, row);

const ordered = (a, b) => a.tick - b.tick || (a.id < b.id ? -1 : 1);

/** The entries of a run or repair that this device knows of, in their order. */
export const logOf = async of => {
  const rows = await (await opened).getAllFromIndex('logs', 'of', of);
  return rows.sort(ordered);
};

/** Takes in entries that the server has. */
export async function learn(of, entries) {
  const tx = (await opened).transaction('logs', 'readwrite');
  await Promise.all([...entries.map(({ id, tick, text }) => tx.store.put({ id, of, tick, text })), tx.done]);
}

/** Takes an entry out of the log here: the server does not take it. */
export const forget = async id => (await opened).delete('logs', id);

/**
 * Keeps deeds to be sent, with what they change here, all of it or nothing. A deed has a kind, what it is of, and its
 * body; an entry stands in its log too.
 */
export async function keep(deeds, rows = []) {
  const names = ['deeds', 'logs', ...new Set(rows.map(([store]) => store))];
  // What ends or begins something is on the disk before it is said to be; an entry survives the tab and the browser.
  const durability = deeds.every(deed => deed.kind === 'entry' || deed.kind === 'mend') ? 'default' : 'strict';
  const tx = (await opened).transaction(names, 'readwrite', { durability });
  for (const deed of deeds) {
    tx.objectStore('deeds').put(deed);
    if (deed.kind === 'entry' || deed.kind === 'mend')
      tx.objectStore('logs').put({ id: deed.id, of: deed.of, tick: deed.tick, text: deed.text });
  }
  for (const [store, row] of rows) tx.objectStore(store).put(row);
  await tx.done;
  tell({ grown: deeds[0]?.of });
  askForSync();
}

// Where the browser allows it, what waits is sent although nobody looks; asked for now and then, not at every tap.
const OFTEN = 10_000;
let asked = 0;
function askForSync() {
  if (Date.now() - asked < OFTEN) return;
  asked = Date.now();
  navigator.serviceWorker?.ready.then(worker => worker.sync?.register('mordel-send')).catch(() => {});
}

/** How many deeds wait: all, or those of one run or repair. Nothing of them is read. */
export const count = async of =>
  of === undefined ? (await opened).count('deeds') : (await opened).countFromIndex('deeds', 'of', of);

/** All that waits, in order; pictures too. */
export const waiting = async of =>
  of === undefined ? (await opened).getAll('deeds') : (await opened).getAllFromIndex('deeds', 'of', of);

/** The server has these. */
export async function done(deeds) {
  const tx = (await opened).transaction('deeds', 'readwrite');
  await Promise.all([...deeds.map(deed => tx.store.delete(deed.seq)), tx.done]);
}

/** Writes at a deed why the server does not take it; nothing for one that is to be tried again. */
export async function mark(deed, why) {
  const row = { ...deed, why };
  if (!why) delete row.why;
  await (await opened).put('deeds', row);
}

/** The server knows what was begun here by another id: everything of it goes there. */
export async function rename(from, to) {
  const tx = (await opened).transaction(['deeds', 'logs', 'runs', 'repairs', 'boards'], 'readwrite');
  for (const name of ['deeds', 'logs']) {
    const store = tx.objectStore(name);
    for (const row of await store.index('of').getAll(from)) store.put({ ...row, of: to });
  }
  // What refers to it: a repair that a test follows, a board that led to a repair.
  for (const row of await tx.objectStore('deeds').getAll())
    if (row.after === from) tx.objectStore('deeds').put({ ...row, after: to });
  for (const name of ['runs', 'repairs', 'boards']) {
    const store = tx.objectStore(name),
      row = await store.get(from);
    if (!row) continue;
    store.delete(from);
    store.put({ ...row, id: to });
  }
  // What was made at it: a repair after a test, the test after a repair, the board of a test.
  for (const [name, part] of [
    ['repairs', 'run'],
    ['repairs', 'retest'],
    ['repairs', 'board'],
    ['runs', 'after'],
    ['boards', 'run'],
  ]) {
    const store = tx.objectStore(name);
    for (const row of await store.getAll()) if (row[part] === from) store.put({ ...row, [part]: to });
  }
  await tx.done;
  tell({ renamed: from, to });
}

/** A round takes the place of the one before. What is not sent yet stays, with the run or repair that it is of. */
export async function takeAlong(round, version) {
  const tx = (await opened).transaction(['about', 'stops', 'runs', 'logs', 'repairs', 'boards', 'deeds'], 'readwrite');
  const held = new Set((await tx.objectStore('deeds').getAll()).flatMap(deed => [deed.of, deed.after]));
  const { stops, ...rest } = round;
  tx.objectStore('stops').clear();
  for (const stop of stops) tx.objectStore('stops').put(stop);
  // A test that goes on at a stop of the round goes on here.
  const open = new Set(stops.filter(stop => stop.state !== 'signed').map(stop => stop.id));
  for (const name of ['runs', 'repairs', 'boards']) {
    const store = tx.objectStore(name);
    for (const row of await store.getAll()) {
      const goesOn = name === 'runs' ? !row.signed && open.has(row.stop) : false;
      if (!goesOn && !held.has(row.id) && !held.has(row.run)) store.delete(row.id);
    }
  }
  const runs = new Set(await tx.objectStore('runs').getAllKeys()),
    repairs = new Set(await tx.objectStore('repairs').getAllKeys()),
    logs = tx.objectStore('logs');
  for (const row of await logs.getAll())
    if (!runs.has(row.of) && !repairs.has(row.of) && !held.has(row.of)) logs.delete(row.id);
  tx.objectStore('about').put({ key: 'round', value: { ...rest, version, stops: stops.length } });
  tx.objectStore('about').put({ key: 'owner', value: { id: round.tester, name: round.name } });
  await tx.done;
  tell({ round: true });
}

/** The round of whoever was here before goes; what they entered and have not sent yet stays until they send it. */
export async function putAshore() {
  await takeAlong({ stops: [], tester: '', name: '' }, '');
  const db = await opened;
  await db.delete('about', 'round');
  await db.delete('about', 'owner');
}

/** Nothing is left here. */
export async function wipe() {
  const db = await opened;
  const tx = db.transaction([...db.objectStoreNames], 'readwrite');
  await Promise.all([...[...db.objectStoreNames].map(name => tx.objectStore(name).clear()), tx.done]);
  tell({ wiped: true });
}
