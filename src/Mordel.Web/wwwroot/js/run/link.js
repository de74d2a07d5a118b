// The line between this screen and the run's log: sends what waits, fetches the view, tells other tabs.
import { acknowledge, keep, waiting } from './outbox.js';

// A reading keeps its digits: 2.0 stays 2.0, which JSON.stringify alone would write as 2.
const text = entries => JSON.stringify({ entries }).replace(/\{"raw":"(-?[0-9.]+)"\}/g, '$1');

export class Link extends EventTarget {
  #run;
  #token;
  #sending = null;
  #etag = null;
  #retry = 0;
  #channel;

  constructor(run, token) {
    super();
    this.#run = run;
    this.#token = token;
    this.#channel = new BroadcastChannel(`run-${run}`);
    this.#channel.onmessage = () => this.refresh();
    addEventListener('online', () => this.send());
    document.addEventListener('visibilitychange', () => {
      if (!document.hidden) this.send().then(() => this.refresh());
    });
    setInterval(() => {
      if (!document.hidden) this.refresh();
    }, 4000);
  }

  // Every entry is on this device before it is sent.
  async add(bodies, nextTick) {
    const held = await waiting(this.#run);
    const first = Math.max(nextTick, ...held.map(entry => entry.tick + 1));
    // What comes from the screen may be wrapped to be watched; what is kept is plain.
    const plain = JSON.parse(JSON.stringify(bodies));
    await keep(
      this.#run,
      plain.map((body, i) => ({ id: crypto.randomUUID(), tick: first + i, at: new Date().toISOString(), ...body })),
    );
    await this.send();
  }

  send() {
    return (this.#sending ??= this.#sendAll().finally(() => {
      this.#sending = null;
    }));
  }

  async #sendAll() {
    let most = 200;
    for (;;) {
      const all = await waiting(this.#run);
      const entries = all.slice(0, most);
      this.#tell('waiting', all.length);
      if (entries.length === 0) return;
      let answer;
      try {
        answer = await fetch(`/api/runs/${this.#run}/entries`, {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'X-Mordel-Token': this.#token },
          body: text(entries),
        });
      } catch {
        return this.#later();
      }
      if (answer.ok) {
        await acknowledge(entries);
        this.#retry = 0;
        this.#tell('view', await answer.json());
        this.#channel.postMessage('grown');
      } else if (answer.status >= 500 || answer.status === 429) return this.#later();
      else if (entries.length > 1 && answer.status !== 403)
        most = 1; // one of them is refused: find out which, keep the others
      else {
        const problem = await answer.json().catch(() => null);
        // A refused entry would be refused again: it is named, so that it can be entered anew. A stale page keeps it.
        if (answer.status === 400 || answer.status === 409 || answer.status === 404) await acknowledge(entries);
        this.#tell(
          'refused',
          [
            problem?.error ?? `The server answered ${answer.status}.`,
            ...(problem?.faults ?? []).map(f => `${f.place}: ${f.says}`),
          ].join(' '),
        );
        await this.refresh(true);
        if (answer.status === 403 || answer.status === 401) return;
      }
    }
  }

  #later() {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.send(), Math.min(15000, 600 * 2 ** this.#retry++));
  }

  async refresh(always = false) {
    try {
      const answer = await fetch(`/api/runs/${this.#run}/view`, {
        headers: this.#etag && !always ? { 'if-none-match': this.#etag } : {},
        cache: 'no-store',
      });
      // Reached again: what waits does not wait for its turn.
      if (answer.ok || answer.status === 304) {
        if (this.#retry > 0) {
          this.#retry = 0;
          clearTimeout(this.timer);
          this.send();
        }
      }
      if (answer.status === 200) {
        this.#etag = answer.headers.get('etag');
        this.#tell('view', await answer.json());
      }
    } catch {
      /* out of reach; the interval asks again */
    }
  }

  /** A number weighed before it is taken: what was typed as value, or what a gauge shows as shown. */
  async weigh(asked) {
    try {
      const answer = await fetch(`/api/runs/${this.#run}/weigh?${new URLSearchParams(asked)}`);
      return answer.ok ? await answer.json() : null;
    } catch {
      return null;
    }
  }

  #tell(name, detail) {
    this.dispatchEvent(new CustomEvent(name, { detail }));
  }
}
