// The command line's output against the published schemas.
import Ajv from 'ajv/dist/2020.js';
import assert from 'node:assert/strict';
import { createHash, verify } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test } from 'node:test';
import { fileURLToPath } from 'node:url';
import { mordel, openDemo, signedIn } from './browser.mjs';

const root = fileURLToPath(new URL('../../', import.meta.url));
const ajv = new Ajv({ strict: true, strictRequired: false, validateFormats: false, allowUnionTypes: true });
const schema = (name, version = 1) =>
  ajv.getSchema(`mordel.${name}/${version}`) ??
  ajv.compile(JSON.parse(readFileSync(`${root}docs/formats/${name}.schema.json`)));
const record = {
  format: 'mordel.test-record/1',
  assembly: { type: 'DC' },
  procedure: 'dc-sight-tube',
  profile: 'psid-standard',
  kit: { kind: 'five-valve', accuracy: { value: 0.2, unit: 'psid' } },
  results: { 'check-1': { value: 1.1, unit: 'psid' }, 'check-2': { value: 0.9, unit: 'psid' }, 'shutoff-2': 'leaks' },
};

test('a verdict is as its schema says, and so is the record it came from', () => {
  const [reads, judges] = [schema('test-record'), schema('verdict')];
  assert.ok(reads(record), ajv.errorsText(reads.errors));
  const done = mordel(['evaluate', '-'], JSON.stringify(record));
  assert.equal(done.status, 0, done.stderr);
  const verdict = JSON.parse(done.stdout);
  assert.ok(judges(verdict), ajv.errorsText(judges.errors));
  assert.equal(verdict.overall, 'fail');
  assert.deepEqual(
    verdict.warnings.map(w => [w.code, w.item]),
    [
      ['within-accuracy', 'check-1'],
      ['within-accuracy', 'check-2'],
    ],
  );
});

test('what the schema refuses the command refuses too, with 2 and a place', () => {
  const reads = schema('test-record');
  for (const [spoil, place] of [
    [
      r => {
        r.results['check-1'].unit = 'bar';
      },
      'results.check-1.unit',
    ],
    [
      r => {
        delete r.profile;
      },
      'profile',
    ],
    [
      r => {
        r.results['check-7'] = 1;
      },
      'results.check-7',
    ],
    [
      r => {
        r.assembly.type = 'ZZ';
      },
      'assembly.type',
    ],
  ]) {
    const bad = structuredClone(record);
    spoil(bad);
    assert.equal(reads(bad), false);
    const done = mordel(['evaluate', '-'], JSON.stringify(bad));
    assert.equal(done.status, 2);
    assert.equal(done.stdout, '');
    assert.ok(done.stderr.startsWith(place), done.stderr);
  }
});

test('the sheets of all eight schools are programs as the schema says, and an RP refuses a two-valve kit kindly', () => {
  const valid = schema('procedure');
  const schools = {
    'rp-relief-first': 'psid-strict',
    'rp-check-first': '',
    'rp-isolation-first': '',
    'dc-sight-tube': 'kpa-isolation-first',
    'dc-draw-down': '',
    'pvb-inlet-first': '',
    'svb-check-first': '',
    'svb-static-first': '',
  };
  for (const [school, profile] of Object.entries(schools))
    for (const kit of ['five-valve', 'three-valve']) {
      const done = mordel(['procedure', school, '--kit', kit, '--json', ...(profile ? ['--profile', profile] : [])]);
      assert.equal(done.status, 0, done.stderr);
      const program = JSON.parse(done.stdout);
      assert.ok(valid(program), ajv.errorsText(valid.errors));
      assert.deepEqual([program.procedure, program.kit], [school, kit]);
    }
  const refused = mordel(['procedure', 'rp-relief-first', '--kit', 'two-valve']);
  assert.equal(refused.status, 2);
  assert.match(refused.stderr, /bypass hose/);
});

