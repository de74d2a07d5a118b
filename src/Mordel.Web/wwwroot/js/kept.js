// Answers that wait for a signal, on this device, in order; and their way to the server.
export const number = () => {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  const digits = [...bytes].map(byte => byte.toString(16).padStart(2, '0')).join('');
  return digits.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');
};

/** Why nothing is sent where nobody answers. */
export const NO_SIGNAL = 'No signal.';

export class KeptAnswers {
  /** @param key What they belong to. @param post Where they go. @param token What proves the page ours. */
  constructor(key, post, token) {
    Object.assign(this, { key, post, token });
  }

  get all() {
    try {
      return JSON.parse(localStorage.getItem(this.key)) ?? [];
    } catch {
      return [];
    }
  }

  set all(list) {
    if (list.length) localStorage.setItem(this.key, JSON.stringify(list));
    else localStorage.removeItem(this.key);
  }

  /** An answer with an id of its own, so that one that is sent twice stands once. */
  static answer(fields) {
    return { ...fields, entry: number(), at: new Date().toISOString() };
  }

  keep(answer) {
    this.all = [...this.all, answer];
  }

  /** Sends one; answers the page it led to, or throws where there is no signal. */
  async sent(answer) {
    const body = new FormData();
    for (const [name, value] of Object.entries(answer))
      if (name !== 'handler') for (const one of [value].flat()) body.append(name, one);
    body.append('__RequestVerificationToken', this.token);
    return fetch(answer.handler ? `${this.post}?handler=${answer.handler}` : this.post, { method: 'POST', body });
  }

  /**
   * Sends what waits, the oldest first. Answers '' when all is there, and else why it is not.
   * @param settled Says '' of an answer that ends its entry's waiting, and else why it still waits.
   */
  sendAll(settled) {
    // Who asks again meanwhile waits for the same way.
    return (this.onItsWay ??= this.#sendAll(settled).finally(() => (this.onItsWay = null)));
  }

  /** The answer to what was taken last, to whoever asks first; else null. */
  takeLast() {
    const last = this.last ?? null;
    this.last = null;
    return last;
  }

  async #sendAll(settled) {
    for (let first; (first = this.all[0]);) {
      let answer;
      try {
        answer = await this.sent(first);
      } catch {
        return NO_SIGNAL;
      }
      const why = settled(answer);
      if (why) return why;
      // By its id: another page of the same board may have sent some too.
      this.all = this.all.filter(one => one.entry !== first.entry);
      this.last = answer;
    }
    return '';
  }
}
