// Entries wait here, on this device, until the server has acknowledged them. Written before anything is sent.
import { openDB } from '/lib/idb.js';

const opened = openDB('mordel-outbox', 1, {
  upgrade: db => db.createObjectStore('entries', { keyPath: 'id' }).createIndex('run', 'run'),
});

export const keep = async (run, entries) => {
  const tx = (await opened).transaction('entries', 'readwrite');
  await Promise.all([...entries.map(entry => tx.store.put({ id: entry.id, run, entry })), tx.done]);
};

export const waiting = async run =>
  (await (await opened).getAllFromIndex('entries', 'run', run))
    .map(row => row.entry)
    .sort((a, b) => a.tick - b.tick || (a.id < b.id ? -1 : 1));

export const acknowledge = async entries => {
  const tx = (await opened).transaction('entries', 'readwrite');
  await Promise.all([...entries.map(entry => tx.store.delete(entry.id)), tx.done]);
};
