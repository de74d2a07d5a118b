// The rig on the screen: what the core drew, set sixty times a second from its row of numbers. No rule and no physics
// stands here.
import { set } from './make.js';
import { Fittings } from './fittings.js';
import { turned } from './desk.js';

export class Rig {
  constructor(host, desk) {
    this.desk = desk;
    this.host = host;
    host.innerHTML = desk.plan.svg;
    host.inert = false;
    this.svg = host.querySelector('svg');
    const all = (name, make) =>
      [...this.svg.querySelectorAll(`[data-${name}]`)].map(element => make(element, element.dataset));
    this.cells = all('cell', (el, d) => ({ el, cell: d.cell, beyond: d.beyond, top: d.top && +d.top, tall: +d.tall }));
    this.flows = all('flow', (el, d) => ({ el, part: d.flow, off: 0 }));
    this.bores = all('bore', (el, d) => ({ el, part: d.bore, x: d.x, y: d.y, upright: d.upright }));
    this.handles = all('handle', (el, d) => ({ el, part: d.handle, x: d.x, y: d.y, upright: d.upright }));
    this.knobs = all('knob', (el, d) => ({ el, part: d.knob, x: d.x, y: d.y }));
    this.discs = all('disc', (el, d) => ({ el, part: d.disc, way: +d.way, down: d.down }));
    this.coils = all('coil', (el, d) => ({ el, part: d.coil, x: +d.x }));
    this.screws = all('screw', (el, d) => ({ el, part: d.screw }));
    this.spills = all('spill', (el, d) => spill(el, d.spill));
    this.height = this.svg.querySelector('[data-height]');
    this.rail = this.svg.querySelector('[data-rail]');
    this.tap = this.svg.querySelector('[data-tap]');
    this.tapHandle = this.svg.querySelector('[data-tap-handle]');
    this.sliders = all('part', el => el).filter(
      el => el.getAttribute('role') === 'slider' && el.dataset.part !== 'height',
    );
    this.fittings = new Fittings(this);
  }

  // The depth of the water's hue: half of it tells what is missing to the most there is, half what is above nothing, so
  // that two psi show at sixty and at none.
  depth(psi) {
    const most = Math.max(1, this.desk.most),
      whole = Math.log1p(most / 0.5),
      p = Math.min(most, Math.max(0, psi));
    return 0.12 + 0.44 * (1 - Math.log1p((most - p) / 0.5) / whole) + (0.44 * Math.log1p(p / 0.5)) / whole;
  }

  // Beside a standing assembly heights are told against the cock in use, which stands an inch above the middle.
  get against() {
    const { connections, plan } = this.desk,
      on = plan.heightBy.map(id => connections.get(id)).find(cock => cock && plan.outlets[cock]);
    const heights = Object.values(plan.outlets).map(([, y]) => y);
    return on ? plan.outlets[on][1] : (Math.min(...heights) + Math.max(...heights)) / 2;
  }

  level(inches) {
    const s = this.desk.plan.scale;
    if (s.stands) return this.against - (inches - 1) * s.perInch;
    return inches <= 0
      ? s.centre - inches * s.perInch
      : inches <= 1
        ? s.centre - inches * s.firstInch
        : s.centre - s.firstInch - (inches - 1) * s.perInch;
  }
  inches(y) {
    const s = this.desk.plan.scale;
    if (s.stands) return 1 + (this.against - y) / s.perInch;
    const up = s.centre - y;
    return up <= 0 ? up / s.perInch : up <= s.firstInch ? up / s.firstInch : 1 + (up - s.firstInch) / s.perInch;
  }