test('a scenario and its outcome are as their schemas say', () => {
  const [reads, valid] = [schema('scenario'), schema('outcome')];
  const scenario = {
    format: 'mordel.scenario/1',
    assembly: { type: 'RP', springs: { cv1: 7.4, rv: 2.4 } },
    supply: { value: 55, unit: 'psi' },
    site: { demand: 'open', outlet: { value: -2, unit: 'ft' } },
    faults: [
      { part: 'cv2', fault: 'leaks', size: 'weep' },
      { part: 'kit', fault: 'gauge-height', inches: -3 },
    ],
    procedure: 'rp-check-first',
    kit: 'three-valve',
    profile: 'psid-check-first',
    seed: 3,
  };
  assert.ok(reads(scenario), ajv.errorsText(reads.errors));
  const done = mordel(['simulate', '-'], JSON.stringify(scenario));
  assert.equal(done.status, 0, done.stderr);
  const outcome = JSON.parse(done.stdout);
  assert.ok(valid(outcome), ajv.errorsText(valid.errors));
  assert.deepEqual(outcome.findings, ['cv2-leaks']);
  assert.equal(outcome.results['check-1'].value, 7.4);
});

test('evidence and its diagnosis are as their schemas say, and evidence that was not seen here is weighed', () => {
  const [reads, says] = [schema('evidence'), schema('diagnosis')];
  const evidence = {
    format: 'mordel.evidence/1',
    assembly: { type: 'RP', body: 'four-cock', springs: { cv1: 7.4 } },
    procedure: 'rp-relief-first',
    kit: 'five-valve',
    profile: 'psid-standard',
    looks: [
      { look: 'in-service', outlet: 'runs' },
      { look: 'so2-closed', outlet: 'still' },
      { look: 'tc4-opened', outlet: 'stops' },
    ],
    sights: [{ step: 'hook.so2', sight: 'relief-runs' }],
    results: { 'relief-opening': { value: 2.6, unit: 'psid' } },
    opened: [{ part: 'cv1', found: 'debris' }],
  };
  assert.ok(reads(evidence), ajv.errorsText(reads.errors));
  const done = mordel(['diagnose', '-'], JSON.stringify(evidence));
  assert.equal(done.status, 0, done.stderr);
  const diagnosis = JSON.parse(done.stdout);
  assert.ok(says(diagnosis), ajv.errorsText(says.errors));
  assert.deepEqual(diagnosis.hypotheses[0].faults, [{ part: 'cv1', fault: 'leaks' }]);
  const sum = diagnosis.hypotheses.reduce((all, h) => all + Math.round(h.weight * 10_000), 0);
  assert.equal(sum, 10_000);
  assert.deepEqual(diagnosis.hypotheses.at(-1).faults, []);
  const wrong = mordel(
    ['diagnose', '-'],
    JSON.stringify({ ...evidence, looks: [{ look: 'in-service', outlet: 'less' }] }),
  );
  assert.equal(wrong.status, 2);
  assert.match(wrong.stderr, /^looks\[0\]\.outlet: "less" is not what the relief port does at in-service/);
});

test('rounds to be planned and the plan are as their schemas say, and what is left out says why', () => {
  const says = schema('planned');
  const reads = schema('plan');
  const stop = (id, place, more = {}) => ({
    id,
    name: `RP ${id}`,
    place,
    minutes: 25,
    authority: 'Ravelsund Water Board',
    type: 'RP',
    windows: [{ from: '08:00', until: '16:00' }],
    ...more,
  });
  const problem = {
    format: 'mordel.plan/1',
    places: [0, 1, 2].map(n => ({ id: `p${n}`, name: `Place ${n}`, east: n * 800, north: 0 })),
    stops: [
      stop('one', 'p1'),
      stop('two', 'p2'),
      stop('early', 'p2', { windows: [{ from: '05:00', until: '06:00' }] }),
    ],
    testers: [
      {
        id: 'ada',
        name: 'Ada Holm',
        certificates: [{ types: ['RP'], from: '2026-01-01', until: '2026-12-31' }],
        kits: [{ kind: 'five-valve', serial: 'GB-1', calibrationDue: '2026-12-31' }],
      },
    ],
    shifts: [
      {
        tester: 'ada',
        day: '2026-11-30',
        hours: { from: '07:30', until: '16:30' },
        start: 'p0',
        end: 'p0',
        lunch: { within: { from: '11:30', until: '13:30' }, minutes: 30 },
      },
    ],
    travel: [{ from: '00:00', minutes: [0, 1, 2].map(a => [0, 1, 2].map(b => Math.abs(a - b) * 4)) }],
  };
  assert.ok(reads(problem), ajv.errorsText(reads.errors));
  const done = mordel(['plan', '-', '--seconds', '2'], JSON.stringify(problem));
  assert.equal(done.status, 0, done.stderr);
  const plan = JSON.parse(done.stdout);
  assert.ok(says(plan), ajv.errorsText(says.errors));
  assert.deepEqual(plan.routes[0].visits.map(v => v.stop).sort(), ['one', 'two']);
  assert.deepEqual(plan.leftOut[0].limits, ['window', 'hours']);
  assert.match(plan.leftOut[0].says, /is free between 05:00 and 06:00/);
  assert.ok(reads({ ...problem, before: plan }), ajv.errorsText(reads.errors));
  const wrong = mordel(['plan', '-'], JSON.stringify({ ...problem, shifts: [{ ...problem.shifts[0], start: 'p9' }] }));
  assert.equal(wrong.status, 2);
  assert.match(wrong.stderr, /^shifts\[0\]\.start: "p9" is not one of the places/);
});

