// The field rooms on this device: the round, a stop, its test, the verdict, the report, a repair, the board. What is
// shown comes from what was taken along and from the core; with a signal everything is sent behind it.
import '../unfenced.js';
import Alpine from '/lib/alpine.esm.min.js';
import { idle } from '../idle.js';
import { Link } from '../run/link.js';
import { runScreen } from '../run/screen.js';
import { together } from '../together.js';
import { aboard, employ, lacking } from './aboard.js';
import { board } from './board.js';
import { farText, isFar, setClock } from './clock.js';
import { DeviceRun, loaded, rehearse } from './device.js';
import { repairing } from './repairing.js';
import { sender } from './sender.js';
import { about, all, count, get, listen, setAbout, waiting } from './store.js';
import { stop } from './stop.js';
import { today } from './today.js';
import { verdict } from './verdict.js';

const states = {
  offline: 'No signal.',
  busy: 'The server is busy.',
  'signed-out': 'Nobody is signed in here any more.',
  another: 'Somebody else is signed in on this device: what waits is sent when its tester signs in.',
  'cut-off': 'The office has cut this device off. What was on board is wiped.',
};

// What is said of a test whose stop is not on board any more.
const elsewhere = { place: 'A test on this device', what: '', tag: '', colours: ['', '', ''], facts: [], mind: [] };

// What the screen of a run begins with, from the room to the component.
let current = null;

const field = {
  room: 'today',
  // Whether it is known yet what is on board.
  isRead: false,
  id: '',
  round: null,
  me: null,
  stops: [],
  runs: [],
  repairs: [],
  deeds: [],
  many: 0,
  told: [],
  sendState: '',
  coreTrouble: '',
  problem: '',
  here: null,
  lacks: lacking(),
  clockFar: '',

  async init() {
    sender.addEventListener('state', event => (this.sendState = event.detail));
    sender.addEventListener('waiting', event => (this.many = event.detail));
    sender.addEventListener('taken', event => this.took(event.detail.kind));
    sender.addEventListener('renamed', event => this.moved(event.detail));
    sender.addEventListener('refused', () => this.load());
    addEventListener('hashchange', () => this.enter());
    addEventListener('online', () => sender.send());
    listen(change => this.changed(change));
    await this.enter();
    employ();
    sender.send();
    this.look();
    // The core warms up behind the first picture.
    idle().then(() => this.warm());
  },
  async warm() {
    if (this.round && !(await loaded()))
      this.coreTrouble = 'The core does not run in this browser: tests need a signal.';
  },
  async load() {
    [this.round, this.me, this.stops, this.runs, this.repairs, this.boards, this.deeds, this.told] = await Promise.all([
      aboard(),
      about('owner'),
      all('stops'),
      all('runs'),
      all('repairs'),
      all('boards'),
      waiting(),
      about('told').then(told => told ?? []),
    ]);
    this.stops.sort((a, b) => (a.day + a.at).localeCompare(b.day + b.at) || a.order - b.order);
    [this.many, this.isRead] = [this.deeds.length, true];
    await setClock();
    this.clockFar = isFar() ? farText() : '';
  },
  // What the screens show changes with what ends or begins something, and not with every entry on its way.
  async took(kind) {
    if (kind !== 'entry' && kind !== 'mend' && kind !== 'saw') await this.load();
  },
  moved({ from, to }) {
    if (this.id === from) location.hash = `#${this.room}/${to}`;
  },
  async changed(change) {
    if (change.renamed) this.moved({ from: change.renamed, to: change.to });
    if (change.grown) this.many = await count();
    // Another tab signs out, or the office has cut the device off; whoever signs out here is led away.
    if (change.wiped) return document.body.dataset.leaving ? null : location.reload();
    if (!change.grown) await this.load();
  },

  /** The room that the address names. */
  async enter() {
    const [room, id] = location.hash.slice(1).split('/');
    const before = this.room;
    this.problem = '';
    this.here = null;
    document.querySelector('.rooms')?.removeAttribute('open');
    await this.load();
    [this.room, this.id] = [room || 'today', id ?? ''];
    await this.rooms[this.room]?.call(this);
    document.body.classList.toggle('on-run', this.room === 'run');
    if (before !== this.room) this.$nextTick(() => document.querySelector('main h1')?.focus({ preventScroll: true }));
    scrollTo(0, 0);
  },
  rooms: {
    stop() {
      this.$nextTick(() => {
        const drawing = document.querySelector('#field-drawing');
        if (drawing) drawing.innerHTML = this.stop?.drawing ?? '';
      });
      if (this.canBegin) rehearse(this.stop.setup);
    },
    async run() {
      const device = await this.device();
      if (!device) return;
      const stop = this.stopOf(device.row),
        view = await device.view();
      current = {
        run: device.id,
        readonly: !!device.row.signed,
        link: new Link(device.id, this.me?.id, device),
        view,
        about: {
          procedure: stop?.what ?? '',
          verdict: `#verdict/${device.id}`,
          report: `#report/${device.id}`,
          colours: stop?.colours ?? ['', '', ''],
        },
      };
      this.here = device.id;
    },
    async verdict() {
      await this.openVerdict();
    },
    async report() {
      this.openReport();
    },
    async repair() {
      await this.openRepair();
    },
    async board() {
      await this.openBoard();
    },
  },
  /** The run of this room, opened by the core; says why where it cannot. */
  async device(id = this.id) {
    const opened = await DeviceRun.open(id);
    if (opened) return opened;
    this.problem = !(await get('runs', id))
      ? 'This test is not on board. Open it with a signal.'
      : 'The core does not run here, or cannot read this test. What was entered is kept; open it with a signal.';
    return null;
  },
  /** Does something that is kept on this device; says so where there is no room for it. */
  async keeping(work) {
    this.problem = '';
    try {
      await work();
    } catch (problem) {
      console.error(problem);
      this.problem =
        problem?.name === 'QuotaExceededError'
          ? 'There is no room on this device: this was not kept. Delete something, then do it once more.'
          : `This could not be kept on the device: ${problem?.message ?? problem}. Do it once more.`;
    }
  },
  go(where) {
    location.hash = where;
  },
  stopOf(run) {
    return this.stops.find(s => s.id === run?.stop) ?? null;
  },
  get stop() {
    const run = this.runs.find(r => r.id === this.id) ?? this.runs.find(r => r.id === this.job?.run);
    return this.stops.find(s => s.id === this.id) ?? this.stopOf(run) ?? (this.room === 'stop' ? null : elsewhere);
  },
  is(room) {
    return this.room === room;
  },
  get hereRuns() {
    return this.room === 'run' && !!this.here;
  },

  get waitingCount() {
    return this.many - this.refusedDeeds.length;
  },
  get refusedDeeds() {
    return this.deeds.filter(deed => deed.why);
  },
  get hasRefused() {
    return this.refusedDeeds.length > 0;
  },
  get signalText() {
    const many = this.waitingCount;
    const waits = many === 1 ? 'One entry waits on this device.' : `${many} entries wait on this device.`;
    return [states[this.sendState] ?? '', many ? waits : ''].filter(Boolean).join(' ');
  },
  get hasSignalText() {
    return !!this.signalText && (this.sendState !== 'sending' || this.waitingCount > 0);
  },
  get isSignedOut() {
    return this.sendState === 'signed-out';
  },
  get hasTold() {
    return this.told.length > 0;
  },
  async hear() {
    await setAbout('told', []);
    this.told = [];
  },
};

Alpine.data('field', () => together([today, stop, verdict, repairing, board, field]));
Alpine.data('run', () => runScreen(current));
Alpine.start();
