// How many times faster than real time the water runs in headless Chromium: node bench/browser.mjs (after ./mordel help
// has built).
import { openDemo, signedIn } from '../tests/EndToEnd/browser.mjs';

const demo = await openDemo();
try {
  const page = await signedIn(demo, /Ines Tarrow/);
  await page.goto(`${demo.url}/water`);
  const figures = await page.evaluate(async () => {
    const from = performance.now();
    // In the page: the water is timed, and not the way to a thread.
    const { dotnet } = await import('/core/dotnet.js');
    const { getAssemblyExports, getConfig } = await dotnet.create();
    const rig = (await getAssemblyExports(getConfig().mainAssemblyName)).Mordel.Browser.PageExports;
    const start = performance.now() - from;
    rig.Begin(
      JSON.stringify({
        format: 'mordel.scenario/1',
        assembly: { type: 'RP' },
        procedure: 'rp-relief-first',
        kit: 'five-valve',
        supply: { value: 60, unit: 'psi', swing: { value: 5, unit: 'psi' } },
        faults: [{ part: 'cv2', fault: 'leaks', size: 'weep' }],
      }),
    );
    for (const [hose, cock] of [
      ['high-hose', 'tc2'],
      ['low-hose', 'tc3'],
      ['bypass-hose', 'tc4'],
    ])
      rig.Connect(hose, cock);
    for (const part of ['tc2', 'tc3', 'tc4', 'high-bleed', 'low-bleed']) rig.Turn(part, 1);
    rig.Run(5);
    for (const [part, to] of [
      ['high-bleed', 0],
      ['low-bleed', 0],
      ['so2', 0],
      ['high-control', 1],
      ['bypass-control', 1],
    ])
      rig.Turn(part, to);
    rig.Run(20);
    const times = [];
    for (let round = 0; round < 7; round++) {
      const began = performance.now();
      for (let frame = 0; frame < 60 * 20; frame++) rig.Run(1 / 60);
      times.push(20_000 / (performance.now() - began));
    }
    const turning = performance.now();
    for (let frame = 0; frame < 60 * 10; frame++) {
      rig.Turn('low-control', (frame % 60) / 300);
      rig.Run(1 / 60);
    }
    return { start, times: times.sort((a, b) => a - b), turning: 10_000 / (performance.now() - turning) };
  });
  console.log(`the core starts in ${figures.start.toFixed(0)} ms`);
  console.log(`60 looks a second, main swinging: ${figures.times[3].toFixed(0)} times real time (median of 7)`);
  console.log(`of the promised 20 times: ${(figures.times[3] / 20).toFixed(1)}`);
  console.log(`60 looks a second, a valve turned at every one: ${figures.turning.toFixed(0)} times real time`);
} finally {
  await demo.close();
}
