// The core in the browser: loaded only when somebody asks for it, once, with progress. It stands in a thread of its
// own, so that neither its start nor its work holds the page. Where it cannot load there is null.
let thread = null;

const couldNot = error => {
  console.info(`The core did not load; the server answers instead. ${error}`);
  return null;
};

/** Whether somebody has asked for it. */
export const started = () => thread !== null;

// How to ask it.
const asking = (progress = () => {}) => (thread ??= employ(progress).catch(couldNot));

/** Starts it where this is called: in its thread, or in the page. */
export async function start(progress) {
  const { dotnet } = await import('/core/dotnet.js');
  const { getAssemblyExports, getConfig } = await dotnet
    .withModuleConfig({ onDownloadResourceProgress: (loaded, total) => progress(loaded, total) })
    .create();
  return (await getAssemblyExports(getConfig().mainAssemblyName)).Mordel.Browser;
}

// The page's own, where this browser starts no thread.
async function inPage(progress) {
  const all = await start(progress);
  return async (door, name, given) => all[door][name](...given);
}

async function employ(progress) {
  if (typeof WebAssembly !== 'object') throw new Error('no WebAssembly here');
  let here,
    last = 0;
  try {
    // Threads have no map of scripts: its name tells it where this one is.
    here = new Worker(import.meta.resolve('./core-worker.js'), { type: 'module', name: import.meta.url });
  } catch {
    return inPage(progress);
  }
  const waiting = new Map();
  const ask = (...asked) =>
    new Promise((answer, refuse) => {
      waiting.set(++last, { answer, refuse });
      here.postMessage({ id: last, asked });
    });
  const answered = ({ id, answer, wrong }) => {
    const asker = waiting.get(id);
    waiting.delete(id);
    if (wrong) asker?.refuse(new Error(wrong));
    else asker?.answer(answer);
  };
  return new Promise((done, fail) => {
    let isReady = false;
    here.addEventListener('error', ({ message }) => {
      if (!isReady) return done(inPage(progress));
      // Another begins when somebody asks next; what was opened in this one is to be opened anew.
      thread = null;
      here.terminate();
      for (const { refuse } of waiting.values()) refuse(new Error(message));
    });
    here.addEventListener('message', ({ data }) => {
      if (data.ready) {
        isReady = true;
        done(ask);
      } else if (data.failed) fail(new Error(data.failed));
      else if ('loaded' in data) progress(data.loaded, data.total);
      else answered(data);
    });
  });
}

async function call(...asked) {
  const ask = await asking();
  if (!ask) throw new Error('The core does not run here any more.');
  return ask(...asked);
}

// What is exported under that name, to be called as if it stood here: each answers later.
async function door(name, progress) {
  if (!(await asking(progress))) return null;
  return new Proxy({}, { get: (_, what) => (what === 'then' ? null : (...given) => call(name, what, given)) });
}

/** Evaluates and simulates. */
export const core = progress => door('PageExports', progress);

/** The check of a report's file. */
export const fileChecks = progress => door('FileCheckExports', progress);

/** The field rooms. */
export const fieldCore = progress => door('FieldExports', progress);

/** The diagnosis, with the atlas of a body opened; null where either cannot be had. */
export async function diagnoses(file) {
  const weighs = await door('DiagnosisExports');
  if (!weighs) return null;
  try {
    const answer = await fetch(`/core/${file}`);
    if (!answer.ok || (await weighs.Open(new Uint8Array(await answer.arrayBuffer())))) return null;
    return weighs;
  } catch {
    return null;
  }
}

/** The benches. */
export const benchCore = progress => door('BenchExports', progress);

/** Fetches its files and starts nothing: whoever opens a bench next has them. Not where data is saved. */
export async function fetchAhead(files) {
  if (started() || typeof WebAssembly !== 'object' || navigator.connection?.saveData) return;
  try {
    await Promise.all(files.map(async file => (await fetch(file, { priority: 'low' })).arrayBuffer()));
  } catch (problem) {
    console.info(`The core was not fetched ahead. ${problem}`);
  }
}
