// Journeys through the real application in a real browser.
import assert from 'node:assert/strict';
import { after, before, describe, test } from 'node:test';
import { answerAll, beginNext, beginOn, desk, goOn, openDemo, phone, signedIn } from './browser.mjs';

let demo;
before(async () => {
  demo = await openDemo();
});
after(async () => {
  await demo.close();
});

const heading = page => page.locator('#now-title');
const at = (page, title) =>
  page.waitForFunction(wanted => document.querySelector('#now-title')?.textContent === wanted, title);

async function drawSignature(page) {
  await page.locator('canvas').scrollIntoViewIfNeeded();
  const box = await page.locator('canvas').boundingBox();
  await page.mouse.move(box.x + 30, box.y + 60);
  await page.mouse.down();
  for (let i = 0; i < 12; i++) await page.mouse.move(box.x + 30 + i * 12, box.y + 60 + 20 * Math.sin(i));
  await page.mouse.up();
}

// No hand is as fast as this browser: the page asks how that came about.
const pace = 'A program typed this, faster than water.';
const explainPace = page => page.locator('#pace').fill(pace);

describe('a tester who knows the sequence', () => {
  test('completes a healthy double check in at most 12 taps plus digits and the signature', async () => {
    const page = await signedIn(demo, /Ines Tarrow/, phone);
    let taps = 0;
    const tap = async locator => {
      taps++;
      await locator.tap();
    };
    await tap(page.locator('a[data-go]'));
    await tap(page.getByRole('button', { name: 'Begin the test' }));
    await page.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
    await answerAll(page, tap);
    await tap(page.getByRole('button', { name: /All as listed/ }));
    await at(page, 'Flush all four cocks');
    for (const [value, next] of [
      ['2.1', 'Close both cocks, open SO1'],
      ['1.7', 'Close both cocks, open SO1'],
    ]) {
      for (const digit of value) await page.locator('.keypad').getByText(digit, { exact: true }).tap();
      await page.getByText(/Passes \+/).waitFor();
      await tap(page.getByRole('button', { name: 'Record' }));
      await page.locator('.taken').getByText(`${value} psid`).waitFor();
      await at(page, next);
      if (value === '2.1') assert.match(await page.locator('.slate h3').textContent(), /CV2/);
    }
    await tap(page.getByRole('button', { name: 'Done' }));
    await at(page, 'Close up');
    await answerAll(page, tap);
    await tap(page.getByRole('button', { name: /All as listed/ }));
    await page.waitForURL(/verdict/);
    assert.equal((await page.locator('h1.verdict').textContent()).trim(), 'Pass');
    assert.equal(await page.locator('.missing select, #permission, #restoring').count(), 0);
    await explainPace(page);
    await drawSignature(page);
    await tap(page.getByRole('button', { name: 'Sign and seal' }));
    await page.waitForURL(/reports/);
    assert.match(await page.locator('.seal').textContent(), /Seal number \d+ holds/);
    const report = await page.locator('.report').textContent();
    assert.match(report, new RegExp(pace));
    assert.doesNotMatch(report, /not entered/);
    assert.ok(taps <= 12, `${taps} taps`);
    console.log(`# ${taps} taps from opening the stop to the signed report`);
    await page.context().close();
  });
});

describe('with the keyboard alone', () => {
  test('SO1 leaks: note, tee, drip, a correction, sign by typed name', async () => {
    const page = await signedIn(demo, /Ines Tarrow/);
    const press = key => page.keyboard.press(key);
    await page.goto(demo.url);
    await press('Enter');
    await page.waitForURL(/stops/);
    await press('Enter');
    await page.waitForURL(/runs/);
    await page.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
    await press('Enter');
    await at(page, 'Flush all four cocks');
    await goOn(page, 'Open TC3 slowly, read CV1');
    await press('a');
    await at(page, 'Note what the needle shows now');
    await page.keyboard.type('1.9');
    await press('Enter');
    await at(page, 'Open the bleed-off slowly');
    await press('a');
    await at(page, 'Bleed until the tube only drips, then read');
    await page.keyboard.type('4.1');
    await press('Enter');
    await at(page, 'Close the bleed-off');
    await page.getByRole('button', { name: 'Correct CV1 differential' }).focus();
    await press('Enter');
    await page.locator('#ask-value').fill('1.4');
    await page.getByRole('button', { name: 'Typed wrongly' }).focus();
    await press('Enter');
    await page.getByRole('button', { name: 'Save' }).focus();
    await press('Enter');
    await page.getByText(/first 4.1 psid: Typed wrongly/).waitFor();
    await page.evaluate(() => document.activeElement.blur());
    await press('u');
    await at(page, 'Bleed until the tube only drips, then read');
    await page.keyboard.type('1.4');
    await press('Enter');
    await at(page, 'Close the bleed-off');
    await page.keyboard.type('1.6');
    await press('Enter');
    await page.locator('.taken').getByText('1.6 psid').waitFor();
    await at(page, 'Close both cocks, open SO1');
    await press('Enter');
    await at(page, 'Close up');
    await press('Enter');
    await page.waitForURL(/verdict/);
    assert.equal(await page.locator('#remarks').inputValue(), 'SO1 leaks; compensated at the bleed-off.');
    await page.locator('#pace').focus();
    await page.keyboard.type(pace);
    await page.getByLabel(/my typed name is my signature/).focus();
    await press('Space');
    await page.getByRole('button', { name: 'Sign and seal' }).focus();
    await press('Enter');
    await page.waitForURL(/reports/);
    const report = await page.locator('.report').textContent();
    assert.match(report, /1\.9 psid noted before the bleed was opened/);
    assert.match(report, /not entered/);
    assert.match(report, /leaks/);
    await page.context().close();
  });

  test('? lists the keys', async () => {
    const page = await signedIn(demo, /Ines Tarrow/);
    await page.keyboard.press('?');
    await page.getByRole('dialog', { name: 'Keys' }).waitFor();
    assert.match(await page.locator('#keys').textContent(), /This list/);
    await page.keyboard.press('Escape');
    await page.keyboard.press('g');
    await page.keyboard.press('r');
    await page.waitForURL(/register/);
    await page.keyboard.press('/');
    await page.keyboard.type('kiosk');
    await page.getByText('Ferry steps').first().waitFor();
    await page.context().close();
  });
});

