// The bench: a rig under a learner's hands, free, with the sheet beside it, or as an exam.
import { benchCore } from './core.js';
import { Beside } from './bench/beside.js';
import { Clock } from './bench/clock.js';
import { Desk } from './bench/desk.js';
import { Exam } from './bench/exam.js';
import { Face } from './bench/face.js';
import { send } from './bench/handin.js';
import { Hands } from './bench/hands.js';
import { dropRecording, keepRecording, keptRecording, keptWords } from './bench/keep.js';
import { button, by, clock, make } from './bench/make.js';
import { Rig } from './bench/rig.js';
import { Sheet } from './bench/sheet.js';
import { Sound } from './bench/sound.js';
import { tools } from './bench/tools.js';
import { first, noWater, takeOver } from './bench/whose.js';
import { recall, scenario } from './set.js';

const page = by('bench'),
  { mode } = page.dataset,
  form = by('set'),
  sound = new Sound();
let desk,
  rig,
  hands,
  face,
  time,
  panel,
  told = 0,
  kept = 0,
  frames = 0,
  handed = false,
  begun = 0;

const problem = text => {
  by('problem').textContent = text;
  by('problem').hidden = !text;
};

function news() {
  if (desk.happened < told) forget();
  if (desk.happened === told) return;
  const lines = desk.news(told);
  told = desk.happened;
  if (lines.some(line => line.startsWith('The air inlet opens'))) sound.pop();
  by('caption').textContent = lines.slice(-2).join(' ');
  if (mode === 'free') write(lines);
}

// What happened, the latest first, beside a rig that has no sheet.
let log = [];
function write(lines) {
  log = [...lines.map(line => ({ at: desk.tick, line })).reverse(), ...log].slice(0, 60);
  by('happened').replaceChildren(
    ...log
      .slice(0, 14)
      .map(({ at, line }) =>
        make('li', {}, make('span', { className: 'num', textContent: clock(at / desk.plan.perSecond) }), ' ', line),
      ),
  );
  by('happened-nothing').hidden = log.length > 0;
}

// What the water did after this instant has not happened: time went back.
function forget() {
  told = desk.happened;
  log = log.filter(entry => entry.at <= desk.tick);
  if (mode === 'free') write([]);
}

function frame(dt) {
  rig.show(dt);
  face.show(desk.needle);
  if (frames++ % 6 === 0) {
    hands.dock();
    panel?.look();
    news();
  }
  if (dt > 0 && sound.on)
    sound.hear(
      desk.plan.parts.reduce(
        (sum, part) => sum + (part.kind === 'Hose' && desk.connections.has(part.id) ? 0 : desk.spills(part.id)),
        0,
      ),
      dt,
    );
  if (frames % 120 === 0) keep();
}

// Every two seconds when something was done or a while has passed, and when the page goes: a recording is long, and
// writing it at every frame would cost frames.
function keep(always = false) {
  if (handed || panel?.trying || !desk?.row || !(always || desk.recorded !== kept || frames % 600 === 0)) return;
  // A rig that nobody has touched is not worth going back to.
  if (!desk.deeds && !desk.words.length) return;
  kept = desk.recorded;
  keepRecording(page.dataset.key, desk.recording(), desk.words, {
    title: desk.plan.title,
    mode: page.dataset.heading,
    href: location.pathname + location.search,
    at: Date.now(),
  });
}
addEventListener('pagehide', () => keep(true));
document.addEventListener('visibilitychange', () => {
  if (document.hidden) keep(true);
});

async function handIn() {
  time.mayPause = true;
  time.pause();
  const recording = await desk.whole();
  by('sheet').replaceChildren(
    make('h2', { textContent: 'Handing in…' }),
    make('p', { textContent: 'The recording of what you did goes to the server, which marks it.' }),
  );
  try {
    const at = await send(recording, page.dataset);
    handed = true;
    dropRecording(page.dataset.key);
    location.href = at;
  } catch (error) {
    problem(`It could not be handed in: ${error.message} Your recording is kept on this device.`);
    by('sheet').replaceChildren(
      make('h2', { textContent: 'Not handed in yet' }),
      button('Try again', handIn, 'btn btn-primary btn-go'),
    );
  }
}

