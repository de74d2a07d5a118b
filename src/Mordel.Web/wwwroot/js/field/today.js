// The round as it stands on this device: the next stop large, what is on board, what waits, what was refused.
import { aboard, ageText, sizeText, take } from './aboard.js';
import { emptyCaches } from './caches.js';
import { dayHere } from './clock.js';
import { sender } from './sender.js';
import { done, mark, putAshore, tell } from './store.js';

const OLD = 12 * 3_600_000;
const words = {
  begin: 'The beginning of a test',
  entry: 'An entry of a test',
  sign: 'A signature',
  look: 'A search for the part',
  saw: 'Something that was seen',
  repair: 'The beginning of a repair',
  mend: 'An entry of a repair',
  photo: 'A picture',
};
// How outcomes are shown, by word and shape: the server's own table.
const marks = JSON.parse(document.getElementById('marks').textContent);

export const today = {
  taking: '',
  takeProblem: '',
  newer: false,

  get todays() {
    return this.stops.filter(s => s.day === dayHere());
  },
  get others() {
    return this.stops.filter(s => s.day !== dayHere());
  },
  get hasOthers() {
    return this.others.length > 0;
  },
  get noStopsToday() {
    return !!this.round && this.todays.length === 0;
  },
  get next() {
    const open = this.todays.filter(s => ['open', 'running'].includes(this.stateOf(s)));
    return open.find(s => this.stateOf(s) === 'running') ?? open[0] ?? null;
  },
  get hasNext() {
    return !!this.next;
  },
  get allDone() {
    return this.todays.length > 0 && !this.next;
  },
  get nextEyebrow() {
    if (!this.next) return '';
    const open = this.stateOf(this.next) === 'running' ? 'Still open' : `Next stop at ${this.next.at}`;
    return `${open} · water may be off ${this.next.window}`;
  },
  /** What stands in the way: the kit's calibration, certificates. */
  get warnings() {
    return this.round?.warnings ?? [];
  },
  get bringText() {
    return (this.next?.bring ?? []).join(', ');
  },
  /** The run of a stop on this device, the last one begun. */
  runOf(stop) {
    const mine = this.runs.filter(r => r.stop === stop?.id);
    return mine.find(r => !r.signed) ?? mine.at(-1) ?? null;
  },
  stateOf(stop) {
    const run = this.runOf(stop);
    if (run && !run.signed) return 'running';
    if (run?.signed) return 'signed';
    return stop?.state ?? 'open';
  },
  /** How it ended, or how far it is, as the mark beside it. */
  markOf(stop) {
    const run = this.runOf(stop);
    const state = this.stateOf(stop);
    if (state === 'signed') return run ? run.signed.overall : stop.outcome;
    return state;
  },
  markPath(of) {
    return (marks[of] ?? marks.open).path;
  },
  markWord: of => marks[of]?.word ?? '',
  stateText(stop) {
    const run = this.runOf(stop);
    const state = this.stateOf(stop);
    if (state === 'signed') {
      const outcome = run ? run.signed.word : marks[stop.outcome]?.word;
      return run && !run.sealed ? `${outcome}, not sealed yet` : (outcome ?? 'Signed');
    }
    return state === 'running' ? 'Open' : 'To do';
  },
  stopClass(stop) {
    return `stop-${this.stateOf(stop)}`;
  },
  stopHref: stop => `#stop/${stop.id}`,
  stopDay: stop =>
    new Date(`${stop.day}T12:00:00`).toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short' }),
  get dayText() {
    return new Date().toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' });
  },

  get isAboard() {
    return !!this.round;
  },
  get nothingAboard() {
    return this.isRead && !this.round;
  },
  get aboardText() {
    if (!this.round) return '';
    const { stops, bytes, madeAt } = this.round;
    return `${stops === 1 ? 'One stop' : `${stops} stops`}, ${sizeText(bytes)}, fetched ${ageText(madeAt)}`;
  },
  get isOld() {
    return !!this.round && Date.now() - Date.parse(this.round.madeAt) > OLD;
  },
  get mayGo() {
    return !!this.round && !this.round.isKept;
  },
  get takeText() {
    return this.round ? 'Fetch it anew' : 'Take the round along';
  },
  async takeRound() {
    if (this.taking) return;
    this.taking = 'The round is fetched…';
    this.takeProblem = await take((at, of) => (this.taking = `${at} of ${of} pieces`));
    this.taking = '';
    this.newer = false;
    await this.load();
  },
  /** With a signal, and nothing waiting: is there a newer round, or another version? */
  async look() {
    const me = await sender.who();
    if (!me) return;
    // Another tester signed in on this device: the round of who was here before is not theirs.
    if (this.me && this.me.id !== me.id) {
      await putAshore();
      await emptyCaches();
      return location.reload();
    }
    if (!this.round) return;
    this.newer = me.version !== (await aboard())?.version;
    if (!this.newer && !this.deeds.length && Date.now() - Date.parse(this.round.madeAt) > 30 * 60_000)
      await this.takeRound();
  },
  async takeNewer() {
    await this.takeRound();
    if (!this.takeProblem) location.reload();
  },

  deedText: deed => words[deed.kind] ?? 'Something',
  async tryAgain(deed) {
    await mark(JSON.parse(JSON.stringify(deed)), '');
    tell({ grown: deed.of });
    await sender.send();
    await this.load();
  },
  async throwAway(deed) {
    await done([{ seq: deed.seq }]);
    tell({ grown: deed.of });
    await this.load();
  },
};
