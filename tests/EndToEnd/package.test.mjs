// What others run: packed, checked, unpacked on a machine without an SDK, installed, upgraded and removed as a Debian
// package. In the runs that may install something on the machine; elsewhere it is said that it was left out.
import assert from 'node:assert/strict';
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { after, before, test } from 'node:test';
import { validate } from 'dockerfile-utils';
import { freePort, thorough } from './browser.mjs';

const root = new URL('../../', import.meta.url).pathname;
const may = process.env.MORDEL_INSTALL === 'yes' || thorough;
const left = may ? false : 'packs and installs: MORDEL_INSTALL=yes ./mordel test, or ./mordel prove';
const asRoot = process.getuid() === 0 && existsSync('/usr/bin/dpkg');
const installed = existsSync('/usr/lib/mordel') || existsSync('/var/lib/mordel');
const leftDeb = left || (!asRoot && 'only root installs a package') || (installed && 'Mordel is installed here');
const version = readFileSync(`${root}Directory.Build.props`, 'utf8').match(/<Version>(.*)<\/Version>/)[1];

// No SDK and nothing of this shell: what a bare machine has.
const bare = { PATH: '/usr/sbin:/usr/bin:/sbin:/bin', HOME: '/nonexistent' };
const run = (command, args, options = {}) => {
  const done = spawnSync(command, args, { encoding: 'utf8', env: bare, ...options });
  return { ...done, said: `${done.stdout}${done.stderr}` };
};
const ok = (command, args, options) => {
  const done = run(command, args, options);
  assert.equal(done.status, 0, `${command} ${args.join(' ')}: ${done.said} ${done.error ?? ''}`);
  return done.said;
};
const pack = (into, as) =>
  spawnSync(`${root}mordel`, ['pack', into], { encoding: 'utf8', env: { ...process.env, MORDEL_VERSION: as } });

/** Starts it and waits until it is well. */
const started = async (command, args, port) => {
  const child = spawn(command, args, { env: bare, stdio: ['ignore', 'pipe', 'pipe'] });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', chunk => (said += chunk));
  const ended = new Promise(done => child.once('exit', done));
  for (let i = 0; ; i++) {
    const answer = await fetch(`http://127.0.0.1:${port}/health/ready`).catch(() => null);
    if (answer?.ok) break;
    assert.ok(i < 300 && child.exitCode === null, said);
    await new Promise(r => setTimeout(r, 100));
  }
  return {
    said: () => said,
    end: () => {
      child.kill('SIGTERM');
      return ended;
    },
  };
};

let into, folder;
before(() => {
  if (left) return;
  into = mkdtempSync(join(tmpdir(), 'mordel-pack-'));
  const packed = pack(into, version);
  assert.equal(packed.status, 0, packed.stdout + packed.stderr);
  folder = readdirSync(into)
    .find(f => f.endsWith('.tar.gz'))
    .replace('.tar.gz', '');
});
after(() => {
  if (into) rmSync(into, { recursive: true, force: true });
});

test('the container file and the unit are as their programs want them', () => {
  const faults = validate(readFileSync(`${root}packaging/Containerfile`, 'utf8'));
  assert.deepEqual(faults, []);
  assert.match(readFileSync(`${root}packaging/Containerfile`, 'utf8'), /^USER mordel$/m);
  assert.equal(run('sh', ['-n', `${root}packaging/mordel`]).status, 0);
  for (const script of ['postinst', 'prerm', 'postrm'])
    assert.equal(run('sh', ['-n', `${root}packaging/debian/${script}`]).status, 0, script);
});