function rigText() {
  if (mode === 'free' || page.dataset.rig === '') return scenario(form);
  return page.dataset.rig;
}

const flow = () => form?.flow.value || page.dataset.flow || 'LeftToRight';

// Everything that stands around a desk.
function setUp() {
  by('bench-title').textContent = desk.plan.title;
  rig = new Rig(by('drawing'), desk);
  face = new Face(by('face'), desk.plan);
  hands = new Hands(rig, problem);
  told = desk.happened;
  log = [];
  if (mode === 'free') {
    write([]);
    by('truth').textContent = `${desk.plan.truth.join('. ')}.`;
  }
  if (time) {
    time.desk = desk;
    time.go();
  } else
    time = new Clock(desk, {
      frame,
      mayPause: mode !== 'exam',
      back:
        mode === 'exam'
          ? null
          : async tick => {
              await desk.back(tick);
              panel?.again?.();
              forget();
            },
    });
  panel =
    mode === 'guided'
      ? new Sheet(desk, rig, time)
      : mode === 'exam'
        ? new Exam(desk, { minutes: Number(page.dataset.minutes) || 0, handIn })
        : null;
  hands.choose('height');
}

async function begin(text, recording = null) {
  const mine = ++begun;
  desk?.door.end();
  problem('');
  by('loading').hidden = false;
  const load = () =>
    benchCore((loaded, total) => {
      by('progress').value = total ? (100 * loaded) / total : 0;
    });
  const beside = core =>
    new Beside(core, { guided: mode === 'guided', flow: flow(), open: mode !== 'exam', refused: problem });
  // An exam waits for this browser's own water: there the first drip must be seen when it falls.
  const asked = { rig: text, guided: mode === 'guided', flow: flow(), token: page.dataset.token, refused: problem };
  let { door, away } = recording || mode === 'exam' ? { door: await load() } : await first(load, asked);
  try {
    if (mine !== begun) return;
    if (away) {
      desk = new Desk(away);
      desk.layout();
      desk.advance(0);
      setUp();
      by('loading-words').textContent = 'The server moves the water for now';
      page.dataset.usable = 'yes';
      door = await load();
      if (mine !== begun || (door && !(await takeOver(desk, beside(door), () => mine === begun)))) return;
      panel?.again?.();
      by('loading').classList.add('own');
      by('loading-words').textContent = 'This browser has its own water now';
    } else if (door) {
      const own = beside(door),
        end = recording ? await own.load(recording) : -1,
        words = end < 0 ? [] : keptWords(page.dataset.key);
      if (end < 0) await own.begin(text);
      await own.play(end, words, part => {
        by('progress').value = 100 * part;
      });
      if (mine !== begun) return;
      desk = new Desk(own);
      desk.words = words;
      desk.layout();
      desk.advance(0);
      setUp();
      if (mode === 'exam' && recording) panel.recall(JSON.parse(recording).deeds);
    }
  } catch (error) {
    by('loading').hidden = true;
    // The rig that stands goes on.
    if (desk) desk.door.over = false;
    return problem(error.message);
  } finally {
    away?.end();
  }
  by('loading').hidden = !away || !door;
  if (!door) problem(noWater);
  else Object.assign(page.dataset, { usable: 'yes', ready: 'yes' });
}

tools({ page, mode, sound, desk: () => desk, clock: () => time });
if (form) {
  recall(form);
  by('go-guided').addEventListener('click', () => {
    if (form.reportValidity())
      location.href = `/bench/guided?flow=${form.flow.value}&rig=${encodeURIComponent(scenario(form))}`;
  });
  form.addEventListener('submit', event => {
    event.preventDefault();
    history.replaceState(null, '', `?${new URLSearchParams(new FormData(form))}`);
    dropRecording(page.dataset.key);
    begin(scenario(form));
    by('setting').open = false;
  });
}
// For a test or a measurement that stands beside the page.
Object.assign(window, {
  bench: {
    get desk() {
      return desk;
    },
    get clock() {
      return time;
    },
    frame,
  },
});
const before = keptRecording(page.dataset.key);
// An address with a rig in it sets that one; who goes on with what was left comes from the bench's page.
const same = before && (mode !== 'free' || !location.search || location.hash === '#kept');
await begin(rigText(), same ? before : null);
