// Coming in with what a person has: a password, a passkey of the device, a link when both are lost.
import assert from 'node:assert/strict';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { accessible, chromiumBrowser, desk, freePort, mordel, phone, startServer } from './browser.mjs';

const phrase = 'Six lanterns 4 Kelp';
let data, server, browser, url;
before(async () => {
  data = mkdtempSync(join(tmpdir(), 'mordel-signin-'));
  const port = await freePort();
  server = await startServer({ data, port, demo: false });
  // A name, not a number: passkeys belong to one.
  url = `http://localhost:${port}`;
  browser = await chromiumBrowser();
});
after(async () => {
  await browser?.close();
  await server?.kill();
  rmSync(data, { recursive: true, force: true });
});

const open = async (path, options = desk) => {
  const page = await (await browser.newContext(options)).newPage();
  await page.goto(url + path);
  return page;
};

const signIn = async (page, password) => {
  await page.getByLabel('Name to sign in with').fill('hester');
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
};

test('the first owner comes in by the printed code, makes a passkey, and comes in with it alone', async () => {
  const page = await open('/sign-in');
  const [, code] = server.said().match(/the code is (\S+)/);
  await page.getByLabel('code', { exact: false }).first().fill(code);
  await page.getByLabel('Full name').fill('Hester Fenn');
  await page.getByLabel('Name to sign in with').fill('hester');
  await page.locator('[name=password]').fill(phrase);
  await page.getByRole('button', { name: 'Make the account' }).click();
  await page.waitForURL(`${url}/`);

  // A device with a lock of its own, as a browser's developer tools make one.
  const tools = await page.context().newCDPSession(page);
  await tools.send('WebAuthn.enable');
  const { authenticatorId } = await tools.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  });
  await page.goto(`${url}/account`);
  await accessible(page);
  await page.getByLabel('What it is on').fill('the desk');
  await page.getByRole('button', { name: 'Make a passkey' }).click();
  await page.getByText('the desk').waitFor();
  const { credentials } = await tools.send('WebAuthn.getCredentials', { authenticatorId });
  assert.equal(credentials.length, 1);

  await page
    .getByRole('button', { name: /Sign out/ })
    .first()
    .click();
  await page.waitForURL(/sign-in/);
  await page.getByRole('button', { name: 'Sign in with a passkey' }).click();
  await page.waitForURL(`${url}/`);
  await page.goto(`${url}/account`);
  assert.match(await page.locator('#open ~ table').innerText(), /by a passkey/);

  // Taken away, it opens nothing.
  await page.getByRole('button', { name: 'Take away the passkey the desk' }).click();
  await page.getByText('or with a passkey').waitFor({ state: 'detached' });
  await page
    .getByRole('button', { name: /Sign out/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Sign in with a passkey' }).click();
  await page.getByText('That passkey opens nothing here').waitFor();
});

test('who has lost the password comes in by a link of the command line, and every device is out', async () => {
  const there = await open('/sign-in', phone);
  await accessible(there);
  await signIn(there, phrase);
  await there.waitForURL(`${url}/`);
  const said = mordel(['let-in', 'hester', '--data', data]);
  assert.equal(said.status, 0, said.stderr);
  const link = said.stdout.match(/\/new-password\/\w+/)[0];
  const page = await open(link, phone);
  await accessible(page);
  await page.getByLabel('The new one').fill('Nine gulls 2 Barrow');
  await page.getByLabel('The same again').fill('Nine gulls 2 Barrow');
  await page.getByRole('button', { name: 'Set it' }).click();
  await page.waitForURL(/sign-in/);
  await signIn(page, 'Nine gulls 2 Barrow');
  await page.waitForURL(`${url}/`);
  await there.reload();
  assert.match(there.url(), /sign-in/);
  assert.equal(mordel(['let-in', 'nobody', '--data', data]).status, 2);
  await page.goto(url + link);
  await page.getByText('This link is used, or too old').waitFor();
});
