// The line between this screen and the run's log. Every entry is on this device first; the core on this device answers
// where it can, else the server; what waits is sent behind it.
import { DeviceRun } from '../field/device.js';
import { setClock } from '../field/clock.js';
import { enter } from '../field/enter.js';
import { sender } from '../field/sender.js';
import { about, count, get, learn, lines, listen, logOf, put } from '../field/store.js';

export class Link extends EventTarget {
  #run;
  #me;
  #etag = null;
  #device = null;
  #ends = [];
  // How many entries the view has that was shown last.
  #shown = 0;

  /**
   * @param run The run.
   * @param me Whose entries they are.
   * @param device The run on this device; null where it is not.
   */
  constructor(run, me, device = null) {
    super();
    [this.#run, this.#me, this.#device] = [run, me, device];
    const on = (target, name, heard) => {
      target.addEventListener(name, heard);
      this.#ends.push(() => target.removeEventListener(name, heard));
    };
    on(sender, 'taken', event => this.#taken(event.detail));
    on(sender, 'waiting', () => this.#count());
    on(sender, 'refused', event => this.#refused(event.detail));
    on(globalThis, 'online', () => this.send());
    on(document, 'visibilitychange', () => {
      if (!document.hidden) this.send().then(() => this.refresh());
    });
    this.#ends.push(listen(change => this.#changed(change)));
    // Who makes the view here asks only whether another device has added something: not so often.
    let beat = 0;
    const timer = setInterval(() => {
      if (!document.hidden && (!this.#device || ++beat % 3 === 0)) this.refresh();
    }, 4000);
    this.#ends.push(() => clearInterval(timer));
    if (!device) sender.watched.add(run);
    this.#ends.push(() => sender.watched.delete(run));
    setClock();
    this.#count();
  }

  /** The token of a page that the server has just made: nothing need be asked for before something is sent. */
  use(token) {
    if (!sender.token) [sender.token, sender.me] = [token, this.#me];
  }

  /** Nobody looks any more. */
  end() {
    for (const end of this.#ends.splice(0)) end();
  }

  /** Whether the core on this device answers. */
  get isHere() {
    return !!this.#device;
  }

  /** From now on the core on this device answers, where a round is on board and the core loads. */
  async comeHome() {
    if ((await about('owner'))?.id !== this.#me || !(await about('round'))) return;
    if (!(await get('runs', this.#run)) && !(await this.#bring())) return;
    this.#device = await DeviceRun.open(this.#run);
    if (!this.#device) return;
    sender.watched.delete(this.#run);
    this.#tell('home', true);
    this.#tell('view', await this.#device.view());
  }

  // A run that was begun with a signal goes on without one.
  async #bring() {
    try {
      const [setup, log] = await Promise.all(
        ['setup', 'log'].map(what => fetch(`/api/runs/${this.#run}/${what}`, { cache: 'no-store' })),
      );
      if (!setup.ok || !log.ok) return false;
      await learn(this.#run, lines(await log.text()));
      const text = await setup.text();
      await put('runs', { id: this.#run, setup: text, stop: JSON.parse(text).stop });
      return true;
    } catch {
      return false;
    }
  }

  async add(bodies, nextTick) {
    const { entries, kept } = await enter(this.#run, this.#me, bodies, {
      least: nextTick,
      knowsAll: !!this.#device,
    });
    if (!this.#device) {
      await kept;
      return this.send();
    }
    // The view is made while the storage writes; it is shown when both are done.
    const seen = this.#device.viewWith(entries).catch(problem => console.info(`The core lost this run. ${problem}`));
    try {
      await kept;
    } catch (problem) {
      this.#device = await DeviceRun.open(this.#run);
      throw problem;
    }
    const view = (await seen) ?? (await this.#openAnew());
    if (view) this.#tell('view', view);
    sender.nudge();
  }

  // What is kept here is all that was entered: the core reads it once more, or the server answers from now on.
  async #openAnew() {
    this.#device = await DeviceRun.open(this.#run);
    if (this.#device) return this.#device.view();
    await this.send();
    return null;
  }

  send() {
    return sender.send();
  }

  async #count() {
    this.#tell('waiting', await count(this.#run));
  }

  #taken({ of, view, tag }) {
    if (of === this.#run && view) this.#seen(view, tag);
  }

  // The device has answered already: what the server shows counts where it knows more. Until that is here, the server
  // is asked for it again; from then on only whether more has come.
  async #seen(view, tag) {
    if (view.stages && (!this.#device || view.sealed)) this.#tell('view', view);
    else await this.#compare(view);
    if (this.#shown >= view.entries) this.#etag = tag;
  }

  // How far the run is for the server, without its view.
  async #compare({ entries, sealed }) {
    if (sealed || !this.#device) await this.refresh(true);
    else if (entries > this.#shown) await this.#fetchLog();
  }

  async #fetchLog() {
    try {
      const answer = await fetch(`/api/runs/${this.#run}/log`, { cache: 'no-store' });
      if (!answer.ok) return;
      const entries = lines(await answer.text());
      await learn(this.#run, entries);
      this.#tell('view', await this.#device.viewWith(entries));
    } catch {
      /* out of reach; the interval asks again */
    }
  }

  // Another tab has entered something, or has sent it.
  async #changed(change) {
    this.#count();
    if ((change.grown ?? change.sent) !== this.#run) return;
    if (!this.#device) return this.refresh();
    this.#tell('view', await this.#device.viewWith(await logOf(this.#run)));
  }

  // A refused entry would be refused again: it is named, so that it can be entered anew.
  #refused({ deed, why }) {
    if (deed.of !== this.#run) return;
    this.#tell('refused', why);
    if (this.#device) this.comeHome();
    this.refresh(true);
  }

  async refresh(always = false) {
    try {
      const answer = await fetch(`/api/runs/${this.#run}/view`, {
        headers: always
          ? {}
          : {
              ...(this.#etag ? { 'if-none-match': this.#etag } : {}),
              ...(this.#device ? { Prefer: 'return=minimal' } : {}),
            },
        cache: 'no-store',
      });
      // Reached again: what waits does not wait for its turn.
      if ((answer.ok || answer.status === 304) && sender.state === 'offline') this.send();
      if (answer.status === 200) await this.#seen(await answer.json(), answer.headers.get('etag'));
    } catch {
      /* out of reach; the interval asks again */
    }
  }

  /** A number weighed before it is taken: what was typed as value, or what a gauge shows as shown. */
  async weigh(asked) {
    if (this.#device) return this.#device.weigh(asked);
    try {
      const answer = await fetch(`/api/runs/${this.#run}/weigh?${new URLSearchParams(asked)}`);
      return answer.ok ? await answer.json() : null;
    } catch {
      return null;
    }
  }

  #tell(name, detail) {
    if (name === 'view') this.#shown = detail.entries;
    this.dispatchEvent(new CustomEvent(name, { detail }));
  }
}