  show(dt) {
    const desk = this.desk;
    const depths = new Map();
    const deep = cell => {
      let d = depths.get(cell);
      if (d === undefined) depths.set(cell, (d = this.depth(desk.pressure(cell)).toFixed(2)));
      return d;
    };
    for (const { el, cell, beyond, top, tall } of this.cells) {
      const filled = desk.filled(cell);
      if (beyond) {
        const item = desk.carries(beyond),
          open = desk.opening(beyond) > 0;
        set(
          el,
          'fill-opacity',
          open && (item || desk.spills(beyond) > 0) ? deep(cell) : item && filled > 0.5 ? deep(cell) : 0,
        );
        continue;
      }
      set(el, el.classList.contains('sense-water') ? 'stroke-opacity' : 'fill-opacity', deep(cell));
      if (tall) {
        const h = tall * filled;
        set(el, 'height', h.toFixed(1));
        set(el, 'y', (top + tall - h).toFixed(1));
      }
    }
    for (const flow of this.flows) {
      const q = desk.through(flow.part),
        fast = Math.sign(q) * Math.min(150, 14 * Math.sqrt(Math.abs(q) * 6));
      flow.off = (flow.off - fast * dt) % 168;
      set(flow.el, 'stroke-opacity', Math.abs(q) < 0.0004 ? 0 : Math.min(1, 0.35 + Math.abs(q)).toFixed(2));
      if (Math.abs(q) >= 0.0004) set(flow.el, 'stroke-dashoffset', flow.off.toFixed(1));
    }
    for (const { el, part, x, y, upright } of this.bores) {
      const open = desk.opening(part);
      set(el, 'transform', `rotate(${(upright ? 90 * open : 90 * (1 - open)).toFixed(1)} ${x} ${y})`);
    }
    for (const { el, part, x, y, upright } of this.handles) {
      const open = desk.opening(part);
      set(el, 'transform', `rotate(${(upright ? -90 * open : 90 * (1 - open)).toFixed(1)} ${x} ${y})`);
    }
    for (const { el, part, x, y } of this.knobs)
      set(el, 'transform', `rotate(${(turned('Control', desk.opening(part)) * 300).toFixed(1)} ${x} ${y})`);
    for (const { el, part, way, down } of this.discs) {
      const lift = (way * desk.opening(part)).toFixed(1);
      set(el, 'transform', down ? `translate(0 ${lift})` : `translate(${lift} 0)`);
    }
    for (const { el, part, x } of this.coils) {
      const k = 1 - 0.4 * desk.opening(part);
      set(el, 'transform', `translate(${(x * (1 - k)).toFixed(2)} 0) scale(${k.toFixed(3)} 1)`);
    }
    for (const { el, part } of this.screws)
      set(el, 'transform', `translate(0 ${(-26 * turned('Screw', desk.opening(part))).toFixed(1)})`);
    for (const one of this.spills) run(one, desk.spills(one.part), dt);
    const { stands, centre, perInch } = desk.plan.scale;
    set(
      this.height,
      'transform',
      `translate(0 ${(stands ? -desk.height * perInch : this.level(desk.height) - centre).toFixed(1)})`,
    );
    if (stands) set(this.rail, 'transform', `translate(0 ${this.against.toFixed(1)})`);
    set(this.height, 'aria-valuenow', desk.height.toFixed(1));
    set(this.tapHandle, 'transform', desk.tapOpen ? `rotate(90 ${this.tapX} ${desk.plan.scale.centre - 50})` : '');
    set(this.tap, 'aria-checked', String(desk.tapOpen));
    for (const el of this.sliders) {
      const percent = Math.round(100 * desk.opening(el.dataset.part));
      set(el, 'aria-valuenow', percent);
      set(
        el,
        'aria-valuetext',
        percent === 0 && desk.opening(el.dataset.part) === 0
          ? 'closed'
          : percent >= 99
            ? 'open'
            : `${percent} per cent open`,
      );
    }
    this.fittings.show(dt, deep);
  }

  get tapX() {
    return (this.tapAt ??= this.tapHandle.getBBox().x + 14);
  }

  mark(parts) {
    for (const el of this.svg.querySelectorAll('.part')) el.classList.toggle('now', parts.includes(el.dataset.part));
  }
  choose(part) {
    for (const el of this.svg.querySelectorAll('.part')) el.classList.toggle('chosen', el.dataset.part === part);
  }
  at(event) {
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(this.svg.getScreenCTM().inverse());
    return [point.x, point.y];
  }
}

// Where water leaves to the air: a bead that falls while it drips, a jet once it runs.
export function spill(el, part) {
  const jet = el.querySelector('.jet'),
    long = jet.getTotalLength(),
    points = [];
  for (let i = 0; i <= 20; i++) {
    const p = jet.getPointAtLength((long * i) / 20);
    points.push([p.x.toFixed(1), p.y.toFixed(1)]);
  }
  return { el, part, jet, bead: el.querySelector('.bead'), points, off: 0, phase: 0 };
}

export function run(one, flow, dt) {
  const dry = flow < 0.0006,
    drips = flow < 0.05;
  set(one.el, 'display', dry ? 'none' : 'inline');
  if (dry) {
    one.phase = 0;
    return;
  }
  set(one.jet, 'display', drips ? 'none' : 'inline');
  set(one.bead, 'display', drips ? 'inline' : 'none');
  if (drips) {
    one.phase = (one.phase + dt / Math.min(3, Math.max(0.3, 0.004 / flow))) % 1;
    const [x, y] = one.points[Math.min(20, Math.floor(20 * one.phase * one.phase))];
    set(one.bead, 'cx', x);
    set(one.bead, 'cy', y);
    return;
  }
  one.off = (one.off - 140 * dt) % 40;
  set(one.jet, 'stroke-dashoffset', one.off.toFixed(1));
  set(one.jet, 'stroke-width', Math.min(9, 1.6 + 2.6 * Math.sqrt(flow)).toFixed(1));
}
