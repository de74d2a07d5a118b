// The run screen. It shows a view and sends entries; what a step needs, means or leads to is decided by the core.
import Alpine from '/lib/alpine.esm.min.js';
import * as asks from './ask.js';
import { Gauge } from './gauge.js';
import { Link } from './link.js';
import { cue, keepSetting, setting } from './settings.js';

const marks = { done: '✓', 'passed-over': '·', seen: '!', now: '▸', ahead: ' ' };
const states = {
  done: ' (done)',
  'passed-over': ' (passed over)',
  seen: ' (something was seen)',
  now: ' (now)',
  ahead: '',
};
const empty = {
  key: '',
  stage: '',
  title: '',
  instructions: [],
  sights: [],
  capture: null,
  watch: null,
  why: '',
  caution: null,
};
const partChips = {
  so: ['Leaks', 'Will not close', 'Handle broken'],
  tc: ['Blocked', 'Drips', 'Handle missing'],
  cv: ['Noisy'],
  other: ['Damaged', 'Leaks'],
};

Alpine.data('run', () => ({
  view: JSON.parse(document.querySelector('#view').textContent),
  digits: '',
  weighed: null,
  waiting: 0,
  problem: '',
  ask: asks.nothing(),
  readonly: false,
  link: null,
  keypad: ['1', '2', '3', '4', '5', '6', '7', '8', '9', '.', '0', '⌫'],
  lastTap: null,
  queue: Promise.resolve(),
  expert: setting('expert'),
  sound: setting('sound'),
  buzz: setting('buzz'),
  clock: Date.now(),
  cued: '',
  needle: '',
  gauge: null,
  gaugeSource: '',
  shown: null,
  captured: '',

  init() {
    this.readonly = this.$el.dataset.readonly === 'yes';
    this.link = new Link(this.$el.dataset.run, this.$el.dataset.token);
    this.link.addEventListener('view', event => this.show(event.detail));
    this.link.addEventListener('waiting', event => {
      this.waiting = event.detail;
    });
    this.link.addEventListener('refused', event => {
      this.problem = event.detail;
    });
    if (matchMedia('(max-width: 67.99rem)').matches) this.$refs.sheet.open = false;
    addEventListener('keydown', event => this.key(event));
    this.$refs.drawing.innerHTML = this.view.drawing;
    setInterval(() => this.beat(), 250);
    this.gauge = new Gauge(this.$el.dataset.run);
    this.gauge.addEventListener('line', event => {
      this.shown = event.detail;
    });
    this.gauge.step(this.now.key);
    this.link.send();
  },
  show(view) {
    if (view.entries < this.view.entries) return;
    const moved = view.now?.key !== this.view.now?.key;
    // Digits typed while an answer was on its way belong to the number that is still asked for.
    if (view.now?.capture?.key !== this.capture?.key) {
      this.digits = '';
      this.weighed = null;
    }
    this.view = view;
    const held = document.activeElement?.dataset?.part;
    this.$refs.drawing.innerHTML = view.drawing;
    if (held) this.$refs.drawing.querySelector(`[data-part="${held}"]`)?.focus();
    if (view.sealed || (!view.now && !view.paused && moved))
      location.href = view.sealed ? `/reports/${this.$el.dataset.run}` : `/runs/${this.$el.dataset.run}/verdict`;
    if (moved) this.gauge.step(view.now?.key ?? '');
    if (moved)
      this.$nextTick(() => {
        const title = document.querySelector('#now-title');
        if (document.activeElement?.id !== 'digits') title?.focus({ preventScroll: true });
        if (title && title.getBoundingClientRect().top < 0) title.scrollIntoView({ block: 'start' });
      });
  },
  async enter(bodies) {
    // The same tap twice while the first is on its way is one tap; another tap waits its turn.
    const tap = JSON.stringify(bodies);
    if (this.readonly || this.lastTap === tap) return;
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

  get hasNow() {
    return !!this.view.now;
  },
  get now() {
    return this.view.now ?? empty;
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
  get again() {
    return this.now.attempt > 1;
  },
  get stageCount() {
    const at = this.view.stages.findIndex(s => s.state === 'now');
    return at < 0 ? '' : `${at + 1} of ${this.view.stages.length}`;
  },
  get againText() {
    return ` · attempt ${this.now.attempt}`;
  },
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
  get sightsHere() {
    return !this.isTogether && this.otherSights.length + this.offers.length > 0 && !this.readonly && !this.expert;
  },
  get offers() {
    return this.now.offers ?? [];
  },
  get goodSight() {
    return this.now.sights.find(sight => sight.good) ?? null;
  },
  get otherSights() {
    return this.now.sights.filter(sight => !sight.good);
  },
  get question() {
    return this.now.mustAnswer
      ? this.goodSight
        ? 'Not so? What do you see?'
        : 'What do you see?'
      : this.captureHere
        ? 'Something else? What do you see?'
        : 'Not as it should be? What do you see?';
  },
  get holdWanted() {
    return !!this.hold && !this.hold.ended && !this.readonly;
  },
  get canConfirm() {
    return (
      this.isTogether ||
      (this.holdWanted ? false : this.now.mustAnswer ? !!this.goodSight : !this.captureHere || this.capture.mayBePassed)
    );
  },
  get confirmText() {
    return (
      this.view.together?.confirm ??
      (this.now.mustAnswer
        ? (this.goodSight?.seen ?? '')
        : this.captureHere
          ? 'Go on without it'
          : this.now.sights.length
            ? 'As it should be: go on'
            : 'Done')
    );
  },
  get cannotTake() {
    return !this.value || this.readonly;
  },
  get value() {
    const text = this.digits.replace(',', '.');
    return /^-?\d{1,4}(\.\d{0,3})?$/.test(text) ? text.replace(/\.$/, '').replace(/^(-?)0+(?=\d)/, '$1') : null;
  },
  get takeText() {
    return this.holdOnSlate
      ? this.holdRuns
        ? this.holdLeft > 0
          ? 'End the watch early…'
          : 'End the watch and record'
        : 'Start the watch from here'
      : this.capture?.provisional
        ? 'Note it'
        : 'Record';
  },
  get weighedText() {
    if (!this.weighed) return this.captureHere ? '' : 'Recording it now takes the steps before it as done.';
    return [
      this.weighed.margin
        ? `${{ pass: 'Passes', fail: 'Fails' }[this.weighed.result] ?? ''} ${this.weighed.margin}.`
        : '',
      ...this.weighed.warnings,
    ].join(' ');
  },
  get weighedClass() {
    return this.weighed?.result ?? '';
  },
  get waitingText() {
    return `${this.waiting} ${this.waiting === 1 ? 'entry is' : 'entries are'} kept on this device and not sent yet.`;
  },
  get progressText() {
    return `${this.view.progress}%`;
  },
  get hold() {
    return this.view.now?.hold ?? null;
  },
  get hasHold() {
    return !!this.hold && !this.readonly && !this.expert;
  },
  get holdOnSlate() {
    return this.holdWanted && this.captureHere;
  },
  get holdHere() {
    return this.hasHold && !this.captureHere;
  },
  get holdRuns() {
    return !!this.hold?.startedAt && !this.hold.ended;
  },
  get holdLeft() {
    return this.holdRuns
      ? Math.min(
          this.hold.seconds,
          Math.max(0, Math.ceil(this.hold.seconds - (this.clock - Date.parse(this.hold.startedAt)) / 1000)),
        )
      : (this.hold?.seconds ?? 0);
  },
  get holdText() {
    return `${Math.floor(this.holdLeft / 60)}:${String(this.holdLeft % 60).padStart(2, '0')}`;
  },
  get holdLead() {
    return !this.hold
      ? ''
      : this.hold.ended
        ? this.hold.outcome
        : this.holdRuns
          ? [this.hold.start && `From ${this.hold.start}`, ...this.hold.watched].filter(Boolean).join(', ')
          : `The needle is watched for ${this.hold?.seconds} s before it counts as still. Type where it stands, if it can be read.`;
  },
  get holdButton() {
    return this.hold?.ended
      ? 'Watch again'
      : this.holdRuns
        ? this.holdLeft > 0
          ? 'End it early…'
          : 'End the watch'
        : 'Start the watch';
  },
  get needleReading() {
    const text = this.needle.replace(',', '.').trim();
    return /^-?\d{1,4}(\.\d{1,3})?$/.test(text) ? { value: { raw: text }, unit: this.view.readingUnit } : null;
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
    const rate = s.rate ?? 0;
    return [
      Math.abs(rate) < 0.005
        ? 'Still'
        : `${rate < 0 ? 'Falling' : 'Rising'} ${Math.abs(rate).toFixed(Math.abs(rate) < 0.1 ? 3 : 2)} a second`,
      s.battery === undefined ? '' : `battery ${Math.round(100 * s.battery)} %`,
    ]
      .filter(Boolean)
      .join(' · ');
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
  async captureNow() {
    if (!this.canCapture) return;
    const step = Number(this.capture.resolution),
      places = step % 1 ? (this.capture.resolution.split('.')[1] ?? '').length : 0,
      text = (Math.round(this.shown.value / step) * step).toFixed(places),
      speed = Math.abs(this.shown.rate ?? 0).toFixed(3),
      of = this.capture;
    if (this.holdOnSlate) {
      this.needle = text;
      this.watch();
      return;
    }
    const weighed = await this.link.weigh(of.key, text, speed);
    this.captured = [
      `Captured ${text} ${of.unit}${speed > 0.005 ? `, moving ${Number(speed)} a second` : ', still'}.`,
      ...(weighed?.warnings ?? []),
    ].join(' ');
    this.enter([
      {
        kind: 'reading',
        step: of.key,
        reading: { value: { raw: text }, unit: of.unit, resolution: { raw: of.resolution }, speed: { raw: speed } },
      },
    ]);
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
  get hasEarlier() {
    return this.view.earlier.length > 0;
  },
  get hasHeightNotes() {
    return this.view.heightNotes.length > 0;
  },
  get canGlimpse() {
    return this.hasCapture && this.captureHere && this.capture.kind === 'differential' && !!this.value;
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
  get hasReadings() {
    return this.view.readings.length > 0;
  },
  get hasFindings() {
    return this.view.findings.length > 0;
  },
  get hasAside() {
    return this.view.setAside.length > 0;
  },
  get hasUnreadable() {
    return (this.view.unreadable ?? []).length > 0;
  },
  get hasUndo() {
    return !!this.view.undo;
  },
  get undoText() {
    return `Take back ${this.view.undo?.text ?? ''}`;
  },
  get lineText() {
    return this.view.linePressure ? `Line pressure ${this.view.linePressure}` : 'Line pressure';
  },
  get canStop() {
    return !this.view.notTestable;
  },

  letter: i => String.fromCharCode(97 + i),
  lineSay: line => line.say.join(' '),
  offerText: offer => `First: ${offer.title.toLowerCase()}`,
  takeOffer(offer) {
    this.enter([{ kind: 'offer', step: this.now.key, offer: offer.id }]);
  },
  askAnswer: line => line.ask?.answer ?? '',
  askOffer(line) {
    return this.readonly || this.askAnswer(line) ? '' : (line.ask?.offer ?? '');
  },
  // What is entered by one tap: the answer that the core thinks likely.
  takeAsk(line) {
    this.enter(asks.likely(line.ask));
  },
  notSoText: line =>
    !line.ask || line.ask.kind === 'identity' ? 'Not so…' : line.ask.answer ? 'Change…' : 'Otherwise…',
  lineMark: line => marks[line.state],
  lineState: line => states[line.state],
  lineClass: line => (line.state === 'now' ? 'is-now' : line.state),
  stageClass: stage => `stage-${stage.state}`,
  stripClass: stage => [stage.state === 'now' ? 'here' : stage.state, stage.isTest ? 'test' : ''].join(' '),
  keyLabel: key => (key === '⌫' ? 'Delete the last digit' : key),
  canGoBack(line, stage) {
    return !this.readonly && stage.isTest && !!line.stepId && ['done', 'passed-over', 'seen'].includes(line.state);
  },
  backLabel: line => `Repeat from: ${line.title}`,
  readingClass: reading => [reading.result ?? '', reading.counts ? '' : 'off'].join(' '),
  readingValue: reading => `${reading.value} ${reading.unit}`,
  readingNote: reading =>
    [
      reading.margin && `(${reading.margin})`,
      reading.first && `first ${reading.first}: ${reading.reason}`,
      reading.counts ? '' : 'does not count',
    ]
      .filter(Boolean)
      .join(' '),
  canCorrect(reading) {
    return !this.readonly && reading.counts;
  },
  correctLabel: reading => `Correct ${reading.name}`,

  rowClass: row => `row-${row.state} ${row.result ?? ''}`,
  rowNow: row => row.state === 'now',
  rowLimit: row => (row.capture ? `${row.capture.limit ?? 'written down'}` : ''),
  rowUnit: row => row.capture?.unit ?? '',
  rowNumber: row => row.state === 'now' && !!row.capture,
  rowValue: row => (row.value ? `${row.value}${row.margin ? ` (${row.margin})` : ''}` : ''),
  rowGood: row => (row.state === 'now' ? row.sights.filter(sight => sight.good) : []),
  rowOthers: row => (row.state === 'now' ? row.sights.filter(sight => !sight.good) : []),
  rowHasOthers: row => row.state === 'now' && row.sights.some(sight => !sight.good),
  rowInput: row => `row-${row.key}`,
  rowWatch(row) {
    return row.state === 'now' && row.key === this.view.now?.key && !!this.hold;
  },
  takeRow(row) {
    const text = (document.getElementById(`row-${row.key}`)?.value ?? '').replace(',', '.').trim();
    if (!/^-?\d{1,4}(\.\d{1,3})?$/.test(text)) {
      this.problem = `${row.title}: type a number, such as 1.8.`;
      return;
    }
    this.problem = '';
    if (this.rowWatch(row) && this.holdWanted) {
      this.needle = text;
      this.watch();
      return;
    }
    this.enter([this.entryOf(row.capture, text)]);
  },
  seeRow(row, sight) {
    this.enter([{ kind: 'sight', step: row.key, sight: sight.id }]);
  },
  toggle(name) {
    this[name] = !this[name];
    keepSetting(name, this[name]);
    if (name !== 'expert' && this[name]) cue(this.sound, this.buzz);
  },
  beat() {
    if (!this.holdRuns) return;
    this.clock = Date.now();
    if (this.holdLeft === 0 && this.cued !== this.hold.startedAt) {
      this.cued = this.hold.startedAt;
      cue(this.sound, this.buzz);
    }
  },
  watch() {
    const step = this.now.key,
      reading = this.needleReading;
    if (!this.holdRuns) this.enter([{ kind: 'hold-started', step, ...(reading ? { reading } : {}) }]);
    else if (this.holdLeft > 0) this.open(asks.cutShort(step, reading));
    else this.enter([{ kind: 'hold-ended', step, ...(reading ? { reading } : {}) }]);
    this.clock = Date.now();
  },
  look() {
    if (this.needleReading) this.enter([{ kind: 'hold-watched', step: this.now.key, reading: this.needleReading }]);
  },
  glimpse() {
    this.enter([
      { kind: 'glimpse', step: this.capture.key, reading: { value: { raw: this.value }, unit: this.capture.unit } },
    ]);
    this.digits = '';
  },
  entryOf(capture, text) {
    const value = { value: { raw: text }, unit: capture.unit };
    return capture.kind === 'differential'
      ? { kind: 'reading', step: capture.key, reading: { ...value, resolution: { raw: capture.resolution } } }
      : {
          kind: 'answer',
          step: capture.key,
          item: capture.kind === 'line' ? 'line-pressure' : 'relief-clearance',
          value,
        };
  },
  resume() {
    this.enter([{ kind: 'resumed' }]);
  },

  confirm() {
    if (!this.isTogether && this.now.mustAnswer) {
      this.see(this.goodSight);
      return;
    }
    this.enter(
      this.isTogether
        ? this.togetherLines.map(line => ({ kind: 'done', step: line.key }))
        : [{ kind: 'done', step: this.now.key }],
    );
  },
  take() {
    if (this.cannotTake) {
      if (!this.digits && this.canConfirm && !this.isTogether) this.confirm();
      return;
    }
    if (this.holdOnSlate) {
      this.needle = this.value;
      this.digits = '';
      this.weighed = null;
      this.watch();
      return;
    }
    this.enter([this.entryOf(this.capture, this.value)]);
  },
  see(sight) {
    this.enter([{ kind: 'sight', step: this.now.key, sight: sight.id }]);
  },
  goBack(line) {
    this.enter([{ kind: 'back', step: line.stepId }]);
  },
  undo() {
    this.enter([{ kind: 'taken-back', of: this.view.undo.entryId }]);
  },
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
    const answer = await this.link.weigh(this.capture.key, value);
    if (value === this.value) this.weighed = answer;
  },
  key(event) {
    if (
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      document.querySelector('dialog[open]') ||
      event.target.closest('textarea, select, [data-own-keys]') ||
      (event.target.closest('button, a, summary, [role=button]') && event.key === 'Enter')
    )
      return;
    if (event.target.id === 'digits') {
      if (!/^[a-z?]$/.test(event.key)) return;
      event.preventDefault();
    }
    if (/^[0-9.]$/.test(event.key) && this.hasCapture) {
      this.press(event.key);
      event.preventDefault();
    } else if (event.key === 'Backspace') this.press('⌫');
    else if (event.key === 'Enter') {
      if (this.digits && this.hasCapture) this.take();
      else if (this.canConfirm) this.confirm();
    } else if (event.key === ' ' && this.canCapture && !event.target.closest('button, a, summary, [role=button]')) {
      this.captureNow();
      event.preventDefault();
    } else if (event.key === 'u' && this.hasUndo) this.undo();
    else if (event.key === 'x') this.toggle('expert');
    else if (event.key === 'w' && this.hasHold) this.watch();
    else if (event.key === 'n') {
      this.openNote();
      event.preventDefault();
    } else if (/^[a-m]$/.test(event.key) && this.sightsHere && this.otherSights[event.key.charCodeAt(0) - 97])
      this.see(this.otherSights[event.key.charCodeAt(0) - 97]);
  },

  open(ask) {
    if (this.readonly) return;
    this.ask = ask;
    this.$refs.ask.showModal();
  },
  closeAsk() {
    this.$refs.ask.close();
  },
  openNote() {
    this.open(asks.note(this.now.key || 'end'));
  },
  openLine() {
    this.open(asks.line(this.view.lineUnit));
  },
  openPause() {
    this.open(asks.pause());
  },
  openMended() {
    this.open(asks.mended());
  },
  openHeight() {
    this.open(asks.height(this.view.lineUnit === 'psi' ? 'in' : 'mm'));
  },
  openStop() {
    this.open(asks.stop());
  },
  openCorrect(reading) {
    this.open(asks.correct(reading, reading.unit));
  },
  notSo(line) {
    this.open(asks.about(line.ask) ?? asks.finding(line.title, null, []));
  },
  touch(event) {
    const part = event.target.closest('[data-part]');
    if (!part) return;
    const id = part.dataset.part;
    this.open(asks.finding(part.getAttribute('aria-label'), id, partChips[id.slice(0, 2)] ?? partChips.other));
  },
  useChip(chip) {
    this.ask.text = chip;
  },
  drained() {
    for (const valve of this.ask.standing) valve.standing = valve.drained;
  },
  async answer() {
    const made = this.ask.make(this.ask);
    if (typeof made === 'string') {
      this.ask.problem = made;
      return;
    }
    this.closeAsk();
    await this.enter(made);
  },
  clearProblem() {
    this.problem = '';
  },
}));
Alpine.start();
