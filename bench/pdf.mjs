// A report's PDF by the application beside the same page printed by headless Chromium: node bench/pdf.mjs (after
// ./mordel help has built). Both by the wall, one after the other in turn; the page is open and its fonts are there, so
// that Chromium only prints. What the application takes includes the request, the check of the seal and the photos.
import { openDemo, signedIn } from '../tests/EndToEnd/browser.mjs';
import { at } from './server.mjs';

const warm = 5,
  times = 30;
const demo = await openDemo();
try {
  const page = await signedIn(demo, /Wilma Quent/);
  const [{ id }] = await page.evaluate(async () => (await fetch('/api/runs?limit=1')).json());
  await page.goto(`${demo.url}/reports/${id}`);
  const cookie = (await page.context().cookies()).map(c => `${c.name}=${c.value}`).join('; ');
  const set = async () => {
    const answer = await fetch(`${demo.url}/reports/${id}/pdf`, { headers: { cookie } });
    const bytes = new Uint8Array(await answer.arrayBuffer());
    if (!answer.ok || bytes[0] !== 0x25) throw new Error(`no PDF: ${answer.status}`);
    return bytes.length;
  };
  const print = async () => (await page.pdf({ format: 'A4', printBackground: true })).length;
  const took = { ours: [], printed: [] };
  const size = {};
  for (let i = 0; i < warm + times; i++)
    for (const [who, make] of [
      ['ours', set],
      ['printed', print],
    ]) {
      const from = performance.now();
      size[who] = await make();
      if (i >= warm) took[who].push(performance.now() - from);
    }
  const [ours, printed] = [at(took.ours, 0.5), at(took.printed, 0.5)];
  console.log(`set here: median ${ours.toFixed(1)} ms, ${(size.ours / 1000).toFixed(0)} KB, sealed`);
  console.log(`printed by Chromium: median ${printed.toFixed(1)} ms, ${(size.printed / 1000).toFixed(0)} KB`);
  console.log(`${(printed / ours).toFixed(1)} times`);
} finally {
  await demo.close();
}
