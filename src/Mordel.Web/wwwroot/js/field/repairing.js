// A repair on this device: its view comes from the core, its entries are kept here and sent in order; the pictures go
// last, and the test that follows begins here too.
import { draft } from '../run/fill.js';
import { smaller } from '../photos.js';
import { now } from './clock.js';
import { enter } from './enter.js';
import { sender } from './sender.js';
import { get, keep, logOf } from './store.js';

// The run at whose assembly something is repaired.
let opened = null;

export const repairing = {
  job: null,
  work: null,
  filled: {},
  photoSays: '',
  asking: null,

  /** Puts right what a test on this device has found. */
  async beginRepair() {
    const run = await get('runs', this.id);
    const at = this.stopOf(run);
    if (!at) return;
    const id = crypto.randomUUID(),
      begunAt = now().toISOString(),
      board = this.boards.find(b => b.run === run.id);
    await keep(
      [{ kind: 'repair', of: id, after: board?.id, by: this.me.id, body: { assembly: at.assembly, at: begunAt } }],
      [['repairs', { id, run: run.id, stop: at.id, begunAt, board: board?.id }]],
    );
    sender.send();
    await this.load();
    this.go(`repair/${id}`);
  },
  async openRepair() {
    this.work = null;
    this.job = (await get('repairs', this.id)) ?? null;
    if (!this.job) return (this.problem = 'This repair is not on board. Open it with a signal.');
    // Read once: the assembly does not change while it is repaired.
    if (opened?.id !== this.job.run) opened = await this.device(this.job.run);
    if (!opened) return;
    const view = await opened.repair(this.stopOf(opened.row).repair, await logOf(this.id));
    if (view.faults) return (this.problem = view.faults.join(' '));
    this.filled = Object.fromEntries(view.fields.map(field => [field.name, field.value]));
    this.photoSays = this.photosText;
    this.work = view;
    this.$nextTick(() => {
      const drawing = document.querySelector('#field-apart');
      if (drawing) drawing.innerHTML = view.drawing ?? '';
      document.querySelector('#field-step')?.focus({ preventScroll: true });
    });
  },
  get hasWork() {
    return this.room === 'repair' && !!this.work;
  },
  stagePast: stage => (stage.state === 'past' ? 'past' : ''),
  stageNow: stage => (stage.state === 'now' ? 'step' : null),
  isManyField: field => field.kind === 'many',
  isTickField: field => field.kind === 'tick',
  isDateField: field => field.kind === 'date',
  isNumberField: field => field.kind === 'number',
  isTicked(field) {
    return this.filled[field.name] === 'true';
  },
  tickField(field, event) {
    this.filled[field.name] = String(event.target.checked);
  },
  tickMany(field, option, event) {
    const chosen = new Set((this.filled[field.name] ?? '').split(' ').filter(Boolean));
    if (event.target.checked) chosen.add(option.value);
    else chosen.delete(option.value);
    this.filled[field.name] = [...chosen].join(' ');
  },
  actClass: i => (i === 0 ? 'btn btn-primary btn-go' : 'btn answer'),

  beginRepairKept() {
    return this.keeping(() => this.beginRepair());
  },
  beginRetestKept() {
    return this.keeping(() => this.beginRetest());
  },
  doItKept(action) {
    return this.keeping(() => this.doIt(action));
  },
  async doIt(action, typed = this.filled) {
    const lacks = action.dialog ? null : this.work.fields.find(f => f.missing && !String(typed[f.name] ?? '').trim());
    if (lacks) return void (this.problem = lacks.missing);
    const bodies = draft(action, typed);
    if (!bodies.length) return;
    const { kept } = await enter(this.id, this.me.id, bodies, { kind: 'mend' });
    await kept;
    sender.send();
    await this.openRepair();
  },
  useTool(action) {
    if (!action.dialog) return this.keeping(() => this.doIt(action, {}));
    this.asking = { ...action.dialog, action, problem: '', fields: action.dialog.fields.map(f => ({ ...f })) };
    this.$nextTick(() => document.querySelector('#field-ask').showModal());
  },
  async answerTool() {
    const typed = Object.fromEntries(this.asking.fields.map(f => [f.name, String(f.value ?? '').trim()]));
    const lacks = this.asking.fields.find(f =>
      f.pattern ? !new RegExp(f.pattern).test(typed[f.name]) : f.missing && !typed[f.name],
    );
    if (lacks) return (this.asking.problem = lacks.missing);
    const { action } = this.asking;
    this.closeTool();
    await this.keeping(() => this.doIt(action, typed));
  },
  closeTool() {
    document.querySelector('#field-ask').close();
  },
  get askTitle() {
    return this.asking?.title ?? '';
  },
  get askLead() {
    return this.asking?.lead ?? '';
  },
  get askButton() {
    return this.asking?.button ?? '';
  },
  get askProblem() {
    return this.asking?.problem ?? '';
  },
  get askFields() {
    return this.asking?.fields ?? [];
  },

  get photosWaiting() {
    return this.deeds.filter(deed => deed.kind === 'photo' && deed.of === this.id).length;
  },
  get photosText() {
    const many = this.photosWaiting;
    return many === 0 ? '' : many === 1 ? 'One picture waits on this device.' : `${many} pictures wait on this device.`;
  },
  async takePhoto(event) {
    const [file] = event.target.files;
    event.target.value = '';
    if (!file) return;
    this.photoSays = 'The picture is made smaller.';
    try {
      const bytes = await (await smaller(file)).arrayBuffer();
      const body = { entry: crypto.randomUUID(), of: this.work.shows, at: now().toISOString(), bytes };
      await keep([{ kind: 'photo', of: this.id, by: this.me.id, body }]);
    } catch (problem) {
      this.photoSays =
        problem.name === 'QuotaExceededError'
          ? 'There is no room for the picture on this device.'
          : 'This is no picture that can be read here. Take a photo, or choose a JPEG, PNG or WebP file.';
      return;
    }
    await this.load();
    this.photoSays = this.photosText;
    sender.send();
  },

  async beginRetest() {
    const before = await get('runs', this.job.run),
      at = this.stopOf(before);
    if (this.job.retest) return this.go(`run/${this.job.retest}`);
    if (!at?.pass) return (this.problem = 'What this test is begun with is not on board: begin it with a signal.');
    const id = crypto.randomUUID(),
      begunAt = now().toISOString();
    await keep(
      [
        {
          kind: 'begin',
          of: id,
          after: this.id,
          by: this.me.id,
          body: { setup: at.setup, pass: at.pass, begunAt },
        },
      ],
      [
        ['runs', { id, stop: at.id, setup: at.setup, previous: at.previous, begunAt, after: this.id }],
        ['repairs', { ...(await get('repairs', this.id)), retest: id }],
      ],
    );
    sender.send();
    await this.load();
    this.go(`run/${id}`);
  },
};
