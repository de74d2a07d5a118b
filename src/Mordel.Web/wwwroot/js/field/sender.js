// Sends what waits, the oldest first, one device's deeds by one tab at a time. What the server has on disk is taken
// off; what it refuses stays with the reason, and what rests on it stays with it.
import { emptyCaches } from './caches.js';
import { about, batch, count, done, forget, get, mark, put, rename, setAbout, tell, waiting, wipe } from './store.js';

const BATCH = 200;
// Where each kind goes, and what is sent. A start may come back with the id that the server knows it by.
const ways = {
  begin: { to: () => '/api/field/runs', starts: true },
  entry: { to: of => `/api/runs/${of}/entries`, many: true },
  sign: { to: of => `/api/field/runs/${of}/signature` },
  look: { to: () => '/api/field/diagnoses', starts: true },
  saw: { to: of => `/api/field/diagnoses/${of}/seen` },
  repair: { to: () => '/api/field/repairs', starts: true },
  mend: { to: of => `/api/field/repairs/${of}/entries`, many: true },
  photo: { to: of => `/api/repairs/${of}/photos` },
};

// What is named in a body by the device's id is named by the server's once that is known.
function bodyOf(deeds) {
  const [{ kind, of, after, body }] = deeds;
  if (ways[kind].many) return batch(deeds);
  if (kind === 'photo') {
    const form = new FormData();
    for (const name of ['entry', 'of', 'at']) form.append(name, body[name]);
    form.append('photo', new Blob([body.bytes], { type: 'image/jpeg' }), 'photo.jpg');
    return form;
  }
  const named = {
    begin: () => ({ run: of, ...body, ...(after ? { repair: after } : {}) }),
    look: () => ({ run: after, ...body }),
    repair: () => ({ id: of, ...body, ...(after ? { diagnosis: after } : {}) }),
  };
  return JSON.stringify(named[kind]?.() ?? body);
}

/** Why nothing is sent now, as a word: nothing, offline, busy, signed-out or another. */
export class Sender extends EventTarget {
  token = '';
  state = '';
  /** The runs whose screen waits for the server's view; of the others it says only how far they are. */
  watched = new Set();
  #wanted = null;
  #again = 0;

