// The time, by the server's clock as of when it answered last, where this device's is far from it.
import { about } from './store.js';

const FAR = 30_000;
let ahead = 0;

/** Reads how far this device's clock is off. */
export async function setClock() {
  ahead = (await about('clock')) ?? 0;
  return ahead;
}

/** Whether it is so far off that it is said. */
export const isFar = () => Math.abs(ahead) > 2 * 60_000;

export const now = () => new Date(Date.now() + (Math.abs(ahead) > FAR ? ahead : 0));

/** A span of time in words, to the minute, the hour or the day. */
export const spanText = milliseconds => {
  const minutes = Math.round(milliseconds / 60_000),
    hours = Math.round(minutes / 60);
  return minutes < 90 ? `${minutes} minutes` : hours < 36 ? `${hours} hours` : `${Math.round(hours / 24)} days`;
};

/** The day here. */
export const dayHere = () => new Date(Date.now() - new Date().getTimezoneOffset() * 60_000).toISOString().slice(0, 10);

/** How far, in words. */
export const farText = () => {
  const says = `This device’s clock is ${spanText(Math.abs(ahead))} ${ahead > 0 ? 'slow' : 'fast'}.`;
  return `${says} What is entered here carries the time of the server’s clock, as of when it answered last.`;
};
