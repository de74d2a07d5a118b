// The core in the browser: loaded only when somebody asks for it, once, with progress. Answers the exported functions,
// or null where it cannot load.
let loading = null;

const exported = progress =>
  (loading ??= load(progress).catch(error => {
    console.info(`The core did not load; the server answers instead. ${error}`);
    return null;
  }));

/** Whether somebody has asked for it. */
export const started = () => loading !== null;

/** Evaluates and simulates. */
export const core = (progress = () => {}) => exported(progress).then(all => all?.PageExports ?? null);

/** The check of a report's file. */
export const fileChecks = (progress = () => {}) => exported(progress).then(all => all?.FileCheckExports ?? null);

/** The field rooms. */
export const fieldCore = (progress = () => {}) => exported(progress).then(all => all?.FieldExports ?? null);

/** The benches. */
export const benches = (progress = () => {}) => exported(progress).then(all => all?.BenchExports ?? null);

/** The diagnosis, with the atlas of a body opened; null where either cannot be had. */
export async function diagnoses(file) {
  const all = await exported(() => {});
  if (!all) return null;
  try {
    const answer = await fetch(`/core/${file}`);
    if (!answer.ok || all.DiagnosisExports.Open(new Uint8Array(await answer.arrayBuffer()))) return null;
    return all.DiagnosisExports;
  } catch {
    return null;
  }
}

/** Fetches its files and starts nothing: whoever opens a bench next has them. Not where data is saved. */
export async function fetchAhead(files) {
  if (loading || typeof WebAssembly !== 'object' || navigator.connection?.saveData) return;
  try {
    await Promise.all(files.map(async file => (await fetch(file, { priority: 'low' })).arrayBuffer()));
  } catch (problem) {
    console.info(`The core was not fetched ahead. ${problem}`);
  }
}

async function load(progress) {
  if (typeof WebAssembly !== 'object') throw new Error('no WebAssembly here');
  const { dotnet } = await import('/core/dotnet.js');
  const { getAssemblyExports, getConfig } = await dotnet
    .withModuleConfig({ onDownloadResourceProgress: (loaded, total) => progress(loaded, total) })
    .create();
  return (await getAssemblyExports(getConfig().mainAssemblyName)).Mordel.Browser;
}
