// A run whose view the core on this device makes, from the setup and the log that stand here: the same as the server's.
import { fieldCore } from '../core.js';
import { idle } from '../idle.js';
import { dayHere } from './clock.js';
import { batch, get, logOf } from './store.js';

const PART = 200;
let held = null;

/** The core with what it can do in the field; null where it cannot load. */
export const loaded = progress => (held ??= fieldCore(progress));

let rehearsed = false;

/**
 * Reads what a test would begin with and makes its first view, while somebody reads at the stop: done for the first
 * time both take seconds on a slow phone. Nothing of it is kept or shown.
 */
export async function rehearse(setup) {
  if (rehearsed) return;
  rehearsed = true;
  const core = await loaded();
  await idle();
  if (!core || (await core.Open('rehearsal', setup, ''))) return;
  await idle();
  await core.View('rehearsal', false);
}

export class DeviceRun {
  constructor(core, row) {
    Object.assign(this, { core, row, id: row.id });
  }

  /** Opens one that stands here; null where it does not, or the core cannot load or read it. */
  static async open(id) {
    const row = await get('runs', id);
    if (!row?.setup) return null;
    const core = await loaded();
    if (!core) return null;
    const wrong = await core.Open(id, row.setup, row.begunAt ?? '');
    if (wrong) {
      console.info(`This run cannot be opened here: ${wrong}`);
      return null;
    }
    const run = new DeviceRun(core, row);
    await run.take(await logOf(id));
    return run;
  }

  /** Takes entries in; throws where something is wrong with them. */
  async take(entries) {
    const parts = [];
    for (let from = 0; from < entries.length; from += PART)
      parts.push(this.core.Take(this.id, batch(entries.slice(from, from + PART))));
    for (const wrong of await Promise.all(parts)) if (wrong) throw new Error(JSON.parse(wrong).faults.join('; '));
  }

  /** What the run screen shows. */
  async view() {
    return JSON.parse(await this.core.View(this.id, !!this.row.sealed));
  }

  /** Takes entries in and answers the view with them: asked for together, the core answers both in one go. */
  async viewWith(entries) {
    const [, view] = await Promise.all([this.take(entries), this.view()]);
    return view;
  }

  async weigh({ step = '', value = '', shown = '', speed = '' }) {
    const weighed = JSON.parse(await this.core.Weigh(this.id, step, String(value), String(shown), String(speed)));
    return weighed.faults ? null : weighed;
  }

  async verdict() {
    return JSON.parse(await this.core.Verdict(this.id, this.row.previous ?? '', -new Date().getTimezoneOffset()));
  }

  async seen() {
    return JSON.parse(await this.core.Seen(this.id));
  }

  async repair(place, entries) {
    const log = entries.length ? batch(entries) : '';
    return JSON.parse(await this.core.Repair(this.id, JSON.stringify(place), log, dayHere()));
  }
}
