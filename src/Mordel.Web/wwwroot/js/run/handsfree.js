// Eyes on the port, a hand on the valve: the needle of a streaming gauge is spoken and heard, a press anywhere catches
// it, and the screen stays awake. Steps and speeds come with the view.
import { keepSetting, setting } from './settings.js';

const controls = 'button, a, input, select, textarea, label, summary, dialog, [role=button]';
// The key of a foot pedal: those that turn pages.
const pedal = ['PageDown', 'PageUp'];

export const handsFree = {
  speaks: setting('speaks'),
  hums: setting('hums'),
  pressAnywhere: setting('press-anywhere'),
  spoken: null,
  voice: null,
  awake: null,

  begin() {
    this.wake = () => {
      if (document.visibilityState === 'visible') this.stayAwake();
    };
    this.caught = event => this.caughtBy(event);
    document.addEventListener('visibilitychange', this.wake);
    document.addEventListener('pointerdown', this.caught);
    this.stayAwake();
  },
  rest() {
    document.removeEventListener('visibilitychange', this.wake);
    document.removeEventListener('pointerdown', this.caught);
    this.awake?.release?.();
    this.hush();
  },
  async stayAwake() {
    if (this.readonly) return;
    try {
      this.awake = await navigator.wakeLock?.request('screen');
    } catch {
      /* the device saves its battery */
    }
  },

  get needleSteps() {
    return this.capture?.needle ?? null;
  },
  get tooFast() {
    return !!this.shown && !!this.needleSteps && Math.abs(this.shown.rate ?? 0) > this.needleSteps.fast;
  },
  get canHear() {
    return 'speechSynthesis' in globalThis || !!globalThis.AudioContext;
  },
  get speaksText() {
    return `Speak the needle: ${this.speaks ? 'on' : 'off'}`;
  },
  get humsText() {
    return `Its tone: ${this.hums ? 'on' : 'off'}`;
  },
  get pressText() {
    return `Press anywhere to capture: ${this.pressAnywhere ? 'on' : 'off'}`;
  },
  get showsPress() {
    return this.pressAnywhere && this.canCapture;
  },
  turn(name) {
    this[name] = !this[name];
    keepSetting({ pressAnywhere: 'press-anywhere' }[name] ?? name, this[name]);
    if (!this[name]) this.hush();
    else if (name === 'speaks') this.say('The needle is spoken.');
  },

  /** A line of the gauge, or none any more. */
  hear(line) {
    this.shown = line;
    const steps = this.needleSteps;
    if (!line || !steps) {
      this.spoken = null;
      this.hush(true);
      return;
    }
    const rate = Math.abs(line.rate ?? 0);
    const step = rate > steps.fast ? steps.coarse : steps.fine;
    const at = Math.round(line.value / step) * step;
    if (this.speaks && (this.spoken === null || Math.abs(line.value - this.spoken) >= step * 0.9)) {
      this.spoken = at;
      this.say(at.toFixed(step < 1 ? 1 : 0));
    }
    if (this.hums) this.hum(line.value, rate > steps.fast);
  },
  say(words) {
    const speech = globalThis.speechSynthesis;
    if (!speech) return;
    // A number that is late is wrong: what is not said yet is not said any more.
    speech.cancel();
    const said = new SpeechSynthesisUtterance(words);
    said.rate = 1.3;
    speech.speak(said);
  },
  // Low needle, low tone; it beats when the needle is too fast to be caught.
  hum(value, fast) {
    const Audio = globalThis.AudioContext;
    if (!Audio) return;
    if (!this.voice) {
      const audio = new Audio(),
        tone = audio.createOscillator(),
        level = audio.createGain(),
        beat = audio.createOscillator(),
        depth = audio.createGain();
      level.gain.value = 0.06;
      beat.frequency.value = 9;
      depth.gain.value = 0;
      beat.connect(depth).connect(level.gain);
      tone.connect(level).connect(audio.destination);
      for (const one of [tone, beat]) one.start();
      this.voice = { audio, tone, depth };
    }
    const { audio, tone, depth } = this.voice;
    tone.frequency.setTargetAtTime(
      220 * 2 ** Math.min(3, Math.max(0, value / (5 * this.needleSteps.coarse))),
      audio.currentTime,
      0.05,
    );
    depth.gain.setTargetAtTime(fast ? 0.06 : 0, audio.currentTime, 0.02);
  },
  hush(tone = false) {
    if (!tone) globalThis.speechSynthesis?.cancel();
    this.voice?.audio.close();
    this.voice = null;
  },

  caughtBy(event) {
    if (!this.showsPress || event.button > 0 || event.target.closest(controls)) return;
    if (document.querySelector('dialog[open]')) return;
    event.preventDefault();
    this.captureNow();
  },
  /** A foot pedal, or a key: whether it was one that captures. */
  pedalled(event) {
    if (!this.canCapture || !pedal.includes(event.key)) return false;
    event.preventDefault();
    this.captureNow();
    return true;
  },
};
