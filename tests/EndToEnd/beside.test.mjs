// What stands between a bench's page and its water: asked of a core that is made up here, that answers as late as it
// likes. No browser.
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { Beside } from '../../src/Mordel.Web/wwwroot/js/bench/beside.js';
import { Desk } from '../../src/Mordel.Web/wwwroot/js/bench/desk.js';

const parts = ['so1', 'tc2', 'high-hose', 'bleed-off', 'sight-tube'];
const kinds = { 'high-hose': 'Hose', 'bleed-off': 'BleedOff', 'sight-tube': 'SightTube' };
const later = () => new Promise(done => setTimeout(done));

// A core that does what it is asked in the order in which it was asked, as a thread does: what was done with its tick,
// a happening for each deed, a sheet that reads otherwise after each word.
class Core {
  tick = 0;
  deeds = [];
  words = [];
  asked = [];
  most = 0;
  #waiting = 0;
  #last = Promise.resolve();

  constructor(late = later) {
    this.late = late;
    return new Proxy(this, {
      get: (core, name) =>
        typeof core[`do${String(name)}`] === 'function' ? (...given) => core.take(name, given) : core[name],
    });
  }
  take(name, given) {
    this.asked.push(name);
    const answer = this.#last.then(async () => {
      if (name === 'Advance') this.most = Math.max(this.most, ++this.#waiting);
      await this.late();
      if (name === 'Advance') this.#waiting--;
      return this[`do${name}`](...given);
    });
    this.#last = answer.catch(() => {});
    return answer;
  }
  doOpen(_, rig) {
    return rig === 'wrong' ? '{"faults":["type: no such type"]}' : '';
  }
  doLoad(_, recording) {
    Object.assign(this, { tick: 0, deeds: [] });
    return JSON.parse(recording).ticks;
  }
  doLayout() {
    const told = parts.map(id => ({ id, kind: kinds[id] ?? 'Cock' }));
    return JSON.stringify({ head: 9, chambers: ['zone'], parts: told, perSecond: 60, scale: { low: -20, high: 20 } });
  }
  doAdvance(_, ticks) {
    assert.ok(ticks >= 0);
    this.tick += ticks;
    const row = Array(9 + 2 + 3 * parts.length + 1).fill(0);
    [row[0], row[7], row[8]] = [this.tick, this.deeds.length, this.deeds.length];
    return row;
  }
  doTurn(_, part, to) {
    if (part === 'so1') return 'SO1 is locked.';
    this.deeds.push({ at: this.tick, turn: part, to });
    return '';
  }
  doConnections() {
    return this.deeds.map(({ turn }) => `${turn} tc2`).join('\n');
  }
  doHappened(_, since) {
    return this.deeds
      .slice(since)
      .map(({ turn, at }) => `${turn} at ${at}`)
      .join('\n');
  }
  doSheetVersion() {
    return this.words.length;
  }
  doSheet() {
    return JSON.stringify({ words: this.words.length });
  }
  doConfirm() {
    this.words.push({ at: this.tick, kind: 'confirm' });
  }
  doTake(_, value) {
    if (value === 'x') return 'Type a number, such as 1.8.';
    this.words.push({ at: this.tick, kind: 'take', value });
    return '';
  }
  doBack(_, tick) {
    this.deeds = this.deeds.filter(deed => deed.at <= tick);
    this.tick = tick;
  }
  doSeek(_, tick) {
    this.tick = tick;
  }
  doRecording() {
    return JSON.stringify({ ticks: this.tick, deeds: this.deeds });
  }
}

async function bench(core, guided = false) {
  const refusals = [],
    beside = new Beside(core, { guided, flow: 'LeftToRight', open: true, refused: why => refusals.push(why) });
  await beside.begin('{}');
  const desk = new Desk(beside);
  desk.layout();
  desk.advance(0);
  await beside.heard();
  return { beside, desk, refusals };
}

test('one row is asked for at a time, and a core that is slow slows the clock', async () => {
  const core = new Core(() => new Promise(done => setTimeout(done, 5))),
    { beside, desk } = await bench(core),
    asked = core.asked.length;
  for (let frame = 0; frame < 500; frame++) desk.advance(1);
  await beside.heard();
  assert.equal(core.most, 1);
  assert.ok(core.asked.length - asked < 10, `${core.asked.slice(asked)}`);
  assert.ok(core.tick <= 62, `${core.tick}`);
});

