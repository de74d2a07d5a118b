// The gauge's face, large: needle for an analog kit, digits for a digital one.
import { draw, set } from './make.js';

export class Face {
  constructor(host, plan) {
    this.full = plan.fullScale;
    this.per = plan.perPsi;
    this.digital = plan.kit === 'digital';
    this.unit = plan.unit;
    const numbers = this.full > 20 ? [0, 20, 40, 60, 80, 100] : [0, 5, 10, 15];
    const step = this.full > 20 ? 2 : 0.2,
      medium = this.full > 20 ? 10 : 1;
    const ticks = [];
    for (let i = 0; i * step <= this.full + 1e-6; i++) {
      const value = i * step,
        long = Math.abs(value / medium - Math.round(value / medium)) < 1e-6;
      ticks.push(
        draw('path', {
          class: long ? 'tick long' : 'tick',
          d: `M120,${long ? 18 : 20} V${long ? 34 : 27}`,
          transform: `rotate(${this.angle(value)} 120 120)`,
        }),
      );
    }
    const labels = numbers.map(n => {
      const a = ((this.angle(n) - 90) * Math.PI) / 180;
      return draw('text', { x: 120 + 72 * Math.cos(a), y: 120 + 72 * Math.sin(a) + 8, class: 'face-number' });
    });
    labels.forEach((label, i) => {
      label.textContent = numbers[i];
    });
    this.needle = draw('path', { class: 'face-needle', d: 'M120,138 L118.5,120 L119.4,22 L120.6,22 L121.5,120 Z' });
    this.digits = draw('text', { x: 120, y: 172, class: 'face-digits' });
    const unit = draw('text', { x: 120, y: this.digital ? 98 : 164, class: 'face-unit' });
    unit.textContent = this.unit;
    host.replaceChildren(
      draw(
        'svg',
        { viewBox: '0 0 240 240', class: 'face', role: 'img', 'aria-label': 'Gauge' },
        draw('circle', { class: 'face-plate', cx: 120, cy: 120, r: 114 }),
        ...ticks,
        ...labels,
        unit,
        ...(this.digital ? [this.digits] : []),
        this.needle,
        draw('circle', { class: 'face-hub', cx: 120, cy: 120, r: 7 }),
      ),
    );
  }

  angle(value) {
    return -135 + (270 * Math.min(this.full * 1.02, Math.max(-this.full * 0.1, value))) / this.full;
  }

  show(psid) {
    const value = psid * this.per;
    set(this.needle, 'transform', `rotate(${this.angle(value).toFixed(2)} 120 120)`);
    if (this.digital) {
      const text = value.toFixed(this.full > 20 ? 1 : 2);
      if (this.digits.textContent !== text) this.digits.textContent = text;
    }
  }
}
