// Hoses, tube and tee: what has a free end that a hand carries about.
import { draw, set } from './make.js';
import { run, spill } from './rig.js';

export class Fittings {
  constructor(rig) {
    this.rig = rig;
    this.desk = rig.desk;
    this.carried = null;
    const svg = rig.svg,
      plan = this.desk.plan;
    this.hoses = Object.keys(plan.ports).map(id => this.#hose(id, svg.querySelector('[data-hoses]')));
    this.tube = this.#tube(svg.querySelector('[data-fittings]'));
    this.tee = this.#tee(svg.querySelector('[data-fittings]'));
  }

  #group(parent, id, label, ...children) {
    const group = draw(
      'g',
      { class: 'part carried', 'data-part': id, 'data-carry': '', tabindex: 0, role: 'button', 'aria-label': label },
      ...children,
    );
    parent.append(group);
    return group;
  }

  #spill(parent, part, path) {
    const el = draw(
      'g',
      { class: 'spill', 'data-spill': part },
      draw('path', { class: 'jet', d: path }),
      draw('circle', { class: 'bead', r: 3.5 }),
    );
    parent.append(el);
    return spill(el, part);
  }

  #hose(id, parent) {
    const css = `hose-${this.desk.plan.letters[id].toLowerCase()}`;
    const wall = draw('path', { class: `hose-wall ${css}-wall` }),
      air = draw('path', { class: 'hose-air' }),
      water = draw('path', { class: `hose-water ${css}` });
    const grip = draw(
      'g',
      {},
      draw('rect', { class: 'target', x: -28, y: -28, width: 56, height: 56 }),
      draw('circle', { class: 'hose-tag', r: 16 }),
      Object.assign(draw('text', { class: 'hose-letter', y: 6.5, 'text-anchor': 'middle' }), {
        textContent: this.desk.plan.letters[id],
      }),
    );
    const group = this.#group(parent, id, this.desk.part(id).label, wall, air, water);
    const jet = this.#spill(group, id, 'M0,0 C0,16 6,30 8,52');
    group.append(grip);
    return { id, group, wall, air, water, grip, jet, side: this.desk.part(id).side, tap: null };
  }

  #tube(parent) {
    // Clear pipe with a lip, marks to read the level by, a hexagon below that screws onto the cock.
    const water = draw('rect', { class: 'cell', x: -7, y: -88, width: 14, height: 0 });
    const group = this.#group(
      parent,
      this.desk.tubeId,
      'sight tube',
      draw('rect', { class: 'target', x: -28, y: -92, width: 56, height: 96 }),
      draw('rect', { class: 'void glass', x: -7, y: -88, width: 14, height: 76 }),
      water,
      draw('path', { class: 'marks', d: 'M7,-28 H1 M7,-40 H3 M7,-52 H1 M7,-64 H3 M7,-76 H1' }),
      draw('path', { class: 'wall', d: 'M-7,-12 V-86 L-10,-89 M7,-12 V-86 L10,-89' }),
      draw('path', { class: 'shine', d: 'M-3.5,-20 V-80' }),
      draw('path', { class: 'body', d: 'M-11,-14 L-13,-8 L-11,-2 H11 L13,-8 L11,-14 Z M-6,-2 H6 V3 H-6 Z' }),
    );
    return {
      id: this.desk.tubeId,
      group,
      water,
      jet: this.#spill(group, this.desk.tubeId, 'M0,-88 C8,-96 16,-80 18,-10'),
    };
  }

  #tee(parent) {
    const handle = draw('path', { class: 'handle', d: 'M-30,-18 V-32' });
    const group = this.#group(
      parent,
      this.desk.teeId,
      'bleed-off tee',
      draw('rect', { class: 'target', x: -44, y: -46, width: 72, height: 52 }),
      draw('path', { class: 'body', d: 'M-10,0 V-34 H10 V0 Z M-10,-12 H-26 V-24 H-10' }),
      draw('circle', { class: 'knob', cx: -30, cy: -18, r: 9 }),
      handle,
    );
    return {
      id: this.desk.teeId,
      group,
      handle,
      jet: this.#spill(group, this.desk.teeId, 'M-38,-12 C-48,-6 -52,8 -52,40'),
    };
  }

  // Where a thing's free end is now: carried by the hand, on an outlet, or at rest.
  spot(id) {
    if (this.carried?.id === id) return this.carried.spot;
    const on = this.desk.connections.get(id),
      plan = this.desk.plan;
    if (on) {
      const [x, y] = plan.outlets[on] ?? this.spot(this.desk.teeId);
      return on === this.desk.teeId ? [x, y - 34] : [x, y];
    }
    if (plan.ports[id]) return [plan.ports[id][0] + 10, plan.ports[id][1] + 62];
    return plan.shelf[id];
  }

  // The outlet nearest to a point, where the thing could go; null when none is near.
  near(id, [x, y]) {
    const plan = this.desk.plan,
      free = Object.entries(plan.outlets).map(([cock, spot]) => [cock, spot]);
    const tee = this.desk.connections.get(this.desk.teeId);
    if (tee && id !== this.desk.teeId && plan.ports[id]) {
      const [tx, ty] = plan.outlets[tee];
      free.push([this.desk.teeId, [tx, ty - 34]]);
    }
    const open = free.filter(([outlet]) => {
      const there = this.desk.carries(outlet);
      return !there || there === id;
    });
    const [best] = open
      .map(([outlet, spot]) => [outlet, Math.hypot(spot[0] - x, (spot[1] - y) * 0.7)])
      .sort((a, b) => a[1] - b[1]);
    return best && best[1] < 52 ? best[0] : null;
  }

  show(dt, deep) {
    const desk = this.desk;
    for (const hose of this.hoses) {
      const [x0, y0] = desk.plan.ports[hose.id],
        [x, y] = this.spot(hose.id),
        on = desk.connections.get(hose.id);
      // Onto a standing assembly's cock a hose comes from the side.
      const aside = desk.plan.scale.stands && on && on !== this.desk.teeId;
      const pull = Math.max(20, Math.min(90, (y - y0) * 0.55));
      const bend = `${(aside ? x - 60 : x).toFixed(1)},${(aside ? y : y - pull).toFixed(1)}`;
      const d = `M${x0},${y0} C${x0},${y0 + pull} ${bend} ${x.toFixed(1)},${y.toFixed(1)}`;
      for (const path of [hose.wall, hose.air, hose.water]) set(path, 'd', d);
      set(hose.water, 'stroke-opacity', (Number(deep(hose.side)) * (1 - Math.max(0, desk.airIn(hose.id)))).toFixed(2));
      set(
        hose.grip,
        'transform',
        `translate(${(aside ? x - 24 : x).toFixed(1)} ${(on && !aside ? y - 22 : y).toFixed(1)})`,
      );
      set(hose.jet.el, 'transform', `translate(${x.toFixed(1)} ${(y + 12).toFixed(1)})`);
      run(hose.jet, desk.spills(hose.id), dt);
      set(hose.group, 'aria-label', `${desk.part(hose.id).label}, ${on ? `on ${desk.part(on).label}` : 'loose'}`);
    }
    for (const item of [this.tube, this.tee]) {
      const [x, y] = this.spot(item.id),
        on = desk.connections.get(item.id);
      const lies = item === this.tube && !on && this.carried?.id !== item.id;
      set(item.group, 'transform', `translate(${x.toFixed(1)} ${y.toFixed(1)})${lies ? ' rotate(90)' : ''}`);
      set(
        item.group,
        'aria-label',
        `${desk.part(item.id).label}, ${on ? `on ${desk.part(on).label}` : 'on the shelf'}`,
      );
      set(
        (item.label ??= this.rig.svg.querySelector(`[data-shelf="${item.id}"]`)),
        'visibility',
        on ? 'hidden' : 'visible',
      );
      run(item.jet, on ? desk.spills(item.id) : 0, dt);
    }
    const level = Math.max(0, desk.tube) * 88;
    set(this.tube.water, 'height', level.toFixed(1));
    set(this.tube.water, 'y', (-level).toFixed(1));
    set(this.tube.water, 'fill-opacity', 0.4);
    set(this.tee.handle, 'transform', `rotate(${(90 * Math.cbrt(desk.opening(this.desk.teeId))).toFixed(1)} -30 -18)`);
  }
}
