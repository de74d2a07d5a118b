// What a person sets on this device: numbers only, sound, vibration. All off until asked for.
const name = key => `mordel-${key}`;

export const setting = key => {
  try {
    return localStorage.getItem(name(key)) === 'on';
  } catch {
    return false;
  }
};
export const keepSetting = (key, on) => {
  try {
    localStorage.setItem(name(key), on ? 'on' : 'off');
  } catch {
    /* kept for this page only */
  }
};

// The end of a watch: two short tones and a shake, where they are wanted and the device can.
export const cue = (sound, buzz) => {
  if (buzz) navigator.vibrate?.([200, 100, 200]);
  if (!sound || !globalThis.AudioContext) return;
  const audio = new AudioContext();
  for (const at of [0, 0.3]) {
    const tone = audio.createOscillator(),
      level = audio.createGain();
    tone.frequency.value = 880;
    level.gain.value = 0.15;
    tone.connect(level).connect(audio.destination);
    tone.start(audio.currentTime + at);
    tone.stop(audio.currentTime + at + 0.2);
  }
};
