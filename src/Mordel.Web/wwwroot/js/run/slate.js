// The slate: the number that is asked for, typed or captured from a gauge that streams.
import { typedNumber } from './fill.js';

export const slate = {
  digits: '',
  weighed: null,
  keypad: ['1', '2', '3', '4', '5', '6', '7', '8', '9', '.', '0', '⌫'],
  gaugeSource: '',
  shown: null,
  captured: '',

  get capture() {
    return this.view.now?.capture ?? null;
  },
  get hasCapture() {
    return !!this.capture && !this.readonly && !this.expert;
  },
  get captureHere() {
    return this.capture?.key === this.now.key;
  },
  get captureName() {
    return this.capture?.name ?? '';
  },
  get captureUnit() {
    return this.capture?.unit ?? '';
  },
  get captureLimit() {
    return this.capture?.provisional ? 'Held in case it is needed' : (this.capture?.limit ?? 'Written down, no limit');
  },
  get value() {
    return this.can.slate ? typedNumber(this.can.slate.pattern, this.digits) : '';
  },
  get cannotTake() {
    return !this.value || this.readonly;
  },
  get takeText() {
    if (!this.holdOnSlate) return this.can.slate?.take.text ?? '';
    if (!this.holdRuns) return 'Start the watch from here';
    return this.holdLeft > 0 ? 'End the watch early…' : 'End the watch and record';
  },
  get weighedText() {
    if (!this.weighed) return this.captureHere ? '' : 'Recording it now takes the steps before it as done.';
    const { margin, result, warnings } = this.weighed;
    return [margin ? `${{ pass: 'Passes', fail: 'Fails' }[result] ?? ''} ${margin}.` : '', ...warnings].join(' ');
  },
  get weighedClass() {
    return this.weighed?.result ?? '';
  },
  get canGlimpse() {
    return this.hasCapture && !!this.can.slate?.passing && !!this.value;
  },
  keyLabel: key => (key === '⌫' ? 'Delete the last digit' : key),

  press(key) {
    this.digits = key === '⌫' ? this.digits.slice(0, -1) : this.digits + key;
    this.weigh();
  },
  async weigh() {
    const value = this.value;
    if (!value || this.capture?.kind !== 'differential') {
      this.weighed = null;
      return;
    }
    const answer = await this.link.weigh({ step: this.capture.key, value });
    if (value === this.value) this.weighed = answer;
  },
  clearSlate() {
    this.digits = '';
    this.weighed = null;
  },
  take() {
    if (this.cannotTake) {
      if (!this.digits && this.can.confirm && !this.isTogether) this.act(this.can.confirm);
      return;
    }
    if (this.holdOnSlate) {
      this.needle = this.value;
      this.clearSlate();
      this.watch();
      return;
    }
    this.act(this.can.slate.take, { value: this.value });
  },
  glimpse() {
    this.act(this.can.slate.passing, { value: this.value });
    this.digits = '';
  },

  get gaugeOn() {
    return !!this.gaugeSource;
  },
  get gaugeText() {
    return this.shown ? this.shown.value.toFixed(this.shown.unit === 'kPa' ? 1 : 2) : '– –';
  },
  get gaugeUnit() {
    return this.shown?.unit ?? this.captureUnit;
  },
  get gaugeSays() {
    const s = this.shown;
    if (!s) return this.gaugeOn ? 'No line from the gauge. Type the number, or wait.' : '';
    const rate = Math.abs(s.rate ?? 0);
    const moving = `${s.rate < 0 ? 'Falling' : 'Rising'} ${rate.toFixed(rate < 0.1 ? 3 : 2)} a second`;
    const battery = s.battery === undefined ? '' : `battery ${Math.round(100 * s.battery)} %`;
    const by = s.by ? `by ${s.by}` : '';
    return [rate < 0.005 ? 'Still' : moving, battery, by].filter(Boolean).join(' · ');
  },
  get gaugeSimulated() {
    return this.gaugeOn && (this.gaugeSource !== 'bridge' || !!this.shown?.simulated);
  },
  get canCapture() {
    return this.gaugeOn && !!this.shown && this.capture?.kind === 'differential' && !this.readonly;
  },
  get cannotCapture() {
    return !this.canCapture;
  },
  useGauge(event) {
    this.gaugeSource = event.target.value;
    this.gauge.use(this.gaugeSource);
  },
  // What the gauge shows at this moment, rounded and weighed by the core.
  async captureNow() {
    if (!this.canCapture) return;
    const { take } = this.can.slate;
    const { key, unit } = this.capture;
    const speed = Math.abs(this.shown.rate ?? 0).toFixed(3);
    const weighed = await this.link.weigh({ step: key, shown: this.shown.value, speed });
    if (!weighed) {
      this.problem = 'The server did not answer: capture it again, or type the number.';
      return;
    }
    if (this.holdOnSlate) {
      this.needle = weighed.rounded;
      this.watch();
      return;
    }
    const moving = speed > 0.005 ? `, moving ${Number(speed)} a second` : ', still';
    this.captured = [`Captured ${weighed.rounded} ${unit}${moving}.`, ...weighed.warnings].join(' ');
    this.act(take, { value: weighed.rounded, speed });
  },
};
