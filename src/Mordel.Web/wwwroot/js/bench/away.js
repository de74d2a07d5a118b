// The bench before this browser has its own water: the server plays what was done so far to this moment and tells how
// the rig stands, a moment late. It answers as the core does, so that the desk need not know; the recording is the
// same, and the core takes it over when it has come.
import { placesOf } from './desk.js';

const pause = 250;

export class Away {
  constructor({ rig, guided, flow, token, refused }) {
    Object.assign(this, { rig, guided, flow, token, refused });
    Object.assign(this, { deeds: [], words: [], tick: 0, lines: [], refusals: 0, over: false });
    Object.assign(this, { changes: 0, looks: 0, returns: 0, unheard: false });
    this.wake = () => {};
  }

  /** The first look: false where the server gives none. */
  async begin() {
    if (!(await this.#look()) || this.over) return false;
    this.#follow();
    return true;
  }

  /** No further looks. */
  end() {
    this.over = this.stands = true;
    this.wake();
  }

  async #follow() {
    let waits = pause;
    while (!this.over) {
      await new Promise(done => {
        this.wake = done;
        setTimeout(done, waits);
      });
      if (this.over) return;
      if (this.tick === this.seen && this.changes === this.told) continue;
      const from = performance.now();
      // Whoever is slow to answer, or cannot, is asked less often; time stands still meanwhile.
      const there = await this.#look();
      this.stands = this.over || !there;
      waits = there ? Math.max(pause, 2 * (performance.now() - from)) : Math.min(5000, waits * 2);
    }
  }

  async #look() {
    const [tick, changes, done, returns] = [this.tick, this.changes, this.deeds.length, this.returns];
    try {
      const answer = await fetch('/api/bench/look', {
        method: 'POST',
        priority: 'high',
        headers: { 'content-type': 'application/json', 'X-Mordel-Token': this.token },
        body: JSON.stringify({
          tape: JSON.parse(this.Recording()),
          words: this.words,
          guided: this.guided,
          flow: this.flow,
          told: this.lines.length,
          drawn: Boolean(this.layout),
        }),
      });
      if (!answer.ok) return false;
      const told = await answer.json();
      // Time went back meanwhile: what was seen has not happened.
      if (returns !== this.returns) return true;
      this.looks++;
      [this.seen, this.told, this.unheard] = [tick, changes, this.unheard && changes !== this.changes];
      this.layout ??= JSON.stringify(told.layout);
      this.lines.push(...told.happened);
      Object.assign(this, { row: told.row, connections: told.connections, described: told.describe });
      Object.assign(this, { version: told.version ?? 0, sheet: JSON.stringify(told.sheet ?? {}) });
      for (const deed of this.deeds.slice(done)) this.#lay(deed);
      if (told.refused.length > this.refusals) this.refused(told.refused.at(-1));
      this.refusals = told.refused.length;
      return true;
    } catch {
      return false;
    }
  }

  // What a hand does at once shows at once; what the water makes of it comes with the next look.
  #lay(deed) {
    if ('turn' in deed && !deed.over && this.places) this.row[this.places.get(deed.turn)] = deed.to;
    else if ('lift' in deed) this.row[4] = deed.lift;
    else if ('tap' in deed) this.row[5] = Number(deed.tap);
    else if ('connect' in deed) this.connections = { ...this.connections, [deed.connect]: deed.on };
    else if ('off' in deed)
      this.connections = Object.fromEntries(Object.entries(this.connections).filter(([item]) => item !== deed.off));
  }

  #do(deed) {
    const before = this.deeds.at(-1);
    // A valve under the hand is turned many times a second: between two ticks the last counts.
    if (before && 'turn' in deed && before.at === this.tick && before.turn === deed.turn) this.deeds.pop();
    this.deeds.push({ at: this.tick, ...deed });
    this.#lay(deed);
    this.#changed();
    return '';
  }

  #changed() {
    this.changes++;
    this.wake();
  }

  // As the desk asks.
  Layout() {
    this.places = placesOf(JSON.parse(this.layout)).parts;
    return this.layout;
  }
  Advance(ticks) {
    if (!this.stands) this.tick += ticks;
    const row = [...this.row];
    // Another after each look, so that what is connected is asked for again; nothing before anything was done.
    const done = this.deeds.length && this.deeds.length + this.looks / 1e6;
    [row[0], row[7], row[8]] = [this.tick, this.lines.length, done];
    return row;
  }
  Turn(turn, to, over) {
    return this.#do(over ? { turn, to: Number(to.toFixed(6)), over } : { turn, to: Number(to.toFixed(6)) });
  }
  Connect(connect, on) {
    return this.#do({ connect, on });
  }
  TakeOff(off) {
    return this.#do({ off });
  }
  Lift(inches) {
    return this.#do({ lift: Number(inches.toFixed(2)) });
  }
  Tap(tap) {
    return this.#do({ tap });
  }
  Connections() {
    return Object.entries(this.connections)
      .map(([item, on]) => `${item} ${on}`)
      .join('\n');
  }
  Happened(since) {
    return this.lines.slice(since).join('\n');
  }
  Describe() {
    return this.described;
  }
  Sheet() {
    return this.sheet;
  }
  SheetVersion() {
    return this.version;
  }
  Confirm() {
    this.#say('confirm');
  }
  See(sight) {
    this.#say('see', sight);
  }
  Take(value) {
    // As the core reads it: a look with something else in it would be refused whole.
    if (!/^[-+]?(\d{1,3}([.,]\d*)?|[.,]\d+)$/.test(value)) return 'Type a number, such as 1.8.';
    this.#say('take', value);
    return '';
  }
  #say(say, value) {
    this.unheard = true;
    this.words.push({ at: this.tick, say, value });
    this.#changed();
  }
  Back(tick) {
    this.deeds = this.deeds.filter(deed => deed.at <= tick);
    this.words = this.words.filter(word => word.at <= tick);
    Object.assign(this, { tick, lines: [], refusals: 0, returns: this.returns + 1 });
    this.#changed();
  }
  Recording() {
    const deeds = JSON.stringify(this.deeds);
    return `{"format":"mordel.tape/1","rig":${this.rig},"ticks":${this.tick},"deeds":${deeds}}`;
  }
}
