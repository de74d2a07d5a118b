// Frames at the bench with everything moving: node bench/frames.mjs (after ./mordel help has built). Prints medians and
// 95th percentiles.
import { desk, openDemo, phone, signedIn } from '../tests/EndToEnd/browser.mjs';

const seconds = Number(process.argv[2] ?? 10);
const at = (sorted, part) => sorted[Math.min(sorted.length - 1, Math.floor(part * sorted.length))];
const demo = await openDemo();
try {
  for (const [size, options] of [
    ['desk 1280x800', desk],
    ['phone 390x844', phone],
  ]) {
    const page = await signedIn(demo, /Pia Lorne/, { ...options, reducedMotion: 'no-preference' });
    await page.goto(`${demo.url}/bench/free?procedure=rp-relief-first&kit=five-valve&supply=60&site=none`);
    await page.waitForFunction(() => document.getElementById('bench').dataset.ready === 'yes', null, {
      timeout: 60_000,
    });
    const measured = await page.evaluate(async seconds => {
      const { desk } = window.bench;
      // The main swings by 5 psi; both hoses and a cock run; two valves are turned at every frame.
      await desk.door.begin(
        JSON.stringify({
          format: 'mordel.scenario/1',
          assembly: { type: 'RP' },
          supply: { value: 60, unit: 'psi', swing: { value: 5, unit: 'psi' }, seconds: 4 },
          procedure: 'rp-relief-first',
          kit: 'five-valve',
        }),
      );
      desk.layout();
      desk.advance(0);
      for (const [hose, cock] of [
        ['high-hose', 'tc2'],
        ['low-hose', 'tc3'],
        ['bypass-hose', 'tc4'],
      ]) {
        desk.connect(hose, cock);
        desk.turn(cock, 1);
      }
      for (const valve of ['high-bleed', 'high-control', 'bypass-control']) desk.turn(valve, 1);
      const whole = [],
        work = [],
        held = [];
      let frame = 0,
        moved = 0,
        tick = 0;
      new PerformanceObserver(list => held.push(...list.getEntries().map(task => task.duration))).observe({
        entryTypes: ['longtask'],
      });
      await new Promise(done => {
        let last = 0,
          began = 0;
        const beat = now => {
          began ||= now;
          if (last && now - began > 1000) {
            whole.push(now - last);
            moved += Number(desk.tick > tick);
          }
          tick = desk.tick;
          last = now;
          frame++;
          const from = performance.now();
          desk.turn('so2', 0.5 + 0.5 * Math.sin(frame / 20));
          desk.turn('low-bleed', 0.5 + 0.4 * Math.cos(frame / 15));
          desk.lift(6 * Math.sin(frame / 30));
          work.push(performance.now() - from);
          if (now - began > 1000 * (seconds + 1)) done();
          else requestAnimationFrame(beat);
        };
        requestAnimationFrame(beat);
      });
      return {
        whole: whole.sort((a, b) => a - b),
        work: work.sort((a, b) => a - b),
        moved: moved / whole.length,
        held: Math.max(0, ...held),
      };
    }, seconds);
    const line = (name, all) => `${name}: median ${at(all, 0.5).toFixed(1)} ms, p95 ${at(all, 0.95).toFixed(1)} ms`;
    console.log(
      [
        `${size}, ${measured.whole.length} frames in ${seconds} s`,
        `${(1000 / at(measured.whole, 0.5)).toFixed(0)} a second`,
        line('between frames', measured.whole),
        line('the hands', measured.work),
        `the water moved in ${(100 * measured.moved).toFixed(0)} of 100`,
        `held at once for ${measured.held.toFixed(0)} ms at most`,
      ].join('; '),
    );
    await page.context().close();
  }
} finally {
  await demo.close();
}
