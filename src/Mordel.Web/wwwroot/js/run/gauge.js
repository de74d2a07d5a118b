// A gauge that streams into the run screen: a bridge's or a simulated one. It only brings lines; a reading is what the
// tester captures.
export class Gauge extends EventTarget {
  #run;
  #socket = null;
  #source = '';
  #step = '';
  #retry = null;
  #at = 0;

  constructor(run) {
    super();
    this.#run = run;
    this.timer = setInterval(() => this.#age(), 400);
  }

  /** Nobody looks any more. */
  end() {
    clearInterval(this.timer);
    this.use('');
  }

  /** @param {string} source nothing, bridge, steady, drops or lags */
  use(source) {
    this.#source = source;
    clearTimeout(this.#retry);
    this.#socket?.close();
    this.#socket = null;
    this.#tell('line', null);
    if (source) this.#open();
  }

  step(key) {
    this.#step = key;
    if (this.#socket?.readyState === WebSocket.OPEN) this.#socket.send(JSON.stringify({ step: key }));
  }

  #open() {
    const simulated = this.#source === 'bridge' ? '' : `?simulated=${this.#source}`;
    const server = location.origin.replace(/^http/, 'ws');
    const socket = (this.#socket = new WebSocket(`${server}/api/runs/${this.#run}/gauge${simulated}`));
    socket.onopen = () => this.step(this.#step);
    socket.onmessage = event => {
      this.#at = Date.now();
      this.#tell('line', JSON.parse(event.data));
    };
    socket.onclose = () => {
      if (socket === this.#socket) this.#retry = setTimeout(() => this.#open(), 2000);
    };
  }

  // What is older than a breath is not what the gauge shows.
  #age() {
    if (this.#at && Date.now() - this.#at > 1200) {
      this.#at = 0;
      this.#tell('line', null);
    }
  }
  #tell(name, detail) {
    this.dispatchEvent(new CustomEvent(name, { detail }));
  }
}
