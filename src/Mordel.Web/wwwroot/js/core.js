// The core in the browser: loaded only when somebody asks for it, once, with progress. Answers the exported functions, or null where it cannot load.
let loading = null;

export function core(progress = () => {}) {
  loading ??= load(progress).catch(error => { console.info(`The core did not load; the server answers instead. ${error}`); return null; });
  return loading;
}

async function load(progress) {
  if (typeof WebAssembly !== 'object') throw new Error('no WebAssembly here');
  const { dotnet } = await import('/core/dotnet.js');
  const { getAssemblyExports, getConfig } = await dotnet.withModuleConfig({ onDownloadResourceProgress: (loaded, total) => progress(loaded, total) }).create();
  return (await getAssemblyExports(getConfig().mainAssemblyName)).Mordel.Browser.PageDoor;
}
