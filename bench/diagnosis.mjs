// How long a diagnosis takes in a browser whose processor is made four times slower, of every atlas: node
// bench/diagnosis.mjs (after ./mordel help has built). Evidence grows from nothing to five looks.
import { openDemo, signedIn } from '../tests/EndToEnd/browser.mjs';

const bodies = [
  ['rp-four-cock', { type: 'RP', body: 'four-cock' }],
  ['rp-three-tap', { type: 'RP', body: 'three-tap' }],
  ['dc', { type: 'DC' }],
  ['pvb', { type: 'PVB' }],
  ['svb', { type: 'SVB' }],
];
const demo = await openDemo();
try {
  const page = await signedIn(demo, /Ines Tarrow/);
  await page.goto(`${demo.url}/water`);
  const slow = await page.context().newCDPSession(page);
  await slow.send('Emulation.setCPUThrottlingRate', { rate: 4 });
  for (const [file, assembly] of bodies) {
    const figures = await page.evaluate(
      async ([name, of]) => {
        // In the page: a thread beside it would not be slowed.
        globalThis.weighs ??= await (async () => {
          const { dotnet } = await import('/core/dotnet.js');
          const { getAssemblyExports, getConfig } = await dotnet.create();
          return (await getAssemblyExports(getConfig().mainAssemblyName)).Mordel.Browser.DiagnosisExports;
        })();
        const { weighs } = globalThis;
        const open = async () => weighs.Open(new Uint8Array(await (await fetch(`/core/${name}.atlas`)).arrayBuffer()));
        await open();
        const from = performance.now();
        await open();
        const opened = performance.now() - from;
        const looks =
          of.type === 'DC'
            ? []
            : [
                { look: 'in-service', outlet: 'runs' },
                { look: 'so2-closed', outlet: 'still' },
                { look: 'so1-closed', outlet: 'stops' },
              ];
        const times = [];
        for (let round = 0; round < 15; round++) {
          const began = performance.now();
          const answer = weighs.Diagnose(
            JSON.stringify({
              format: 'mordel.evidence/1',
              assembly: of,
              looks: looks.slice(0, round % 4),
              opened: round > 9 ? [{ part: 'cv1', found: 'debris' }] : [],
            }),
          );
          times.push(performance.now() - began);
          if (!JSON.parse(answer).hypotheses) throw new Error(answer);
        }
        times.sort((a, b) => a - b);
        return { opened, median: times[7], most: times.at(-1) };
      },
      [file, assembly],
    );
    console.log(
      `${file}: opened in ${figures.opened.toFixed(0)} ms, a diagnosis ${figures.median.toFixed(0)} ms, ` +
        `${figures.most.toFixed(0)} ms at most (of the promised 300: ${(figures.median / 300).toFixed(2)})`,
    );
  }
} finally {
  await demo.close();
}