test('what hands do comes in its order and at its tick, however late the answers are', async () => {
  for (let seed = 1; seed <= 40; seed++) {
    let state = seed;
    const chance = most => (state = (state * 48271) % 2147483647) % most;
    const core = new Core(() => (chance(3) ? later() : null)),
      { beside, desk } = await bench(core),
      done = [];
    for (let i = 0; i < 120; i++) {
      if (chance(3) === 0) {
        done.push({ at: beside.now, turn: 'tc2', to: chance(101) / 100 });
        desk.turn('tc2', done.at(-1).to);
        assert.equal(desk.opening('tc2'), done.at(-1).to, 'it shows at once');
      } else desk.advance(1 + chance(3));
      if (chance(4) === 0) await later();
    }
    await beside.heard();
    assert.deepEqual(core.deeds, done, `seed ${seed}`);
    assert.deepEqual(JSON.parse(await desk.whole()), { ticks: core.tick, deeds: done });
    desk.advance(0);
    assert.equal(desk.happened, done.length);
    assert.equal(desk.news(0).length, done.length);
  }
});

test('time goes back while a row is on its way: what it tells has not happened', async () => {
  const core = new Core(),
    { beside, desk } = await bench(core);
  for (let i = 0; i < 5; i++) {
    desk.turn('tc2', i / 10);
    desk.advance(10);
    await beside.heard();
  }
  assert.deepEqual([desk.advance(0)[0], desk.happened], [50, 5]);
  await beside.heard();
  desk.turn('tc2', 1);
  desk.advance(10);
  await desk.back(15);
  assert.equal(core.tick, 15);
  assert.equal(beside.now, 15);
  assert.deepEqual([desk.tick, desk.happened, desk.news(0)], [15, 2, ['tc2 at 0', 'tc2 at 10']]);
});

test('a word is said at its moment, the sheet has answered when it is taken, and what is no number is not kept', async () => {
  const core = new Core(),
    { beside, desk } = await bench(core, true);
  desk.advance(7);
  const before = beside.SheetVersion(),
    said = desk.said('confirm');
  assert.equal(await desk.said('confirm'), '', 'a second waits for the answer to the first');
  await said;
  assert.deepEqual(desk.words, [{ at: 7, kind: 'confirm', value: '' }]);
  assert.deepEqual(core.words, [{ at: 7, kind: 'confirm' }]);
  assert.ok(beside.SheetVersion() > before);
  assert.deepEqual(JSON.parse(beside.Sheet()), { words: 1 });
  assert.match(await desk.said('take', 'x'), /Type a number/);
  assert.equal(await desk.said('take', '1.8'), '');
  assert.deepEqual(
    desk.words.map(word => word.kind),
    ['confirm', 'take'],
  );
});

test('a recording is played to its end and to the last word, each at its moment', async () => {
  const core = new Core(),
    beside = new Beside(core, { guided: true, flow: 'Upward', open: true, refused: assert.fail }),
    words = [3, 3, 2000, 2600].map(at => ({ at, kind: 'confirm' })),
    parts = [];
  await beside.play(await beside.load('{"ticks":2500}'), words, part => parts.push(part));
  assert.deepEqual(
    core.words.map(word => word.at),
    [3, 3, 2000, 2600],
  );
  assert.equal(core.tick, 2600);
  assert.equal(parts.at(-1), 1);
});

test('why something cannot be done is told, and a rig that is wrong says what', async () => {
  const { beside, desk, refusals } = await bench(new Core());
  assert.equal(desk.turn('so1', 1), '');
  await beside.heard();
  assert.deepEqual(refusals, ['SO1 is locked.']);
  await assert.rejects(beside.begin('wrong'), /type: no such type/);
});

test('what is kept where the page goes has all deeds, and the time that passed since', async () => {
  const core = new Core(),
    { beside, desk } = await bench(core);
  await new Promise(done => setTimeout(done, 120));
  desk.turn('tc2', 0.5);
  desk.advance(5);
  await beside.heard();
  await later();
  desk.advance(30);
  await beside.heard();
  await later();
  assert.deepEqual(JSON.parse(desk.recording()), { ticks: 35, deeds: [{ at: 0, turn: 'tc2', to: 0.5 }] });
  assert.equal(desk.recorded, 1);
});

test('a replay goes to any moment, back and forth', async () => {
  const core = new Core(),
    { beside, desk } = await bench(core);
  for (const to of [900, 300, 40]) {
    desk.advance(10);
    await desk.seek(to);
    assert.deepEqual([core.tick, beside.now, desk.tick, beside.ahead], [to, to, to, to]);
  }
  desk.advance(7);
  assert.equal(beside.ahead, 47);
});

test('water that breaks off is said once, and not asked for any more', async () => {
  const core = new Core(),
    { beside, desk, refusals } = await bench(core);
  core.late = () => Promise.reject(new Error('out of memory'));
  for (let frame = 0; frame < 5; frame++) {
    desk.advance(1);
    await later();
  }
  assert.equal(refusals.length, 1);
  assert.match(refusals[0], /broke off.*Open the page anew/);
});

test('a bench that another has followed is not asked any more', async () => {
  const core = new Core(),
    { beside, desk } = await bench(core);
  beside.end();
  const asked = core.asked.length;
  for (let frame = 0; frame < 5; frame++) desk.advance(1);
  await later();
  assert.equal(core.asked.length, asked);
});
