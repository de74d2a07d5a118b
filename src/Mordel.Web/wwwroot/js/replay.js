// Marks, and the replay that each of them opens at its moment; or two runs side by side on one clock.
import { benchCore } from './core.js';
import { button, by, clock, make } from './bench/make.js';
import { Player } from './bench/player.js';

const page = by('replay'),
  players = [];
let running = false,
  speed = 1,
  rest = 0,
  last = 0,
  until = null;

const problem = text => {
  by('problem').textContent = text;
  by('problem').hidden = !text;
};
const longest = () => Math.max(...players.map(player => player.end));
let at = 0;

function seek(tick) {
  at = Math.max(0, Math.min(longest(), tick));
  for (const player of players) player.seek(at);
  slide.value = at;
  shown.textContent = clock(at / 60);
}

const play = button(
  'Play',
  () => {
    until = null;
    if (at >= longest()) seek(0);
    run(!running);
  },
  'btn btn-primary play',
);
const run = on => {
  running = on;
  play.textContent = on ? 'Pause' : 'Play';
};
const slide = make('input', {
  type: 'range',
  min: 0,
  max: 1,
  step: 1,
  value: 0,
  className: 'form-range when',
  ariaLabel: 'Moment of the recording',
  oninput: () => {
    run(false);
    seek(Number(slide.value));
  },
});
const shown = make('span', { className: 'num time', textContent: '0:00' });
const paces = [
  ['¼×', 0.25],
  ['1×', 1],
  ['4×', 4],
  ['16×', 16],
].map(([name, pace]) => {
  const b = button(
    name,
    () => {
      speed = pace;
      for (const other of paces) other.setAttribute('aria-pressed', String(other === b));
    },
    'quiet pace',
    { ariaPressed: String(pace === 1), ariaLabel: `Time ${name}` },
  );
  return b;
});

function beat(now) {
  const dt = Math.min(0.25, (now - (last || now)) / 1000);
  last = now;
  if (running) {
    rest += dt * speed * 60;
    const ticks = Math.min(240, Math.floor(rest));
    rest = Math.min(60, rest - ticks);
    for (const player of players) {
      player.advance(ticks);
      player.show(dt * speed);
    }
    at = Math.min(longest(), Math.max(...players.map(player => player.desk.tick)));
    slide.value = at;
    const text = clock(at / 60);
    if (shown.textContent !== text) shown.textContent = text;
    if (at >= longest() || (until !== null && at >= until)) {
      run(false);
      until = null;
    }
  }
  requestAnimationFrame(beat);
}

function marks(sheet) {
  const line = mark =>
    make(
      'li',
      { className: mark.earned ? 'kept-mark' : 'lost-mark', id: `mark-${mark.id}` },
      make('span', { className: 'sign', ariaHidden: 'true', textContent: mark.earned ? '✓' : '✗' }),
      make('strong', { textContent: mark.title }),
      make('span', { className: 'points num', textContent: `${mark.earned ? mark.weight : 0} of ${mark.weight}` }),
      make('p', { textContent: mark.says }),
      mark.earned
        ? null
        : button(
            `Show it, at ${clock(mark.at / 60)}`,
            () => {
              seek(Math.max(0, mark.at - 180));
              until = mark.at + 240;
              run(true);
              by('drawing-0').scrollIntoView({ block: 'nearest' });
              problem('');
            },
            'btn btn-quiet',
            { ariaLabel: `Show it: ${mark.title}` },
          ),
    );
  const lost = sheet.marks.filter(mark => !mark.earned),
    kept = sheet.marks.filter(mark => mark.earned);
  by('marks').replaceChildren(
    ...(lost.length
      ? [make('h2', { textContent: 'Where marks were lost' }), make('ol', { className: 'marks' }, ...lost.map(line))]
      : [make('h2', { textContent: 'Every mark earned' })]),
    make(
      'details',
      {},
      make('summary', { textContent: `${kept.length} things done right` }),
      make('ol', { className: 'marks' }, ...kept.map(line)),
    ),
  );
}

try {
  const core = await benchCore((loaded, total) => {
    by('progress').value = total ? (100 * loaded) / total : 0;
  });
  const recordings = await Promise.all(
    JSON.parse(page.dataset.tapes).map(async ({ title, url }) => ({
      title,
      recording:
        url &&
        (await fetch(url).then(a => {
          if (!a.ok) throw new Error(`The recording could not be fetched (${a.status}).`);
          return a.text();
        })),
    })),
  );
  if (page.dataset.marks) marks(await fetch(page.dataset.marks).then(a => a.json()));
  if (!core)
    throw new Error(
      'The replay computes its water in this browser, and WebAssembly did not start here. ' +
        'The marks are complete without it.',
    );
  for (const [i, { title, recording }] of recordings.entries()) {
    const player = new Player(core, i, by(`drawing-${i}`), {
      title: recordings.length > 1 ? title : null,
      refused: problem,
    });
    await player.load(recording ?? (await core.Careful(recordings[0].recording)), part => {
      by('progress').value = 100 * part;
    });
    players.push(player);
  }
  slide.max = longest();
  by('clock').replaceChildren(play, make('span', { className: 'paces' }, ...paces), shown, slide);
  page.dataset.ready = 'yes';
  requestAnimationFrame(beat);
} catch (error) {
  problem(error.message);
}
by('loading').hidden = true;
const inside = by('inside');
inside?.addEventListener('click', () => {
  const on = page.classList.toggle('inside');
  inside.setAttribute('aria-pressed', String(on));
});
