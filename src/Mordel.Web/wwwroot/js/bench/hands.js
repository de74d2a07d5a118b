// A learner's hands: mouse, finger and keys on the drawing, and the dock that holds whatever was touched last.
import { button, by, make } from './make.js';
import { opened, takes, turned } from './desk.js';
import { even, heightText, needle, openText } from './openings.js';

export class Hands {
  constructor(rig, refused) {
    this.rig = rig;
    this.desk = rig.desk;
    this.refused = refused;
    this.chosen = null;
    this.drag = null;
    const svg = rig.svg;
    svg.addEventListener('pointerdown', event => this.#down(event));
    svg.addEventListener('pointermove', event => this.#move(event));
    svg.addEventListener('pointerup', event => this.#up(event));
    svg.addEventListener('pointercancel', () => this.#drop());
    svg.addEventListener('keydown', event => this.#key(event));
    svg.addEventListener('focusin', event => {
      const part = event.target.closest?.('.part');
      if (part && !this.drag) this.choose(part.dataset.part);
    });
    svg.addEventListener(
      'wheel',
      event => {
        const part = event.target.closest('.part');
        if (!part || !this.#kind(part.dataset.part) || part.dataset.part !== this.chosen) return;
        event.preventDefault();
        this.nudge(part.dataset.part, event.deltaY < 0 ? 0.02 : -0.02);
      },
      { passive: false },
    );
  }

  #kind(id) {
    return this.desk.part(id)?.turns ? this.desk.part(id).kind : null;
  }
  say(answer) {
    this.refused(answer ?? '');
  }

  nudge(id, by_) {
    const kind = this.#kind(id);
    this.say(this.desk.turn(id, opened(kind, Math.min(1, Math.max(0, turned(kind, this.desk.opening(id)) + by_)))));
  }
  toggle(id) {
    const kind = this.#kind(id),
      open = this.desk.opening(id) > 0.01;
    this.say(this.desk.turn(id, open ? 0 : 1, takes(kind)));
  }

  #down(event) {
    const part = event.target.closest('.part');
    if (!part || event.button > 0) return;
    const id = part.dataset.part,
      was = this.chosen;
    event.preventDefault();
    part.focus({ preventScroll: true });
    this.rig.svg.setPointerCapture(event.pointerId);
    const kind = this.#kind(id);
    this.drag = {
      id,
      kind,
      part,
      was,
      x: event.clientX,
      y: event.clientY,
      moved: false,
      from: kind ? turned(kind, this.desk.opening(id)) : 0,
      carries: 'carry' in part.dataset,
      height: id === 'height',
    };
    this.choose(id);
  }

  #move(event) {
    const drag = this.drag;
    if (!drag) return;
    const dx = event.clientX - drag.x,
      dy = event.clientY - drag.y;
    if (!drag.moved && Math.hypot(dx, dy) < 7) return;
    drag.moved = true;
    const point = this.rig.at(event);
    if (drag.height) this.say(this.desk.lift(Math.round(this.rig.inches(point[1]) * 4) / 4));
    else if (drag.carries) {
      drag.near = this.rig.fittings.near(drag.id, point);
      this.rig.fittings.carried = {
        id: drag.id,
        spot: drag.near && drag.near !== this.desk.teeId ? this.desk.plan.outlets[drag.near] : point,
      };
      this.#light(drag.near);
    } else if (drag.kind)
      this.say(this.desk.turn(drag.id, opened(drag.kind, Math.min(1, Math.max(0, drag.from + (dx - dy) / 170)))));
  }

  #up() {
    const drag = this.drag;
    if (!drag) return;
    if (!drag.moved) {
      if (drag.id === 'site') this.say(this.desk.tap(!this.desk.tapOpen));
      else if (drag.kind && drag.was === drag.id && !drag.carries) this.toggle(drag.id);
    } else if (drag.carries) this.say(drag.near ? this.desk.connect(drag.id, drag.near) : this.desk.takeOff(drag.id));
    this.#drop();
    this.dock(true);
  }

  #drop() {
    this.drag = null;
    this.rig.fittings.carried = null;
    this.#light(null);
  }
  #light(outlet) {
    for (const el of this.rig.svg.querySelectorAll('.part')) el.classList.toggle('takes', el.dataset.part === outlet);
  }

