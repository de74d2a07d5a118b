// A recording on the screen: a rig that plays what was done, from any moment.
import { Beside } from './beside.js';
import { Desk } from './desk.js';
import { Face } from './face.js';
import { make } from './make.js';
import { Rig } from './rig.js';

export class Player {
  constructor(core, n, host, { title, refused }) {
    this.own = new Beside(core, { flow: 'LeftToRight', refused, n, most: 240 });
    this.desk = new Desk(this.own);
    this.drawing = make('div', { className: 'drawn' });
    this.face = make('div', { className: 'face-small' });
    this.caption = make('p', { className: 'caption', role: 'status' });
    host.replaceChildren(
      ...(title ? [make('h2', { textContent: title })] : []),
      this.drawing,
      make('div', { className: 'under' }, this.face, this.caption),
    );
  }

  /** Plays the recording once through, so that any moment of it is near. */
  async load(recording, progress) {
    this.end = await this.own.load(recording);
    if (this.end < 0) throw new Error('This recording cannot be read.');
    this.desk.layout();
    this.desk.advance(0);
    for (let tick = 0; tick < this.end; tick = Math.min(this.end, tick + 1800)) {
      await this.desk.seek(Math.min(this.end, tick + 1800));
      progress(tick / this.end);
    }
    this.rig = new Rig(this.drawing, this.desk);
    // Nothing can be turned in a replay: what is seen is told below it.
    this.rig.svg.setAttribute('aria-hidden', 'true');
    for (const part of this.rig.svg.querySelectorAll('[tabindex]')) part.removeAttribute('tabindex');
    this.dial = new Face(this.face, this.desk.plan);
    await this.seek(0);
  }

  /** Goes to a moment; of many that are wanted while the water is on its way to one, the last counts. */
  seek(tick) {
    this.wanted = Math.min(tick, this.end);
    return (this.seeking ??= this.#seek().finally(() => (this.seeking = null)));
  }

  async #seek() {
    for (let at = -1; at !== this.wanted;) {
      at = this.wanted;
      await this.desk.seek(at);
    }
    this.told = this.desk.happened;
    this.show(0);
  }

  advance(ticks) {
    if (!this.seeking) this.desk.advance(Math.max(0, Math.min(ticks, this.end - this.own.ahead)));
  }

  show(dt) {
    this.rig.show(dt);
    this.dial.show(this.desk.needle);
    if (this.desk.happened > this.told) {
      this.caption.textContent = this.desk.news(this.told).slice(-2).join(' ');
      this.told = this.desk.happened;
    }
  }
}
