// The findings board on this device: what the run has seen, what was looked at since, and what the core makes of both
// with the atlas that was taken along.
import { diagnoses } from '../core.js';
import { sender } from './sender.js';
import { all, get, keep } from './store.js';

const line = ({ look, outlet, opened, found }) => JSON.stringify(opened ? { part: opened, found } : { look, outlet });

export const board = {
  boards: [],
  weighed: null,
  boardTrouble: '',

  async openBoard() {
    [this.weighed, this.boardTrouble] = [null, ''];
    this.boards = await all('boards');
    const device = await this.device();
    if (!device) return;
    await this.weighIt(device);
  },
  async weighIt(device) {
    const at = this.stopOf(device.row);
    const core = at?.board && (await diagnoses(at.atlas));
    if (!core) {
      this.boardTrouble = 'The atlas of this assembly is not on board: the board needs a signal.';
      return;
    }
    const { procedure, seen } = await device.seen(),
      own = (this.boards.find(b => b.run === device.id)?.seen ?? []).map(line),
      answer = await core.Board(JSON.stringify({ ...JSON.parse(at.board), procedure, seen: [...seen, ...own] }));
    if (answer) this.weighed = JSON.parse(answer);
    else this.boardTrouble = 'What was seen cannot be weighed here.';
  },
  get hasBoard() {
    return this.room === 'board' && !!this.weighed;
  },
  get looks() {
    return this.weighed?.next ?? [];
  },
  get remains() {
    return this.weighed?.hypotheses ?? [];
  },
  get seenWords() {
    return this.weighed?.seen ?? [];
  },
  get againstText() {
    const [words] = this.weighed?.against ?? [];
    return words ? `“${words}” goes with nothing else that was seen. Look at that once more.` : '';
  },
  weightText: h => (h.percent < 1 ? 'under 1 %' : `${h.percent} %`),
  leavesText: h => (h.leaves.length ? `Does not explain: ${h.leaves.join('; ')}` : ''),
  lookClass: i => (i === 0 ? 'look is-best' : 'look'),

  seeItKept(look, answer) {
    return this.keeping(() => this.seeIt(look, answer));
  },
  /** Something was seen at a look. */
  async seeIt(look, answer) {
    const run = await get('runs', this.id),
      at = this.stopOf(run),
      fields = look.part ? { opened: look.part, found: answer.value } : { look: look.look, outlet: answer.value },
      there = this.boards.find(b => b.run === run.id),
      id = there?.id ?? crypto.randomUUID(),
      entry = crypto.randomUUID(),
      by = this.me.id;
    const deeds = there ? [] : [{ kind: 'look', of: id, after: run.id, by, body: { assembly: at.assembly } }];
    deeds.push({ kind: 'saw', of: id, by, body: { ...fields, entry } });
    await keep(deeds, [['boards', { id, run: run.id, seen: [...(there?.seen ?? []), fields] }]]);
    sender.send();
    await this.openBoard();
  },
};