  constructor() {
    super();
    // What failed for want of a signal says nothing of the one that is there now.
    addEventListener('online', () => (this.#again = 0));
  }

  /** Something more waits: it goes now, or with the rest where there was no signal a moment ago. */
  nudge() {
    if (this.state !== 'offline') this.send();
    else count().then(many => this.#tell('waiting', many));
  }

  /** Sends until nothing is left that can be. */
  send() {
    clearTimeout(this.timer);
    return (this.#wanted ??= this.#turn().finally(() => (this.#wanted = null)));
  }

  #turn() {
    const go = () => this.#all();
    return navigator.locks ? navigator.locks.request('mordel-send', go) : go();
  }

  async #all() {
    for (;;) {
      const deeds = await waiting();
      this.#tell('waiting', deeds.length);
      if (!deeds.length) return this.#be('');
      if (!this.token && !(await this.who())) return;
      // Whoever is signed in sends their own and nobody else's.
      const mine = deeds.filter(deed => !deed.by || deed.by === this.me),
        next = nextOf(mine);
      if (!next.length) return this.#be(mine.length < deeds.length ? 'another' : '');
      if ((await this.#give(next)) === 'later') return;
    }
  }

  /** Who is signed in; null without a signal, or where nobody is. */
  async who() {
    let answer, me;
    try {
      answer = await fetch('/api/field/me', { cache: 'no-store' });
      if (answer.ok) me = await answer.json();
    } catch {
      this.#later('offline');
      return null;
    }
    if (answer.headers.get('x-mordel-device') === 'cut-off') {
      await wipe();
      await emptyCaches();
      this.#be('cut-off');
      return null;
    }
    if (!answer.ok) {
      if (answer.status >= 500 || answer.status === 429) this.#later('busy');
      else this.#be('signed-out');
      return null;
    }
    [this.token, this.me] = [me.token, me.id];
    // How far this device's clock is from the server's, while both can be compared.
    await setAbout('clock', Date.parse(me.now) - Date.now());
    return me;
  }

  async #give(deeds, renewed = false) {
    const [{ kind, of }] = deeds,
      way = ways[kind];
    let answer, said;
    try {
      answer = await fetch(way.to(of), {
        method: 'POST',
        headers: {
          'X-Mordel-Token': this.token,
          ...(kind === 'photo' ? {} : { 'content-type': 'application/json' }),
          ...(kind === 'entry' && !this.watched.has(of) ? { Prefer: 'return=minimal' } : {}),
        },
        body: bodyOf(deeds),
      });
      // A server that dies in the middle of its answer has not answered: it is asked again.
      if (answer.ok) said = await answer.json();
    } catch {
      return this.#later('offline');
    }
    if (answer.ok) return this.#taken(deeds, said, answer.headers.get('etag'));
    if (answer.status >= 500 || answer.status === 429) return this.#later('busy');
    if (answer.status === 401) return this.#be('signed-out');
    // The token of a page grows old; whoever is signed in gets another.
    if (answer.status === 403 && !renewed) return (await this.who()) ? this.#give(deeds, true) : 'later';
    if (answer.status === 403) return this.#be('signed-out');
    // One of them is refused: find out which, keep the others.
    if (deeds.length > 1) return this.#give(deeds.slice(0, 1), renewed);
    const problem = await answer.json().catch(() => null);
    const why = [
      problem?.error ?? `The server answered ${answer.status}.`,
      ...(problem?.faults ?? []).map(f => `${f.place}: ${f.says}`),
    ].join(' ');
    if (kind === 'entry' || kind === 'mend') await forget(deeds[0].id);
    await mark(deeds[0], why);
    this.#tell('refused', { deed: deeds[0], why });
    tell({ grown: of });
    return 'refused';
  }

  async #taken(deeds, answer, tag) {
    const [{ kind, of }] = deeds;
    this.#again = 0;
    this.#be('sending');
    // What is not taken along needs no log here.
    if (kind === 'entry' && !(await get('runs', of))) for (const deed of deeds) await forget(deed.id);
    if (ways[kind].starts && answer.id !== of) {
      await rename(of, answer.id);
      this.#tell('renamed', { from: of, to: answer.id });
    }
    await done(deeds);
    if (kind === 'sign') await settle(of);
    if (answer.says) await remember(answer.says);
    this.#tell('taken', { kind, of, view: kind === 'entry' ? answer : null, tag });
    tell({ sent: of });
    return '';
  }

  #later(state) {
    this.#be(state);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.send(), Math.min(15000, 600 * 2 ** this.#again++));
    return 'later';
  }
  #be(state) {
    this.state = state;
    this.#tell('state', state);
    return 'later';
  }
  #tell(name, detail) {
    this.dispatchEvent(new CustomEvent(name, { detail }));
  }
}

// A signed run that the server has sealed.
async function settle(run) {
  const row = await get('runs', run);
  if (row) await put('runs', { ...row, sealed: new Date().toISOString() });
}

async function remember(says) {
  await setAbout('told', [...((await about('told')) ?? []), says].slice(-10));
}

const starts = new Set(Object.keys(ways).filter(kind => ways[kind].starts));

/**
 * What is sent next: what is refused waits, and so does what rests on it. Pictures go last, but before the test that
 * follows their repair, whose report shows them.
 */
export function nextOf(deeds) {
  const stuck = new Set(deeds.filter(deed => deed.why && starts.has(deed.kind)).map(deed => deed.of));
  const free = deeds.filter(deed => !deed.why && !stuck.has(deed.of) && !stuck.has(deed.after));
  const first = free.find(deed => deed.kind !== 'photo') ?? free[0];
  if (!first) return [];
  if (first.kind === 'begin' && first.after) {
    const picture = free.find(deed => deed.kind === 'photo' && deed.of === first.after);
    if (picture) return [picture];
  }
  if (!ways[first.kind].many) return [first];
  const rest = free.filter(deed => deed.kind !== 'photo').slice(free.filter(d => d.kind !== 'photo').indexOf(first));
  const other = rest.findIndex(deed => deed.kind !== first.kind || deed.of !== first.of);
  return rest.slice(0, Math.min(BATCH, other < 0 ? rest.length : other));
}

export const sender = new Sender();
