// The bench's clock: runs, slows, stands still, goes back; tells everybody of every frame.
import { button, by, clock, make } from './make.js';

export class Clock {
  constructor(
    desk,
    {
      frame,
      pace = [
        ['¼×', 0.25],
        ['1×', 1],
        ['4×', 4],
      ],
      mayPause = true,
      back = null,
      changed = () => {},
    },
  ) {
    Object.assign(this, {
      desk,
      frame,
      mayPause,
      back,
      changed,
      speed: 1,
      running: true,
      rest: 0,
      last: 0,
      longest: 0,
    });
    this.play = button('Pause', () => this.toggle(), 'btn btn-quiet play', { hidden: !mayPause });
    this.paces = pace.map(([name, speed]) => {
      const b = button(
        name,
        () => {
          this.speed = speed;
          this.mark();
        },
        'quiet pace',
        { ariaPressed: String(speed === 1), ariaLabel: `Time ${name}` },
      );
      b.speed = speed;
      return b;
    });
    this.shown = make('span', { className: 'num time', ariaLabel: 'Time' });
    const parts = [this.play, make('span', { className: 'paces', hidden: !mayPause }, ...this.paces), this.shown];
    if (back) {
      this.slide = make('input', {
        type: 'range',
        min: 0,
        max: 1,
        value: 1,
        className: 'form-range when',
        ariaLabel: 'Step back to an earlier moment',
        oninput: () => {
          this.sliding = true;
          this.pause();
          this.shown.textContent = clock(this.slide.value / 60);
        },
        onchange: () => {
          this.sliding = false;
          this.back(Number(this.slide.value));
        },
      });
      parts.push(
        this.slide,
        button(
          '10 s back',
          () => {
            this.back(Math.max(0, this.desk.tick - 600));
          },
          'quiet words',
        ),
      );
    }
    by('clock').replaceChildren(...parts);
    requestAnimationFrame(now => this.#beat(now));
  }

  mark() {
    for (const b of this.paces) b.setAttribute('aria-pressed', String(b.speed === this.speed));
  }
  pause() {
    if (this.mayPause) {
      this.running = false;
      this.play.textContent = 'Go on';
      this.changed();
    }
  }
  go() {
    this.running = true;
    this.play.textContent = 'Pause';
    this.changed();
  }
  toggle() {
    if (this.running) this.pause();
    else this.go();
  }

  #beat(now) {
    const dt = Math.min(0.25, Math.max(0, (now - (this.last || now)) / 1000));
    this.last = now;
    this.rest += this.running ? dt * this.speed * 60 : 0;
    const ticks = Math.min(60, Math.round(this.rest));
    this.rest -= ticks;
    if (Math.abs(this.rest) > 60) this.rest = 0;
    this.desk.advance(ticks);
    this.frame(this.running ? dt * this.speed : 0, dt);
    const text = clock(this.desk.seconds);
    if (!this.sliding && this.shown.textContent !== text) {
      this.shown.textContent = text;
      if (this.slide) {
        this.slide.max = this.desk.tick;
        this.slide.value = this.desk.tick;
      }
    }
    requestAnimationFrame(next => this.#beat(next));
  }
}
