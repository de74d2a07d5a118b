// From what is due to the tester's day: rounds are looked for, changed by dragging and by the keys, mended, accepted.
import assert from 'node:assert/strict';
import { test } from 'node:test';
import { desk as atDesk, openDemo, signedIn, violations } from './browser.mjs';

test('what is marked in Due becomes rounds; a stop is dragged, moved by the keys, mended around, and is the tester’s day', async () => {
  const demo = await openDemo();
  try {
    const desk = await signedIn(demo, /Wilma Quent/, atDesk);
    await desk.goto(`${demo.url}/due?show=overdue`);
    const boxes = desk.locator('input[name="ids"]');
    for (let i = 0; i < 14; i++) await boxes.nth(i).check();
    await desk.getByRole('button', { name: 'Plan rounds for them' }).click();
    await desk.getByText('14 marked in Due').waitFor();
    assert.deepEqual(await violations(desk), []);
    await desk.getByRole('button', { name: 'Look for rounds' }).click();
    await desk.locator('.lanes').waitFor({ timeout: 60_000 });
    assert.deepEqual(await violations(desk), []);

    // Dragged to another hour in its own lane: it begins there, is settled, and the rest gives way.
    const row = desk.locator('.lane-row:has(.stop)').first();
    const tester = await row.getAttribute('data-tester');
    const stop = row.locator('.stop').first();
    const id = await stop.getAttribute('data-stop');
    const from = await stop.boundingBox();
    const lane = await row.locator('.lane').boundingBox();
    await desk.mouse.move(from.x + 4, from.y + from.height / 2);
    await desk.mouse.down();
    await desk.mouse.move(lane.x + lane.width * 0.5, from.y + 6, { steps: 6 });
    await desk.mouse.up();
    const settled = desk.locator(`.stop.settled[data-stop="${id}"]`);
    await settled.waitFor();
    const begin = async () => Number(await settled.getAttribute('data-begin'));
    const dropped = await begin();
    assert.ok(dropped > 600 && dropped < 780, `${dropped}`);

    // The keys alone: a quarter of an hour later, and back.
    await settled.focus();
    await desk.keyboard.press('ArrowRight');
    await desk.waitForFunction(
      ([s, b]) => Number(document.querySelector(`.stop[data-stop="${s}"]`)?.dataset.begin) >= b + 15,
      [id, dropped],
    );
    assert.equal(await desk.evaluate(() => document.activeElement.dataset.stop), id);
    await desk.keyboard.press('s');
    await desk.locator(`.stop:not(.settled)[data-stop="${id}"]`).waitFor();
    await desk.keyboard.press('s');
    await settled.waitFor();
    const held = await begin();

    await desk.getByRole('button', { name: 'Look for the rest anew' }).click();
    await desk.locator('.lanes').waitFor({ timeout: 60_000 });
    assert.equal(await begin(), held);
    assert.equal(await desk.locator('.breaches').count(), 0);
    const stops = await desk.locator(`.lane-row[data-tester="${tester}"] .stop`).count();
    await desk.getByRole('button', { name: 'Accept these rounds' }).click();
    await desk.getByText('Accepted by Wilma Quent').waitFor();
    assert.ok(stops > 1);

    // What stands in the tester's day is what was accepted, with its hour.
    await desk.goto(`${demo.url}/rounds`);
    assert.ok((await desk.locator('table.register').textContent()).includes(`${stops}`));
    await desk.goto(`${demo.url}/register/${id}`);
    assert.ok((await desk.locator('main').textContent()).length > 0);
  } finally {
    await demo.close();
  }
});