test('a tape and its marks are as their schemas say, and so is a line of a gauge', () => {
  const [reads, valid, rig, line] = [schema('tape'), schema('marks'), schema('drawn'), schema('gauge-line')];
  const tape = {
    format: 'mordel.tape/1',
    rig: { format: 'mordel.drawn/1', procedure: 'dc-sight-tube', kit: 'five-valve', rules: 'exam', seed: 7 },
    ticks: 3000,
    deeds: [
      { at: 60, connect: 'bleed-off', on: 'tc2' },
      { at: 90, turn: 'so2', to: 0, over: 120 },
      { at: 300, lift: 9 },
      { at: 400, tap: true },
      { at: 500, write: 'check-1', value: { value: 1.8, unit: 'psid' } },
      { at: 600, find: 'cv1-leaks', stands: true },
      { at: 700, off: 'bleed-off' },
      { at: 800, verdict: 'fail' },
    ],
  };
  assert.ok(rig(tape.rig), ajv.errorsText(rig.errors));
  assert.ok(reads(tape), ajv.errorsText(reads.errors));
  const done = mordel(['mark', '-'], JSON.stringify(tape));
  assert.equal(done.status, 0, done.stderr);
  const marks = JSON.parse(done.stdout);
  assert.ok(valid(marks), ajv.errorsText(valid.errors));
  assert.equal(marks.passed, false);
  const bad = structuredClone(tape);
  bad.deeds[1].to = 2;
  assert.equal(reads(bad), false);
  const refused = mordel(['mark', '-'], JSON.stringify(bad));
  assert.equal(refused.status, 2);
  assert.ok(refused.stderr.startsWith('deeds[1].to'), refused.stderr);
  assert.ok(
    line({ value: 1.83, unit: 'psid', rate: -0.02, battery: 0.87, simulated: true }) &&
      !line({ value: 'x', unit: 'psid' }),
  );
});

