// Where the pages of the field rooms are kept on this device: a cache for each version.
export const CACHES = 'mordel-field-';

/** Whether a file is named by its content, so that it never changes under its name. */
export const isNamed = path => /\.[a-z0-9]{10}\.(js|css|wasm)$/.test(path);

/** Throws them away, but for those of one version. */
export async function emptyCaches(but) {
  for (const name of (await globalThis.caches?.keys()) ?? [])
    if (name.startsWith(CACHES) && name !== CACHES + but) await caches.delete(name);
}
