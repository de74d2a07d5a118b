// Pictures wait here, on this device, until the server has them whole. They are made smaller before: what a camera
// writes beside the pixels, places among it, does not leave the device.
import { openDB } from '/lib/idb.js';
import { number } from './kept.js';

const LONG_EDGE = 1600,
  QUALITY = 0.85;

const opened = openDB('mordel-photos', 1, {
  upgrade: db => db.createObjectStore('photos', { keyPath: 'entry' }).createIndex('repair', 'repair'),
});

/** A picture as it is kept: at most 1600 pixels wide or tall, nothing but its pixels. */
export async function smaller(file) {
  const picture = await createImageBitmap(file, { imageOrientation: 'from-image' });
  const scale = Math.min(1, LONG_EDGE / Math.max(picture.width, picture.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(picture.width * scale));
  canvas.height = Math.max(1, Math.round(picture.height * scale));
  canvas.getContext('2d').drawImage(picture, 0, 0, canvas.width, canvas.height);
  return new Promise(done => canvas.toBlob(done, 'image/jpeg', QUALITY));
}

export class PhotoBox {
  constructor(repair, token) {
    Object.assign(this, { repair, token });
  }

  /** Keeps one; answers why not, in words, or ''. */
  async keep(file, of) {
    let blob;
    try {
      blob = await smaller(file);
    } catch {
      return 'This is no picture that can be read here. Take a photo, or choose a JPEG, PNG or WebP file.';
    }
    try {
      const bytes = await blob.arrayBuffer();
      await (
        await opened
      ).put('photos', { entry: number(), repair: this.repair, of, at: new Date().toISOString(), bytes });
      return '';
    } catch {
      return 'There is no room for the picture on this device.';
    }
  }

  /** Sends what waits. Answers how many went, how many are left, and why one was refused. */
  send() {
    return (this.onItsWay ??= this.#sendAll().finally(() => (this.onItsWay = null)));
  }

  async #sendAll() {
    const db = await opened;
    const waiting = await db.getAllFromIndex('photos', 'repair', this.repair);
    waiting.sort((a, b) => a.at.localeCompare(b.at));
    let sent = 0;
    for (const photo of waiting) {
      const body = new FormData();
      for (const name of ['entry', 'of', 'at']) body.append(name, photo[name]);
      body.append('photo', new Blob([photo.bytes], { type: 'image/jpeg' }), 'photo.jpg');
      let answer;
      try {
        answer = await fetch(`/api/repairs/${this.repair}/photos`, {
          method: 'POST',
          headers: { 'X-Mordel-Token': this.token },
          body,
        });
      } catch {
        return { sent, left: waiting.length - sent };
      }
      if (answer.ok) {
        await db.delete('photos', photo.entry);
        sent++;
      } else {
        const problem = await answer.json().catch(() => null);
        if (answer.status === 400 || answer.status === 404) await db.delete('photos', photo.entry);
        return { sent, left: 0, why: problem?.error ?? `The server did not take it (${answer.status}).` };
      }
    }
    return { sent, left: 0 };
  }
}