test('a sealed report is as its schemas say in every part, and whoever has it and the published keys can check it', async () => {
  const fits = (name, value, version) => {
    const valid = schema(name, version);
    assert.ok(valid(value), `${name}: ${ajv.errorsText(valid.errors)}`);
    return value;
  };
  const demo = await openDemo(),
    files = mkdtempSync(join(tmpdir(), 'mordel-files-'));
  try {
    const page = await signedIn(demo, /Ines Tarrow/);
    const fetched = async path => {
      const answer = await page.request.get(demo.url + path);
      assert.equal(answer.status(), 200, path);
      return answer.body();
    };
    const report = await page.locator('.road a[href^="/reports/"]').first().getAttribute('href');
    await page.goto(demo.url + report);
    await page.getByText('Something is wrong in this report').click();
    await page.getByLabel('What was wrong, and what is right').fill('The room is the one behind the boiler.');
    await page.getByRole('button', { name: 'Add the amendment' }).click();
    await page.getByText('The room is the one behind the boiler.').first().waitFor();

    const sealed = fits('sealed-report', JSON.parse(await fetched(`${report}/data`)));
    assert.equal(sealed.state, 'sealed');
    const run = fits('sealed-run', JSON.parse(sealed.record), 2);
    fits('run-setup', run.setup);
    fits('verdict', run.verdict);
    fits('report', run.report);
    fits('profile', JSON.parse(sealed.profile));
    fits('procedure', JSON.parse(sealed.sheet));
    fits('entries', { entries: run.log.slice(0, 200).map(line => line.entry) });
    fits('seal', JSON.parse(sealed.seal.link));
    assert.equal(sealed.amendments.length, 1);
    fits('seal', JSON.parse(sealed.amendments[0].record));
    fits('seal', JSON.parse(sealed.amendments[0].seal.link));
    fits('run-setup', JSON.parse(await fetched(`/api/runs/${report.split('/').pop()}/setup`)));

    // An authority has the files and the keys, and no installation.
    const keep = (name, bytes) => {
      writeFileSync(join(files, name), bytes);
      return join(files, name);
    };
    const [pdf, data, keys] = [
      keep('report.pdf', await fetched(`${report}/pdf`)),
      keep('report.json', await fetched(`${report}/data`)),
      keep('keys.pem', await fetched('/keys.pem')),
    ];
    const attached = readFileSync(pdf, 'latin1').match(/\{"format":"mordel\.paper-seal\/1".*?\}(?=\s*endstream)/s);
    assert.ok(attached, 'the seal stands behind the pages');
    fits('paper-seal', JSON.parse(attached[0]));
    for (const file of [pdf, data]) {
      const held = mordel(['verify', file, '--key', keys]);
      assert.equal(held.status, 0, held.stdout + held.stderr);
      assert.match(held.stdout, /The seal holds\./);
    }
    // And without Mordel: by hashes and the key alone, as docs/formats says.
    const sha256 = bytes => createHash('sha256').update(bytes).digest('hex');
    const signed = ({ link, signature }) =>
      verify(
        'sha256',
        sha256(link),
        { key: readFileSync(keys), dsaEncoding: 'ieee-p1363' },
        Buffer.from(signature, 'base64'),
      );
    const [amendment] = sealed.amendments,
      paper = JSON.parse(attached[0]),
      bytes = readFileSync(pdf);
    assert.ok(signed(sealed.seal) && signed(amendment.seal) && signed(paper));
    assert.equal(JSON.parse(sealed.seal.link).record, sha256(sealed.record));
    assert.equal(JSON.parse(amendment.seal.link).record, sha256(amendment.record));
    assert.equal(JSON.parse(amendment.seal.link).previous, sha256(sealed.seal.link));
    assert.deepEqual(
      [run.setup.profile.sha256, run.setup.sheet.sha256],
      [sha256(sealed.profile), sha256(sealed.sheet)],
    );
    assert.equal(JSON.parse(paper.link).paper, sha256(bytes.subarray(0, bytes.indexOf('%mordel-seal/1'))));
    const bent = keep('bent.json', readFileSync(data, 'utf8').replace(/behind the boiler/, 'behind the kettle'));
    const cut = keep('cut.pdf', readFileSync(pdf).fill(32, 3000, 3010));
    const others = keep(
      'others.pem',
      '-----BEGIN PUBLIC KEY-----\nMFkwEwYHKoZIzj0CAQYIKoZIzj0DAQcDQgAEaxfR8uEsQkf4vOblY6RA8ncDfYEt\n6zOg9KE5RdiYwpZP40Li/hp/m47n60p8D54WK84zV2sxXs7LtkBoN79R9Q==\n-----END PUBLIC KEY-----\n',
    );
    for (const [file, key] of [
      [bent, keys],
      [cut, keys],
      [data, others],
      [pdf, others],
    ]) {
      const broken = mordel(['verify', file, '--key', key]);
      assert.equal(broken.status, 1, `${file}: ${broken.stdout}${broken.stderr}`);
      assert.match(broken.stdout + broken.stderr, /SEAL BROKEN/);
    }
  } finally {
    await demo.close();
    rmSync(files, { recursive: true, force: true });
  }
});

test('wrong words on the command line end with 2 and say what is wanted', () => {
  for (const [args, says] of [
    [['demo', '--port', 'x'], '--port'],
    [['demo', '--loud'], '--loud'],
    [['procedure', 'none', '--kit', 'five-valve'], 'dc-sight-tube'],
    [['serve', '--fresh'], '--fresh'],
  ]) {
    const done = mordel(args);
    assert.equal(done.status, 2, done.stderr);
    assert.ok(done.stderr.includes(says), done.stderr);
  }
});
