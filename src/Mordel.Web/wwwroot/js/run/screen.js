// The run screen. It shows a view and sends entries; what can be done, and which entries that makes, comes with the
// view. It does not know who made it: the server, or the core on this device.
import { dialog } from './dialog.js';
import { draft } from './fill.js';
import { Gauge } from './gauge.js';
import { keys } from './keys.js';
import { numbers } from './numbers.js';
import { renew } from './renew.js';
import { together } from '../together.js';
import { cue, keepSetting, setting } from './settings.js';
import { sheet } from './sheet.js';
import { slate } from './slate.js';
import { handsFree } from './handsfree.js';
import { watch } from './watch.js';

// Milliseconds after which it is said that something waits, where the device answers by itself.
const PATIENCE = 3000;
const nothing = { key: '', stage: '', title: '', instructions: [], sights: [], watch: null, why: '', caution: null };

const screen = {
  waiting: 0,
  since: null,
  // Whether the core on this device answers.
  isHome: false,
  waitsLong: false,
  problem: '',
  lastTap: null,
  queue: Promise.resolve(),
  expert: setting('expert'),
  sound: setting('sound'),
  buzz: setting('buzz'),

  init() {
    document.querySelector('.run.first')?.remove();
    const heard = {
      view: event => this.show(event.detail),
      waiting: event => this.waits(event.detail),
      refused: event => (this.problem = event.detail),
      home: () => (this.isHome = true),
    };
    for (const [name, hear] of Object.entries(heard)) this.link.addEventListener(name, hear);
    this.isHome = this.link.isHere;
    this.sheetOpen = this.$refs.sheet.open = !matchMedia('(max-width: 67.99rem)').matches;
    this.pressed = event => this.key(event);
    addEventListener('keydown', this.pressed);
    this.$refs.drawing.innerHTML = this.view.drawing;
    this.beats = setInterval(() => this.beat(), 250);
    this.gauge = new Gauge(this.run);
    this.gauge.addEventListener('line', event => this.hear(event.detail));
    this.gauge.step(this.now.key);
    this.begin();
    this.link.send();
  },
  waits(many) {
    this.waiting = many;
    if (many === 0) this.since = null;
    else this.since ??= Date.now();
    this.waitsLong = many > 0 && Date.now() - this.since > PATIENCE;
    clearTimeout(this.patience);
    if (many > 0 && !this.waitsLong) this.patience = setTimeout(() => this.waits(this.waiting), PATIENCE);
  },
  destroy() {
    removeEventListener('keydown', this.pressed);
    clearInterval(this.beats);
    this.gauge.end();
    this.link.end();
    this.rest();
  },
  show(view) {
    // Nobody looks any more, or what comes is older than what stands here.
    if (!this.$refs.drawing || view.entries < this.view.entries) return;
    const moved = view.now?.key !== this.view.now?.key;
    // Digits typed while an answer was on its way belong to the number that is still asked for.
    if (view.now?.capture?.key !== this.capture?.key) this.clearSlate();
    const held = document.activeElement?.dataset?.part;
    if (view.drawing !== this.view.drawing) this.$refs.drawing.innerHTML = view.drawing;
    if (held && document.activeElement?.dataset?.part !== held)
      this.$refs.drawing.querySelector(`[data-part="${held}"]`)?.focus();
    renew(this.view, view);
    if (view.sealed || (!view.now && !view.paused && moved))
      location.href = view.sealed ? this.about.report : this.about.verdict;
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
  // Where the device answers, what is on its way for a moment is not worth a line.
  get showsWaiting() {
    return this.waiting > 0 && (!this.isHome || this.waitsLong);
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
  // Nobody sees them otherwise.
  get rows() {
    return this.showsExpert ? this.view.expert : [];
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

/**
 * The screen of a run.
 * @param here What it begins with: run, view, about (what is said beside the view), link, readonly.
 */
export const runScreen = here =>
  Object.assign(together([dialog, slate, watch, handsFree, numbers, sheet, keys, screen]), here);
