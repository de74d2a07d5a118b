// How a page asks the core in its thread: of threads that are made up here. No browser.
import assert from 'node:assert/strict';
import { beforeEach, test } from 'node:test';

let threads, behave;

class Thread extends EventTarget {
  constructor(url, { type }) {
    super();
    if (behave === 'forbidden') throw new Error('threads are forbidden here');
    Object.assign(this, { url: String(url), type });
    threads.push(this);
    setTimeout(() => {
      if (behave === 'starts') this.says({ ready: true });
      else if (behave === 'fails') this.says({ failed: 'no runtime' });
      else this.goesWrong('the script did not come');
    });
  }
  says(data) {
    this.dispatchEvent(Object.assign(new Event('message'), { data }));
  }
  goesWrong(message) {
    this.dispatchEvent(Object.assign(new Event('error'), { message }));
  }
  terminate() {
    this.isOver = true;
  }
  postMessage({ id, asked: [door, name, given] }) {
    if (name === 'Dies') return setTimeout(() => this.goesWrong('out of memory'));
    setTimeout(() =>
      this.says(name === 'Throws' ? { id, wrong: 'no such run' } : { id, answer: [door, name, ...given].join(' ') }),
    );
  }
}

let times = 0;
const fresh = () => import(`../../src/Mordel.Web/wwwroot/js/core.js?${++times}`);

beforeEach(() => {
  [threads, globalThis.Worker] = [[], Thread];
});

test('what is exported is called as if it stood here, and one thread serves every room', async () => {
  behave = 'starts';
  const { fieldCore, benchCore, started } = await fresh();
  assert.equal(started(), false);
  const [field, benches] = await Promise.all([fieldCore(), benchCore()]);
  assert.equal(threads.length, 1);
  assert.match(threads[0].url, /js\/core-worker\.js$/);
  assert.equal(threads[0].type, 'module');
  assert.equal(started(), true);
  assert.deepEqual(await Promise.all([field.View('run', true), benches.Advance(0, 3), field.Seen('run')]), [
    'FieldExports View run true',
    'BenchExports Advance 0 3',
    'FieldExports Seen run',
  ]);
});

test('what goes wrong in the core is said to who asked, and the next is answered', async () => {
  behave = 'starts';
  const field = await (await fresh()).fieldCore();
  await assert.rejects(field.Throws(), /no such run/);
  assert.equal(await field.View('a'), 'FieldExports View a');
});

test('a thread that dies leaves nobody waiting, and another takes its place', async () => {
  behave = 'starts';
  const field = await (await fresh()).fieldCore();
  await Promise.all([assert.rejects(field.Dies(), /out of memory/), assert.rejects(field.Dies(), /out of memory/)]);
  assert.ok(threads[0].isOver);
  assert.equal(await field.View('a'), 'FieldExports View a', 'another answers');
  assert.equal(threads.length, 2);
});

test('how much has come is told, a thread’s first word among it', async () => {
  behave = 'waits';
  const told = [],
    { core } = await fresh(),
    asked = core((...parts) => told.push(parts));
  threads[0].says({ loaded: 1, total: 0 });
  threads[0].says({ loaded: 7, total: 9 });
  threads[0].says({ ready: true });
  assert.ok(await asked);
  assert.deepEqual(told, [
    [1, 0],
    [7, 9],
  ]);
});

for (const [how, why] of [
  ['fails', 'the runtime does not start'],
  ['is cut off', 'neither thread nor page can have it'],
  ['forbidden', 'threads are forbidden and the page cannot have it'],
])
  test(`where ${why} there is no core, once and for all`, async () => {
    behave = how;
    const { fieldCore, diagnoses } = await fresh();
    assert.equal(await fieldCore(), null);
    assert.equal(await diagnoses('dc.atlas'), null);
    assert.equal(await fieldCore(), null);
    assert.ok(threads.length <= 1);
  });
