// A gauge that streams: captured by key and by tap, with its speed, through dropouts; and a bridge with a key.
import assert from 'node:assert/strict';
import { after, before, test } from 'node:test';
import { beginNext, beginOn, desk, goOn, openDemo, phone, signedIn } from './browser.mjs';

let demo;
before(async () => {
  demo = await openDemo();
});
after(async () => {
  await demo.close();
});

const use = (page, which) => page.locator('#gauge-source').selectOption(which);

test('a number is captured from a simulated gauge by key while the eyes are on the assembly, with its speed', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, desk);
  await beginNext(page);
  await page.getByRole('button', { name: /All as listed/ }).click();
  await goOn(page, 'Open TC3 slowly, read CV1');
  await use(page, 'steady');
  await page.getByText('Simulated gauge').waitFor();
  await page
    .locator('.stream-says')
    .getByText(/battery 9\d %/)
    .waitFor();
  await page.waitForFunction(
    () =>
      /^2\.\d\d$/.test(document.querySelector('.stream-value .num').textContent) &&
      /Still/.test(document.querySelector('.stream-says').textContent),
    null,
    { timeout: 90_000 },
  );
  await page.locator('#now-title').focus();
  await page.keyboard.press(' ');
  await page.waitForFunction(() => document.querySelector('#now-title').textContent === 'Close both cocks, open SO1');
  assert.match(await page.locator('.captured').textContent(), /Captured 2\.1 psid, still\./);
  const log = await page.evaluate(
    async () => await (await fetch(`/api/runs/${document.querySelector('.run[data-run]').dataset.run}/log`)).json(),
  );
  const taken = log.find(entry => entry.kind === 'reading');
  assert.equal(taken.reading.value, 2.1);
  assert.ok(taken.reading.speed >= 0 && taken.reading.speed < 0.05, JSON.stringify(taken));
  await page.context().close();
});

test('a gauge that drops out says so, captures nothing old, and is there again', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, phone);
  await beginNext(page);
  const together = page.getByRole('button', { name: /All as listed/ });
  if (await together.isVisible()) await together.tap();
  await goOn(page, 'Open TC4 slowly, read CV2', () => page.locator('.go .btn-go').tap(), {}).catch(() => {});
  await use(page, 'drops');
  await page.locator('.stream-value .num').filter({ hasText: /\d/ }).waitFor();
  await page.getByText('No line from the gauge. Type the number, or wait.').waitFor({ timeout: 15_000 });
  assert.equal(await page.locator('[data-capture]').isDisabled(), true);
  await page.locator('.stream-value .num').filter({ hasText: /\d/ }).waitFor({ timeout: 15_000 });
  assert.equal(await page.locator('[data-capture]').isDisabled(), false);
  const box = await page.locator('[data-capture]').boundingBox();
  assert.ok(box.height >= 56, `${box.height} px`);
  await page.context().close();
});