describe('when things go away', () => {
  test('an entry made while the server is dead is kept on the device and sent when it is back', async () => {
    const page = await signedIn(demo, /Ines Tarrow/);
    await beginNext(page);
    await page.getByRole('button', { name: /All as listed/ }).click();
    await at(page, 'Flush all four cocks');
    await demo.kill();
    await page.getByRole('button', { name: 'Done' }).click();
    await page.getByText(/kept on this device and not sent yet/).waitFor();
    assert.equal(await heading(page).textContent(), 'Flush all four cocks');
    await demo.start();
    await page.waitForFunction(() => document.querySelector('#now-title').textContent !== 'Flush all four cocks');
    await page.getByText(/kept on this device/).waitFor({ state: 'hidden' });
    const log = await (await page.request.get(`${demo.url}/api/runs/${page.url().split('/').pop()}/log`)).json();
    assert.equal(log.filter(e => e.step === 'ready.flush').length, 1);
    await page.context().close();
  });

  test('two tabs and a closed browser come back to the same place with nothing lost and nothing twice', async () => {
    const page = await signedIn(demo, /Ines Tarrow/);
    await beginNext(page);
    await goOn(page, 'Close the kit');
    const before = await heading(page).textContent();
    const other = await page.context().newPage();
    await other.goto(page.url());
    await other.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
    assert.equal(await heading(other).textContent(), before);
    // Both press while they show the same step; a tab that has heard of the other's already shows the next one, and is
    // left alone.
    const press = tab =>
      tab.evaluate(title => {
        if (document.querySelector('#now-title').textContent === title) document.querySelector('.go .btn-go').click();
      }, before);
    await Promise.all([press(page), press(other)]);
    await at(page, 'Tube on TC3, tee and high hose on TC2');
    await at(other, 'Tube on TC3, tee and high hose on TC2');
    const url = page.url();
    await page.context().close();
    const again = await signedIn(demo, /Ines Tarrow/, phone);
    await again.goto(url);
    await at(again, 'Tube on TC3, tee and high hose on TC2');
    await again.context().close();
  });
});

describe('touching the drawing', () => {
  test('says something about that part; a test that cannot be made ends as not testable', async () => {
    const page = await signedIn(demo, /Ines Tarrow/, desk);
    await beginNext(page);
    await page.locator('.rig [data-part="so1"]').click();
    await page.getByRole('button', { name: 'Will not close' }).click();
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByText('SO1: Will not close').waitFor();
    await page.getByRole('button', { name: 'Line pressure' }).click();
    await page.getByLabel('Pressure, psi').fill('62');
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByRole('button', { name: 'Line pressure 62 psi' }).waitFor();
    await page.getByRole('button', { name: 'Cannot be tested' }).click();
    await page.getByRole('button', { name: 'SO1 does not shut off' }).click();
    await page.getByRole('button', { name: 'End the test' }).click();
    await at(page, 'Close up');
    await page.getByRole('button', { name: /to the verdict/ }).click();
    await page.waitForURL(/verdict/);
    assert.equal((await page.locator('h1.verdict').textContent()).trim(), 'Not testable');
    await page.context().close();
  });
});

