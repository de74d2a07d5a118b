// This browser's own water, in a thread beside the page: what it is asked it answers a moment later, in the order in
// which it was asked. It answers the desk as the core does, from what was heard last; each frame asks for the next row,
// and for what else is another by then.
import { placesOf } from './desk.js';

const longest = 432_000;

export class Beside {
  #core;
  #n;
  #due = 0;
  #lines = [];
  #deeds = -1;
  #hearing = null;
  #said = 0;
  #returns = 0;
  #trying = false;
  #laid = [];
  #seen = -1;
  #kept = { deeds: 0, said: 0, at: 0 };

  /**
   * @param core What the core exports for benches, to be asked.
   * @param open Whether its inside may be seen, and numbers told.
   * @param refused Hears why something could not be done.
   * @param n Which of the two that the core has.
   * @param most How many ticks at most are asked for at once: a core that is slower slows the clock.
   */
  constructor(core, { guided = false, flow, open = true, refused, n = 0, most = 60 }) {
    [this.#core, this.#n, this.most] = [core, n, most];
    Object.assign(this, { guided, flow, open, refused, now: 0, unheard: false, version: 0, sheet: '{}', told: '' });
    this.connections = this.recording = '';
  }

  /** Sets a rig up; throws what is wrong with it. */
  async begin(rig) {
    const wrong = await this.#core.Open(this.#n, rig, this.guided);
    if (wrong) throw new Error(JSON.parse(wrong).faults.join(' · '));
    await this.#lay();
  }

  /** It is not asked any more. */
  end() {
    this.over = true;
  }

  /** Puts a recording in, to be played; answers its length in ticks, less than nothing where it cannot be read. */
  async load(recording) {
    const end = await this.#core.Load(this.#n, recording, this.guided);
    if (end >= 0) await this.#lay();
    return end;
  }

  /** Lets a recording run to its end, with what was said to the sheet on the way. */
  async play(end, words, shown = () => {}) {
    const left = [...words],
      last = Math.min(longest, Math.max(end, ...words.map(word => word.at)));
    for (;;) {
      while (left.length && left[0].at <= this.now) this.#say(left.shift());
      if (this.now >= last) break;
      await this.run(Math.min(1800, Math.max(1, (left[0]?.at ?? last) - this.now)));
      shown(this.now / last);
    }
    await this.heard();
  }

  /** The tick that is on its way, with all that was asked for. */
  get ahead() {
    return this.now + this.#due;
  }

  /** Lets time pass. */
  run(ticks) {
    this.#due += ticks;
    return this.heard();
  }

  /** When all that was asked so far is answered, and how the rig stands then. */
  async heard() {
    while (this.#hearing) await this.#hearing;
    await (this.#hearing = this.#look());
  }

  /** Everything done so far, to this moment. */
  async whole() {
    return (this.recording = await this.#core.Recording(this.#n));
  }

  async #lay() {
    this.#returns++;
    [this.row, this.#due, this.#lines, this.#deeds, this.#seen, this.now] = [[], 0, [], -1, -1, 0];
    this.layout = await this.#core.Layout(this.#n, this.flow, this.open);
    this.places = placesOf(JSON.parse(this.layout)).parts;
    await this.heard();
  }

  async #look() {
    const [said, returns, ticks] = [this.#said, this.#returns, this.#due];
    [this.#due, this.#laid] = [0, []];
    const at = (this.now += ticks);
    try {
      const row = await this.#core.Advance(this.#n, ticks);
      const [connections, happened, seen, told] = await Promise.all([
        row[8] === this.#deeds ? this.connections : this.#core.Connections(this.#n),
        row[7] > this.#lines.length ? this.#core.Happened(this.#n, this.#lines.length, this.open) : '',
        this.guided ? this.#core.SheetVersion(this.#n) : 0,
        this.#trying ? this.#core.Tried(this.#n) : '',
      ]);
      const sheet = this.guided && seen !== this.#seen ? await this.#core.Sheet(this.#n) : this.sheet;
      // Time went back meanwhile: what was seen has not happened.
      if (returns !== this.#returns) return;
      this.#lines = [...this.#lines, ...happened.split('\n').filter(Boolean)].slice(0, row[7]);
      if (sheet !== this.sheet) this.version++;
      if (said === this.#said) this.unheard = false;
      this.now += row[0] - at;
      this.#deeds = row[8];
      this.#seen = seen;
      Object.assign(this.row, row);
      Object.assign(this, { connections, told, sheet });
      // What hands did since this was asked stands over what it tells.
      for (const [place, to] of this.#laid) this.row[place] = to;
      this.#keep();
    } catch (error) {
      console.info(error);
      this.end();
      this.refused('The water broke off in this browser. Open the page anew: what was done is kept.');
    } finally {
      this.#hearing = null;
    }
  }

  // What is kept where a page goes: a recording is long, and is asked for when something was done or a while has
  // passed.
  async #keep() {
    const [deeds, said, now] = [this.#deeds, this.#said, performance.now()],
      same = deeds === this.#kept.deeds && said === this.#kept.said;
    if (this.#trying || now - this.#kept.at < (same ? 2000 : 100)) return;
    this.#kept = { deeds, said, at: now };
    this.recording = await this.#core.Recording(this.#n);
    this.recorded = deeds;
  }

  async #do(asked) {
    const why = await asked;
    if (why) this.refused(why);
  }

  #say({ kind, value = '' }) {
    this.unheard = true;
    this.#said++;
    if (kind === 'take') return this.#core.Take(this.#n, value);
    return kind === 'see' ? this.#core.See(this.#n, value) : this.#core.Confirm(this.#n);
  }

  #lies(place, to) {
    this.row[place] = to;
    this.#laid.push([place, to]);
  }

  // The sheet has answered by then.
  async #answered(asked) {
    const wrong = await asked;
    await this.heard();
    return wrong;
  }

  async #goBack(asked, tick) {
    this.#returns++;
    [this.#due, this.#trying, this.#seen, this.#deeds] = [0, false, -1, -1];
    if (tick !== undefined) this.now = tick;
    await asked;
    await this.heard();
  }

  // As the desk asks. What a hand does at once shows at once.
  Layout() {
    return this.layout;
  }
  Advance(ticks) {
    this.#due = Math.min(this.most, this.#due + ticks);
    if (!this.over) this.#hearing ??= this.#look();
    return this.row;
  }
  Turn(part, to, over) {
    this.#do(this.#core.Turn(this.#n, part, to, over));
    if (!over && this.places.has(part)) this.#lies(this.places.get(part), to);
    return '';
  }
  Connect(item, to) {
    this.#do(this.#core.Connect(this.#n, item, to));
    return '';
  }
  TakeOff(item) {
    this.#do(this.#core.TakeOff(this.#n, item));
    return '';
  }
  Lift(inches) {
    this.#do(this.#core.Lift(this.#n, inches));
    this.#lies(4, inches);
    return '';
  }
  Tap(open) {
    this.#do(this.#core.Tap(this.#n, open));
    this.#lies(5, Number(open));
    return '';
  }
  Connections() {
    return this.connections;
  }
  Happened(since) {
    return this.#lines.slice(since).join('\n');
  }
  Describe() {
    return this.#core.Describe(this.#n);
  }
  Sheet() {
    return this.sheet;
  }
  SheetVersion() {
    return this.version;
  }
  Confirm() {
    return this.#answered(this.#say({ kind: 'confirm' }));
  }
  See(value) {
    return this.#answered(this.#say({ kind: 'see', value }));
  }
  Take(value) {
    return this.#answered(this.#say({ kind: 'take', value }));
  }
  Write(item, value) {
    return this.#core.Write(this.#n, item, value);
  }
  Find(finding, stands) {
    this.#do(this.#core.Find(this.#n, finding, stands));
  }
  Conclude(verdict) {
    this.#do(this.#core.Conclude(this.#n, verdict));
  }
  Try(which) {
    this.#trying = true;
    this.#core.Try(this.#n, which);
  }
  Tried() {
    return this.told;
  }
  StepBack() {
    return this.#goBack(this.#core.StepBack(this.#n));
  }
  Back(tick) {
    return this.#goBack(this.#core.Back(this.#n, tick), tick);
  }
  Seek(tick) {
    return this.#goBack(this.#core.Seek(this.#n, tick), tick);
  }
  Recording() {
    // Nothing was done since it was heard, but time has passed.
    return this.recording && JSON.stringify({ ...JSON.parse(this.recording), ticks: this.now });
  }
}