test('a bridge with a key sends a real gauge’s lines to the screen, and a tap captures them', async () => {
  const page = await signedIn(demo, /Odd Harrick/, phone);
  await page.goto(`${demo.url}/programs`);
  await page.evaluate(() => {
    for (const closed of document.querySelectorAll('details')) closed.open = true;
  });
  await page.getByLabel('What it is for').fill('bridge on the bench');
  await page.locator('select[name=scope]').selectOption('write');
  await page.getByRole('button', { name: 'Issue the key' }).tap();
  const key = await page.locator('[data-key]').textContent();
  await beginNext(page);
  await page.getByRole('button', { name: /All as listed/ }).tap();
  await page.locator('#gauge-source').waitFor();
  const run = page.url().split('/').at(-1);
  await use(page, 'bridge');
  await page.getByText('No line from the gauge').waitFor();
  const {
    default: { request },
  } = await import('node:http');
  const { createHash, randomBytes } = await import('node:crypto');
  // A bridge's side of the WebSocket by hand: a handshake with the key, then masked text frames.
  const nonce = randomBytes(16).toString('base64');
  const socket = await new Promise((opened, failed) =>
    request(`${demo.url}/api/runs/${run}/gauge/bridge`, {
      headers: {
        connection: 'Upgrade',
        upgrade: 'websocket',
        'sec-websocket-version': '13',
        'sec-websocket-key': nonce,
        authorization: `Bearer ${key}`,
      },
    })
      .on('upgrade', (answer, stream) => {
        assert.equal(
          answer.headers['sec-websocket-accept'],
          createHash('sha1').update(`${nonce}258EAFA5-E914-47DA-95CA-C5AB0DC85B11`).digest('base64'),
        );
        opened(stream);
      })
      .on('response', answer => failed(new Error(`refused: ${answer.statusCode}`)))
      .on('error', failed)
      .end(),
  );
  const say = text => {
    const body = Buffer.from(text),
      mask = randomBytes(4);
    socket.write(
      Buffer.concat([Buffer.from([0x81, 0x80 | body.length]), mask, body.map((byte, i) => byte ^ mask[i % 4])]),
    );
  };
  const stream = setInterval(() => say('{"value":13.2,"unit":"kPa","rate":0}'), 150);
  try {
    await page.locator('.stream-value .num').filter({ hasText: '13.2' }).waitFor();
    assert.equal(await page.getByText('Simulated gauge').isVisible(), false);
    await page.locator('[data-capture]').tap();
    await page
      .locator('.captured')
      .getByText(/Captured 13 kPa, still/)
      .waitFor();
    await page.locator('.taken').getByText('13 kPa').waitFor({ state: 'attached' });
  } finally {
    clearInterval(stream);
    socket.destroy();
  }
  await page.context().close();
});

test('the needle is spoken and heard, and a press anywhere or a pedal captures it', async () => {
  const page = await signedIn(demo, /Ines Tarrow/, phone);
  await page.addInitScript(() => {
    globalThis.said = [];
    globalThis.SpeechSynthesisUtterance = class {
      constructor(words) {
        this.words = words;
      }
    };
    Object.defineProperty(globalThis, 'speechSynthesis', {
      value: { speak: one => globalThis.said.push(one.words), cancel() {} },
    });
    const Tone = globalThis.OscillatorNode;
    globalThis.tones = 0;
    const start = Tone.prototype.start;
    Tone.prototype.start = function (...given) {
      globalThis.tones++;
      return start.apply(this, given);
    };
  });
  await beginOn(page, 'PVB');
  const reading = page.locator('.run.is-reading');
  for (let i = 0; i < 30 && !(await reading.isVisible()); i++) {
    const was = await page.locator('#now-title').textContent();
    await page.locator('.go .btn-go').tap();
    await page.waitForFunction(old => document.querySelector('#now-title').textContent !== old, was);
  }
  const title = await page.locator('#now-title').textContent();
  await use(page, 'steady');
  assert.equal(await page.evaluate(() => globalThis.said.length), 0, 'nothing is said unasked');
  await page.getByRole('button', { name: 'Speak the needle: off' }).tap();
  await page.getByRole('button', { name: 'Its tone: off' }).tap();
  await page.waitForFunction(() => globalThis.said.filter(words => /^\d+\.\d$/.test(words)).length > 2);
  assert.ok((await page.evaluate(() => globalThis.tones)) >= 2);
  await page.getByRole('button', { name: 'Press anywhere to capture: off' }).tap();
  await page.getByText('Press anywhere on the screen').waitFor();
  // A press on a button is a press on that button.
  await page.getByRole('button', { name: 'Its tone: on' }).tap();
  assert.equal(await page.locator('.captured').isVisible(), false);
  await page.locator('#now-title').tap();
  await page
    .locator('.captured')
    .getByText(/Captured/)
    .waitFor();
  // Taken back and caught once more, by a pedal.
  await page.waitForFunction(was => document.querySelector('#now-title').textContent !== was, title);
  await page.keyboard.press('u');
  await page.waitForFunction(was => document.querySelector('#now-title').textContent === was, title);
  await page.locator('.stream-value .num').filter({ hasText: /\d/ }).waitFor();
  await page.keyboard.press('PageDown');
  await page.waitForFunction(was => document.querySelector('#now-title').textContent !== was, title);
  await page.context().close();
});
