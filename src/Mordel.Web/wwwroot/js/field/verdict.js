// The verdict as the core on this device comes to it, the signature under it, and what became of both.
import SignaturePad from '/lib/signature_pad.min.js';
import { draft } from '../run/fill.js';
import { inkOf } from '../ink.js';
import { now } from './clock.js';
import { enter } from './enter.js';
import { sender } from './sender.js';
import { get, keep } from './store.js';

// Outside of what is watched: it draws by itself.
let pad = null;

export const verdict = {
  v: null,
  typed: {},
  name: '',
  typedName: false,
  signProblem: '',

  async openVerdict() {
    this.v = null;
    const device = await this.device();
    if (!device) return;
    if (device.row.signed) return this.go(`report/${this.id}`);
    this.v = await device.verdict();
    this.typed = Object.fromEntries(this.v.asks.map(field => [field.name, field.value]));
    [this.name, this.typedName, this.signProblem] = [this.v.name, false, ''];
    this.$nextTick(() => this.layPad());
  },
  layPad() {
    const canvas = document.querySelector('#field-ink');
    if (!canvas) return;
    const box = canvas.getBoundingClientRect();
    [canvas.width, canvas.height] = [box.width, box.height];
    pad = new SignaturePad(canvas, { minWidth: 1.5, maxWidth: 3, penColor: '#1b211f' });
  },
  clearInk() {
    pad?.clear();
  },
  get hasVerdict() {
    return this.room === 'verdict' && !!this.v;
  },
  get verdictClass() {
    return `verdict verdict-${this.v?.overall}`;
  },
  get canSign() {
    return this.v?.obstacles.length === 0;
  },
  get notPassed() {
    return !!this.v && this.v.overall !== 'pass';
  },
  get stillText() {
    return this.v?.stillOnTheSheet.join('; ') ?? '';
  },
  itemClass: item => `item item-${item.result}`,
  itemLimit: item =>
    item.limit === '–' ? '' : `at least ${item.limit}${item.margin === '–' ? '' : `, margin ${item.margin}`}`,
  isChoiceField: field => field.kind === 'choice',
  isLineField: field => field.kind === 'line',
  isWordsField: field => field.kind === 'words',
  isChosenOption(field, option) {
    return this.typed[field.name] === option.value;
  },

  async sign() {
    const lacks = this.v.asks.find(field => field.missing && !this.typed[field.name]?.trim());
    const ink = this.typedName ? 'typed' : inkOf(pad, document.querySelector('#field-ink'));
    this.signProblem = lacks
      ? lacks.missing
      : this.name.trim().toLowerCase() !== this.v.name.toLowerCase()
        ? `The name signed is not that of the tester of this run, ${this.v.name}.`
        : !ink
          ? 'Draw your signature in the box, or tick that your typed name is your signature.'
          : '';
    if (this.signProblem) return;
    try {
      await this.seal(ink);
    } catch (problem) {
      this.signProblem = `The signature could not be kept on this device: ${problem.message}. Sign once more.`;
    }
  },
  async seal(ink) {
    const device = await this.device();
    const bodies = draft({ entries: this.v.beside }, this.typed);
    if (bodies.length) {
      const { entries, kept } = await enter(this.id, this.me.id, bodies);
      await kept;
      await device.take(entries);
    }
    const v = await device.verdict(),
      at = now().toISOString();
    if (v.obstacles.length) return (this.v = v);
    const { log, overall, word, reason, items, entries, tag } = v;
    await keep(
      [{ kind: 'sign', of: this.id, by: this.me.id, body: { name: v.name, ink, seen: entries, log, overall, at } }],
      [
        [
          'runs',
          { ...(await get('runs', this.id)), signed: { at, ink, name: v.name, overall, word, reason, items, tag } },
        ],
      ],
    );
    sender.send();
    this.go(`report/${this.id}`);
  },

  openReport() {
    if (!this.reportRun?.signed) this.problem = 'This report is not on board. Open it with a signal.';
  },
  get reportRun() {
    return this.runs.find(r => r.id === this.id) ?? null;
  },
  get signed() {
    return this.room === 'report' ? (this.reportRun?.signed ?? null) : null;
  },
  get hasReport() {
    return !!this.signed;
  },
  get signedClass() {
    return `verdict verdict-${this.signed?.overall}`;
  },
  get sealText() {
    if (this.reportRun?.sealed) return 'Sealed by the server. The report is the one it shows.';
    const why = this.signDeed?.why;
    return why ? `Signed here, and not sealed: ${why}` : 'Signed, not sealed yet: the server seals it when it has it.';
  },
  get sealClass() {
    return this.reportRun?.sealed ? 'consent' : 'special';
  },
  get signDeed() {
    return this.deeds.find(deed => deed.of === this.id && deed.kind === 'sign') ?? null;
  },
  get isRefused() {
    return !!this.signDeed?.why;
  },
  get isSealed() {
    return !!this.reportRun?.sealed;
  },
  get sealedHref() {
    return `/reports/${this.id}`;
  },
  get verdictHref() {
    return `/runs/${this.id}/verdict`;
  },
  get signedAt() {
    return this.signed
      ? new Date(this.signed.at).toLocaleString('en', { dateStyle: 'medium', timeStyle: 'short' })
      : '';
  },
  get inkPath() {
    return this.signed?.ink === 'typed' ? '' : (this.signed?.ink ?? '');
  },
  get signedFailed() {
    return !!this.signed && this.signed.overall !== 'pass';
  },
};