test('the archive runs without an SDK, and all that is in it is listed with its licence', { skip: left }, async () => {
  ok('sha256sum', ['-c', 'SHA256SUMS'], { cwd: into });
  const place = mkdtempSync(join(tmpdir(), 'mordel-unpacked-'));
  try {
    ok('tar', ['-xzf', join(into, `${folder}.tar.gz`), '-C', place]);
    const mordel = join(place, folder, 'mordel');
    assert.equal(ok(mordel, ['--version']).trim(), version);
    const [port, data] = [await freePort(), join(place, 'data')];
    const server = await started(mordel, ['serve', '--port', String(port), '--data', data], port);
    assert.match(server.said(), /the code is [A-Z2-9]{5}-[A-Z2-9]{5}/);
    assert.match(await (await fetch(`http://127.0.0.1:${port}/first-account`)).text(), /no default password/);
    const backup = join(place, 'one.backup');
    ok(mordel, ['backup', backup, '--data', data]);
    assert.equal(await server.end(), 0);
    ok(mordel, ['restore', backup, '--data', join(place, 'elsewhere')]);
    ok(mordel, ['verify', '--data', join(place, 'elsewhere')]);
    const parts = JSON.parse(readFileSync(join(place, folder, 'sbom.cdx.json'), 'utf8'));
    assert.equal(parts.specVersion, '1.5');
    assert.equal(parts.metadata.component.version, version);
    const names = parts.components.map(c => c.name);
    for (const name of ['Microsoft.AspNetCore.App', 'SkiaSharp', 'bootstrap', 'Google.OrTools'])
      assert.ok(names.includes(name), name);
    // Nothing that ships may oblige others: no licence that is not known, none that asks for the sources.
    const said = parts.components.map(c => `${c.name}: ${JSON.stringify(c.licenses)}`);
    assert.deepEqual(
      said.filter(s => /not said|AGPL|"GPL|LGPL|SSPL/.test(s)),
      [],
    );
    // Each library that lies there belongs to a package of the list, or is ours.
    const app = join(place, folder, 'app');
    const listed = new Set();
    for (const deps of readdirSync(app).filter(f => f.endsWith('.deps.json')))
      for (const target of Object.values(JSON.parse(readFileSync(join(app, deps), 'utf8')).targets))
        for (const [key, { runtime = {} }] of Object.entries(target))
          if (names.includes(key.split('/')[0]))
            for (const file of Object.keys(runtime)) listed.add(file.split('/').at(-1));
    const unlisted = readdirSync(app).filter(f => f.endsWith('.dll') && !f.startsWith('Mordel.') && !listed.has(f));
    assert.deepEqual(unlisted, []);
  } finally {
    rmSync(place, { recursive: true, force: true });
  }
});

test(
  'the package is installed, started as its own user, upgraded with its records, and removed without them',
  {
    skip: leftDeb,
  },
  async () => {
    const newer = mkdtempSync(join(tmpdir(), 'mordel-newer-'));
    const deb = at =>
      join(
        at,
        readdirSync(at).find(f => f.endsWith('.deb')),
      );
    const port = await freePort();
    const service = () =>
      started(
        'runuser',
        [
          '-u',
          'mordel',
          '--',
          '/usr/lib/mordel/mordel',
          'serve',
          '--data',
          '/var/lib/mordel',
          '--urls',
          `http://127.0.0.1:${port}`,
        ],
        port,
      );
    try {
      ok('dpkg', ['-i', deb(into)]);
      assert.equal(ok('mordel', ['--version']).trim(), version);
      assert.equal(statSync('/var/lib/mordel').mode & 0o777, 0o700);
      const unit = readFileSync('/lib/systemd/system/mordel.service', 'utf8');
      assert.match(unit, /^ExecStart=\/usr\/lib\/mordel\/mordel serve --data \/var\/lib\/mordel /m);
      if (existsSync('/usr/bin/systemd-analyze')) {
        ok('systemd-analyze', ['verify', '/lib/systemd/system/mordel.service']);
        const exposure = run('systemd-analyze', [
          'security',
          '--offline=yes',
          '/lib/systemd/system/mordel.service',
        ]).said;
        assert.ok(Number(exposure.match(/exposure level.*?: ([\d.]+)/)[1]) < 2.5, exposure.slice(-200));
      }

      const first = await service();
      // Root asks as the service's own user: what it makes there the service can open.
      ok('mordel', ['backup', '/var/lib/mordel/by-root.backup']);
      assert.notEqual(statSync('/var/lib/mordel/by-root.backup').uid, 0);
      await first.end();
      const key = readFileSync('/var/lib/mordel/installation-key.pem', 'utf8');
      for (const file of readdirSync('/var/lib/mordel'))
        assert.equal(statSync(`/var/lib/mordel/${file}`).mode & 0o077, 0, file);

      const packed = pack(newer, `${version}.1`);
      assert.equal(packed.status, 0, packed.stderr);
      ok('dpkg', ['-i', deb(newer)]);
      assert.match(
        ok('dpkg-query', ['-W', '-f', '${Version} ${Status}', 'mordel']),
        new RegExp(`^${version}.1 install ok`),
      );
      const second = await service();
      assert.doesNotMatch(second.said(), /does not start/);
      await second.end();
      assert.equal(readFileSync('/var/lib/mordel/installation-key.pem', 'utf8'), key);

      ok('dpkg', ['-r', 'mordel']);
      assert.equal(existsSync('/usr/lib/mordel/app'), false);
      assert.match(ok('dpkg', ['-P', 'mordel']), /records stay/);
      assert.equal(readFileSync('/var/lib/mordel/installation-key.pem', 'utf8'), key);
    } finally {
      run('dpkg', ['-P', 'mordel']);
      rmSync('/var/lib/mordel', { recursive: true, force: true });
      rmSync(newer, { recursive: true, force: true });
    }
  },
);
