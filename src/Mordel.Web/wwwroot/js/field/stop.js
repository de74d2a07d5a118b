// A stop: all that is needed at the door, and the way into the test.
import { now } from './clock.js';
import { keep, learn, lines, put } from './store.js';

export const stop = {
  get stopRun() {
    return this.runOf(this.stop);
  },
  get canBegin() {
    return !!this.stop?.setup && this.stateOf(this.stop) !== 'signed';
  },
  get beginText() {
    if (this.stateOf(this.stop) === 'running') return 'Go on with the test';
    return this.stop?.whyNot ? 'Begin it all the same' : 'Begin the test';
  },
  get stopSigned() {
    return this.stateOf(this.stop) === 'signed';
  },
  get stopReport() {
    return this.stopRun ? `#report/${this.stopRun.id}` : `/reports/${this.stop?.run ?? ''}`;
  },
  get openRepairs() {
    return this.repairs.filter(r => r.stop === this.stop?.id && !r.retest);
  },
  repairHref: repair => `#repair/${repair.id}`,

  beginStopKept() {
    return this.keeping(() => this.beginStop());
  },
  async beginStop() {
    const at = this.stop;
    if (!at?.setup) return;
    if (!this.stopRun) await this.bringRun(at);
    this.go(`run/${this.runOf(at)?.id ?? at.run}`);
  },
  // A test that is open on the server goes on here; another begins here, and is sent with what was given out for it.
  async bringRun(at) {
    const row = { id: at.run, stop: at.id, setup: at.setup, previous: at.previous };
    if (at.isBegun) {
      await learn(
        at.run,
        at.log.flatMap(line => lines(line)),
      );
      await put('runs', row);
    } else {
      const begunAt = now().toISOString();
      await keep(
        [{ kind: 'begin', of: at.run, by: this.me.id, body: { setup: at.setup, pass: at.pass, begunAt } }],
        [['runs', { ...row, begunAt }]],
      );
    }
    await this.load();
  },
};
