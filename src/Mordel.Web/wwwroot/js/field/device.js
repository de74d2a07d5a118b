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
  if (!core || core.Open('rehearsal', setup, '')) return;
  await idle();
  core.View('rehearsal', false);
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
    const wrong = core.Open(id, row.setup, row.begunAt ?? '');
    if (wrong) {
      console.info(`This run cannot be opened here: ${wrong}`);
      return null;
    }
    const run = new DeviceRun(core, row);
    run.take(await logOf(id));
    return run;
  }

  take(entries) {
    for (let from = 0; from < entries.length; from += PART) {
      const wrong = this.core.Take(this.id, batch(entries.slice(from, from + PART)));
      if (wrong) throw new Error(JSON.parse(wrong).faults.join('; '));
    }
  }

  get view() {
    return JSON.parse(this.core.View(this.id, !!this.row.sealed));
  }

  weigh({ step = '', value = '', shown = '', speed = '' }) {
    const weighed = JSON.parse(this.core.Weigh(this.id, step, String(value), String(shown), String(speed)));
    return weighed.faults ? null : weighed;
  }

  verdict(previous) {
    return JSON.parse(this.core.Verdict(this.id, previous ?? '', -new Date().getTimezoneOffset()));
  }

  get seen() {
    return JSON.parse(this.core.Seen(this.id));
  }

  repair(place, entries) {
    const log = entries.length ? batch(entries) : '';
    const view = this.core.Repair(this.id, JSON.stringify(place), log, dayHere());
    return JSON.parse(view);
  }
}