  #key(event) {
    const part = event.target.closest('.part');
    if (!part || event.ctrlKey || event.metaKey || event.altKey) return;
    const id = part.dataset.part,
      kind = this.#kind(id);
    const step = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1, PageUp: 5, PageDown: -5 }[event.key];
    if (id === 'height' && step) this.say(this.desk.lift(Math.round(2 * this.desk.height) / 2 + step / 2));
    else if (id === 'site' && ['Enter', ' '].includes(event.key)) this.say(this.desk.tap(!this.desk.tapOpen));
    else if (kind && step) this.nudge(id, step * 0.02);
    else if (kind && event.key === 'Home') this.say(this.desk.turn(id, 0, takes(kind)));
    else if (kind && event.key === 'End') this.say(this.desk.turn(id, 1, takes(kind)));
    else if (['Enter', ' '].includes(event.key)) {
      if (kind && !('carry' in part.dataset)) this.toggle(id);
      else {
        this.choose(id);
        by('hand').querySelector('button, input')?.focus();
      }
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }

  choose(id) {
    if (this.chosen === id) return;
    this.chosen = id;
    this.rig.choose(id);
    this.dock(true);
  }

  // The dock: whatever is in the hand, with a slider and plain buttons; made anew when the thing or its place changes.
  dock(anew = false) {
    const host = by('hand'),
      id = this.chosen,
      desk = this.desk;
    if (!id) return;
    const part = desk.part(id),
      kind = this.#kind(id),
      on = desk.connections.get(id),
      key = `${id} ${on ?? ''} ${[...desk.connections.values()].join()}`;
    if (!anew || (this.docked === key && host.contains(document.activeElement))) {
      this.#follow();
      if (this.docked === key) return;
    }
    this.docked = key;
    const title = id === 'height' ? 'Gauge height' : id === 'site' ? 'Tap downstream' : part.label;
    this.state = make('span', { className: 'hand-state num' });
    const rows = [make('h2', { id: 'hand-title' }, title, ' ', this.state)];
    this.slider = null;
    if (kind && (id !== this.desk.teeId || on)) {
      this.slider = make('input', {
        type: 'range',
        min: 0,
        max: 1000,
        step: 1,
        className: 'form-range',
        ariaLabel: `${title}, how far open`,
        oninput: () => this.say(desk.turn(id, opened(kind, this.slider.value / 1000))),
      });
      rows.push(
        this.slider,
        make(
          'p',
          { className: 'hand-acts' },
          ...(kind === 'Shutoff' || kind === 'Cock' ? even : needle).map(([name, turn]) =>
            button(
              name,
              () =>
                this.say(
                  desk.turn(
                    id,
                    opened(kind, turn),
                    takes(kind) * Math.max(0.4, Math.abs(turn - turned(kind, desk.opening(id)))),
                  ),
                ),
              'btn btn-quiet',
              { ariaLabel: `${name} ${title}` },
            ),
          ),
        ),
      );
    }
    if (id === 'height') {
      this.slider = make('input', {
        type: 'range',
        min: desk.plan.scale.low,
        max: desk.plan.scale.high,
        step: 0.25,
        className: 'form-range',
        ariaLabel: 'Gauge height in inches',
        oninput: () => this.say(desk.lift(Number(this.slider.value))),
      });
      rows.push(
        this.slider,
        make(
          'p',
          { className: 'hand-acts' },
          ...[
            ['−2', -2],
            ['−½', -0.5],
            ['+½', 0.5],
            ['+2', 2],
          ].map(([name, inches]) =>
            button(name, () => this.say(desk.lift(desk.height + inches)), 'btn btn-quiet', {
              ariaLabel: `${name}: gauge ${Math.abs(inches)} inches ${inches < 0 ? 'lower' : 'higher'}`,
            }),
          ),
        ),
      );
    }
    if (id === 'site')
      rows.push(
        make(
          'p',
          { className: 'hand-acts' },
          button('Open or shut it', () => this.say(desk.tap(!desk.tapOpen))),
        ),
      );
    if (part?.attaches) {
      const outlets = [
        ...Object.keys(desk.plan.outlets),
        ...(id !== this.desk.teeId && desk.plan.ports[id] && desk.connections.has(this.desk.teeId)
          ? [this.desk.teeId]
          : []),
      ].filter(outlet => !desk.carries(outlet));
      rows.push(
        make(
          'p',
          { className: 'hand-acts' },
          ...outlets.map(outlet =>
            button(
              `${on ? 'Move to' : 'On'} ${outlet === this.desk.teeId ? 'the tee' : desk.part(outlet).label}`,
              () => {
                this.say(desk.connect(id, outlet));
                this.dock(true);
              },
            ),
          ),
          ...(on
            ? [
                button('Take off', () => {
                  this.say(desk.takeOff(id));
                  this.dock(true);
                }),
              ]
            : []),
        ),
      );
    }
    host.replaceChildren(...rows);
    this.#follow();
  }

  #follow() {
    const id = this.chosen,
      desk = this.desk,
      kind = this.#kind(id),
      on = desk.connections.get(id);
    const text =
      id === 'height'
        ? heightText(desk)
        : id === 'site'
          ? desk.tapOpen
            ? 'open'
            : 'shut'
          : kind && (id !== this.desk.teeId || on)
            ? openText(desk.opening(id))
            : '';
    const where = desk.part(id)?.attaches ? (on ? `on ${desk.part(on).label} ` : 'off ') : '';
    if (this.state && this.state.textContent !== where + text) this.state.textContent = where + text;
    if (this.slider && document.activeElement !== this.slider)
      this.slider.value = id === 'height' ? desk.height : 1000 * turned(kind, desk.opening(id));
  }
}