describe('every type on the same day', () => {
  test('an RP by numbers only on a phone: relief, CV2 held, CV1, SO2 leaking as a remark, both modes on one log', async () => {
    const page = await signedIn(demo, /Ines Tarrow/, phone);
    // The browser itself has nothing against what the run's scripts do.
    const client = await page.context().newCDPSession(page),
      issues = [];
    await client.send('Audits.enable');
    client.on('Audits.issueAdded', ({ issue }) => issues.push(JSON.stringify(issue)));
    await beginOn(page, 'RP');
    await page.locator('.run:not(.first) svg.rig').waitFor({ state: 'attached' });
    // The lines of the sheet are made when somebody looks at them.
    const lines = page.locator('.run:not(.first) .sheet details li');
    assert.equal(await lines.count(), 0);
    await page.locator('.run:not(.first) .sheet summary').tap();
    await lines.nth(20).waitFor();
    assert.equal(await page.locator('.run:not(.first) .sheet .is-now').count(), 1);
    await page.getByRole('button', { name: /All as listed/ }).tap();
    await page.getByRole('button', { name: 'Numbers only' }).tap();
    const now = page.locator('.row-now');
    for (const [title, value] of [
      ['Apparent reading', '7.6'],
      ['Relief opening point', '2.3'],
    ]) {
      await now.getByText(title, { exact: true }).waitFor();
      await now.locator('input').fill(value);
      await now.getByRole('button', { name: 'Record' }).tap();
    }
    await now.getByText('CV2 against back pressure', { exact: true }).waitFor();
    await page.getByRole('button', { name: 'Step by step' }).tap();
    await goOn(page, 'Open TC4, bypass control fully open', () => page.locator('.go .btn-go').tap());
    await page.getByRole('button', { name: 'After the first drop the needle holds' }).tap();
    await at(page, 'Restore the zone once more, read CV1');
    await page.getByRole('button', { name: 'Numbers only' }).tap();
    await now.locator('input').fill('7.4');
    await now.getByRole('button', { name: 'Record' }).tap();
    await now.getByText('SO2', { exact: true }).waitFor();
    await now.getByText('Something else seen').tap();
    await now.getByRole('button', { name: /The needle falls, through zero/ }).tap();
    await page.getByRole('button', { name: /to the verdict/ }).tap();
    await page.waitForURL(/verdict/);
    assert.equal((await page.locator('h1.verdict').textContent()).trim(), 'Pass');
    assert.equal(await page.locator('#remarks').inputValue(), 'SO2 leaks with the flow.');
    assert.deepEqual(
      issues.filter(issue => issue.includes('Deprecation')),
      [],
    );
    await page.context().close();
  });

  test('a vacuum breaker that hangs fails, is cleaned, begins again and passes; both sets are on the report', async () => {
    const page = await signedIn(demo, /Ines Tarrow/, desk);
    await beginOn(page, 'PVB');
    await goOn(page, 'Feel that the inlet is fully open', undefined, { 'read at the pop': '1.6' });
    await page.getByRole('button', { name: /It hangs, or opens only partly/ }).click();
    await at(page, 'Close TC2 and the kit');
    await page.getByRole('button', { name: 'Something was repaired' }).click();
    await page.getByRole('button', { name: 'Air inlet cleaned' }).click();
    await page.getByRole('button', { name: 'Begin again' }).click();
    await at(page, 'Set the rig back for the repeat');
    await goOn(page, 'Close up', undefined, { 'read at the pop': '1.7', 'read the check': '1.5' });
    await page.getByRole('button', { name: /to the verdict/ }).click();
    await page.waitForURL(/verdict/);
    assert.equal((await page.locator('h1.verdict').textContent()).trim(), 'Pass');
    await explainPace(page);
    await page.getByLabel(/my typed name is my signature/).check();
    await page.getByRole('button', { name: 'Sign and seal' }).click();
    await page.waitForURL(/reports/);
    const report = await page.locator('.report').textContent();
    assert.match(report, /Before the repair, fail: .*Air inlet fully open no/);
    assert.match(report, /Air inlet cleaned/);
    await page.context().close();
  });

  test('a test broken off for today waits and is taken up again', async () => {
    const page = await signedIn(demo, /Ines Tarrow/, phone);
    await beginOn(page, 'SVB');
    const before = await page.locator('#now-title').textContent();
    await page.getByRole('button', { name: /All as listed/ }).tap();
    await page.waitForFunction(was => document.querySelector('#now-title').textContent !== was, before);
    await page.getByRole('button', { name: 'Stop for today' }).tap();
    await page.getByRole('button', { name: 'Window is over' }).tap();
    await page.getByRole('dialog').getByRole('button', { name: 'Stop for today' }).tap();
    await at(page, 'Close up');
    await page.getByRole('button', { name: /All as listed/ }).tap();
    await page
      .getByText(/Broken off for today: Window is over/)
      .first()
      .waitFor();
    await page.getByRole('button', { name: 'Take the test up again' }).tap();
    await at(page, 'Before the test');
    await page.context().close();
  });
});
