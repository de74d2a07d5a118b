// The run screen. It shows a view and sends entries; what can be done, and which entries that makes, comes with the
// view.
import Alpine from '/lib/alpine.esm.min.js';
import { dialog } from './dialog.js';
import { draft } from './fill.js';
import { Gauge } from './gauge.js';
import { keys } from './keys.js';
import { Link } from './link.js';
import { numbers } from './numbers.js';
import { cue, keepSetting, setting } from './settings.js';
import { sheet } from './sheet.js';
import { slate } from './slate.js';
import { watch } from './watch.js';

const nothing = { key: '', stage: '', title: '', instructions: [], sights: [], watch: null, why: '', caution: null };

const screen = {
  view: JSON.parse(document.querySelector('#view').textContent),
  waiting: 0,
  problem: '',
  readonly: false,
  link: null,
  gauge: null,
  lastTap: null,
  queue: Promise.resolve(),
  expert: setting('expert'),
  sound: setting('sound'),
  buzz: setting('buzz'),

  init() {
    document.querySelector('.run.first')?.remove();
    this.readonly = this.$el.dataset.readonly === 'yes';
    this.link = new Link(this.$el.dataset.run, this.$el.dataset.token);
    this.link.addEventListener('view', event => this.show(event.detail));
    this.link.addEventListener('waiting', event => (this.waiting = event.detail));
    this.link.addEventListener('refused', event => (this.problem = event.detail));
    if (matchMedia('(max-width: 67.99rem)').matches) this.$refs.sheet.open = false;
    addEventListener('keydown', event => this.key(event));
    this.$refs.drawing.innerHTML = this.view.drawing;
    setInterval(() => this.beat(), 250);
    this.gauge = new Gauge(this.$el.dataset.run);
    this.gauge.addEventListener('line', event => (this.shown = event.detail));
    this.gauge.step(this.now.key);
    this.link.send();
  },
  show(view) {
    if (view.entries < this.view.entries) return;
    const moved = view.now?.key !== this.view.now?.key;
    // Digits typed while an answer was on its way belong to the number that is still asked for.
    if (view.now?.capture?.key !== this.capture?.key) this.clearSlate();
    this.view = view;
    const held = document.activeElement?.dataset?.part;
    this.$refs.drawing.innerHTML = view.drawing;
    if (held) this.$refs.drawing.querySelector(`[data-part="${held}"]`)?.focus();
    if (view.sealed || (!view.now && !view.paused && moved))
      location.href = view.sealed ? `/reports/${this.$el.dataset.run}` : `/runs/${this.$el.dataset.run}/verdict`;
    if (!moved) return;
    this.gauge.step(view.now?.key ?? '');
    this.$nextTick(() => {
      const title = document.querySelector('#now-title');
      if (document.activeElement?.id !== 'digits') title?.focus({ preventScroll: true });
      if (title && title.getBoundingClientRect().top < 0) title.scrollIntoView({ block: 'start' });
    });
  },
  /** Does something: asks first where it asks, else makes its entries. */
  act(action, typed = {}) {
    if (!action) return;
    if (action.dialog) this.open(action, typed);
    else this.enter(draft(action, typed));
  },
  async enter(bodies) {
    // The same tap twice while the first is on its way is one tap; another tap waits its turn.
    const tap = JSON.stringify(bodies);
    if (this.readonly || this.lastTap === tap || bodies.length === 0) return;
    this.lastTap = tap;
    this.queue = this.queue
      .then(() => this.link.add(bodies, this.view.nextTick))
      .catch(error => {
        this.problem = `This tap could not be kept on the device: ${error.message}. Enter it again.`;
      })
      .finally(() => {
        if (this.lastTap === tap) this.lastTap = null;
      });
    await this.queue;
  },

  get can() {
    return this.readonly ? {} : (this.view.actions ?? {});
  },
  get hasNow() {
    return !!this.view.now;
  },
  get now() {
    return this.view.now ?? nothing;
  },
  get isTogether() {
    return !!this.view.together;
  },
  get togetherLines() {
    return this.view.together?.lines ?? [];
  },
  get heading() {
    return this.view.together?.title ?? this.now.title;
  },
  get isAgain() {
    return this.now.attempt > 1;
  },
  get againText() {
    return ` · attempt ${this.now.attempt}`;
  },
  get stageCount() {
    const at = this.view.stages.findIndex(s => s.state === 'now');
    return at < 0 ? '' : `${at + 1} of ${this.view.stages.length}`;
  },
  get canConfirm() {
    return !!this.view.actions?.confirm;
  },
  get confirmText() {
    return this.view.actions?.confirm?.text ?? '';
  },
  get sights() {
    return this.can.sights ?? [];
  },
  get offers() {
    return this.can.offers ?? [];
  },
  get tools() {
    return this.can.tools ?? [];
  },
  get question() {
    return this.can.question ?? '';
  },
  get sightsHere() {
    return !this.isTogether && this.sights.length + this.offers.length > 0 && !this.readonly && !this.expert;
  },
  get waitingText() {
    return `${this.waiting} ${this.waiting === 1 ? 'entry is' : 'entries are'} kept on this device and not sent yet.`;
  },
  get isPaused() {
    return !!this.view.paused && !this.view.now;
  },
  get pausedText() {
    return `Broken off for today: ${this.view.paused}. What was read stays on the record.`;
  },
  get isOver() {
    return !this.hasNow && !this.isPaused;
  },
  get showsGuided() {
    return this.hasNow && (!this.expert || this.isTogether);
  },
  get showsExpert() {
    return this.expert && !this.isTogether && this.hasNow;
  },
  get expertText() {
    return this.expert ? 'Step by step' : 'Numbers only';
  },
  get soundText() {
    return `Sound ${this.sound ? 'on' : 'off'}`;
  },
  get buzzText() {
    return `Vibration ${this.buzz ? 'on' : 'off'}`;
  },
  get layout() {
    return [
      this.showsExpert ? 'is-expert' : '',
      this.isTogether ? 'is-together' : '',
      this.captureHere ? 'is-reading' : '',
      this.hasCapture ? '' : 'no-slate',
      this.sightsHere ? 'has-answers' : '',
      this.hasNow ? '' : 'is-done',
    ].join(' ');
  },

  meansOf(action) {
    return this.now.sights.find(sight => sight.seen === action.text)?.means ?? '';
  },
  whyOf(action, i) {
    return this.now.offers?.[i]?.why ?? '';
  },
  touch(event) {
    const part = event.target.closest('[data-part]');
    if (part) this.act(this.can.parts?.[part.dataset.part]);
  },
  toggle(name) {
    this[name] = !this[name];
    keepSetting(name, this[name]);
    if (name !== 'expert' && this[name]) cue(this.sound, this.buzz);
  },
  clearProblem() {
    this.problem = '';
  },
};

// Parts with their getters, put together into one screen.
const together = parts =>
  Object.defineProperties({}, Object.assign({}, ...parts.map(part => Object.getOwnPropertyDescriptors(part))));

Alpine.data('run', () => together([dialog, slate, watch, numbers, sheet, keys, screen]));
Alpine.start();
