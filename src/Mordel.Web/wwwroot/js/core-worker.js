// The core in a thread of its own: what a page asks is answered in the order in which it was asked.
let exported = null;

async function begin() {
  const { start } = await import(globalThis.name);
  exported = await start((loaded, total) => postMessage({ loaded, total }));
  postMessage({ ready: true });
}

addEventListener('message', ({ data: { id, asked } }) => {
  const [door, name, given] = asked;
  try {
    postMessage({ id, answer: exported[door][name](...given) });
  } catch (error) {
    postMessage({ id, wrong: error.message || String(error) });
  }
});

begin().catch(error => postMessage({ failed: `${error}` }));
