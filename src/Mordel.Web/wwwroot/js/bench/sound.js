// What a bench sounds like, if wanted: water that runs hisses, drops tick, an inlet that opens claps.
export class Sound {
  #audio = null;
  #hiss;
  #drip = 0;
  on = false;

  toggle() {
    this.on = !this.on;
    if (this.on && !this.#audio) this.#begin();
    if (!this.on && this.#hiss) this.#hiss.gain.setTargetAtTime(0, this.#audio.currentTime, 0.05);
    return this.on;
  }

  #begin() {
    this.#audio = new AudioContext();
    const length = this.#audio.sampleRate * 2,
      buffer = this.#audio.createBuffer(1, length, this.#audio.sampleRate),
      data = buffer.getChannelData(0);
    for (let i = 0; i < length; i++) data[i] = Math.random() * 2 - 1;
    const noise = new AudioBufferSourceNode(this.#audio, { buffer, loop: true }),
      band = new BiquadFilterNode(this.#audio, { type: 'bandpass', frequency: 2400, Q: 0.6 });
    this.#hiss = new GainNode(this.#audio, { gain: 0 });
    noise.connect(band).connect(this.#hiss).connect(this.#audio.destination);
    noise.start();
  }

  #click(frequency, seconds, loud) {
    const tone = new OscillatorNode(this.#audio, { frequency }),
      gain = new GainNode(this.#audio, { gain: loud }),
      now = this.#audio.currentTime;
    tone.frequency.exponentialRampToValueAtTime(frequency / 3, now + seconds);
    gain.gain.exponentialRampToValueAtTime(0.001, now + seconds);
    tone.connect(gain).connect(this.#audio.destination);
    tone.start();
    tone.stop(now + seconds);
  }

  /** @param {number} flow what leaves to the air altogether, in³/s @param {number} seconds since the last frame */
  hear(flow, seconds) {
    if (!this.on || !this.#audio) return;
    this.#hiss.gain.setTargetAtTime(
      flow < 0.05 ? 0 : Math.min(0.25, 0.04 * Math.sqrt(flow)),
      this.#audio.currentTime,
      0.06,
    );
    if (flow < 0.0006 || flow > 0.3) return;
    this.#drip += Math.min(8, flow / 0.004) * seconds;
    if (this.#drip >= 1) {
      this.#drip = 0;
      this.#click(900 + 300 * Math.random(), 0.06, 0.12);
    }
  }

  pop() {
    if (this.on && this.#audio) {
      this.#click(180, 0.18, 0.5);
      this.#click(2600, 0.05, 0.2);
    }
  }
}
