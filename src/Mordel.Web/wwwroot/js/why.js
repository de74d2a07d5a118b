// An imagined assembly with the fault of a hypothesis: its water runs beside what was seen. What is turned for a look
// comes with its button from the core.
import { benchCore } from './core.js';
import { Beside } from './bench/beside.js';
import { Clock } from './bench/clock.js';
import { Desk, takes } from './bench/desk.js';
import { Hands } from './bench/hands.js';
import { by } from './bench/make.js';
import { Rig } from './bench/rig.js';

const page = by('why'),
  acts = [...page.querySelectorAll('[data-turns]')];

const problem = text => {
  by('problem').textContent = text;
  by('problem').hidden = !text;
};

function act(desk, chosen) {
  for (const turn of chosen.dataset.turns.split(' ').filter(Boolean)) {
    const [part, to] = turn.split(':');
    if (Math.abs(desk.opening(part) - Number(to)) > 0.001) desk.turn(part, Number(to), takes(desk.part(part).kind));
  }
  if (desk.tapOpen !== (chosen.dataset.tap === 'open')) desk.tap(!desk.tapOpen);
  for (const one of acts) one.setAttribute('aria-pressed', String(one === chosen));
}

// The kit hangs on nothing: the drawing begins above the highest cock.
function crop(svg, outlets) {
  const { x, y, width, height } = svg.viewBox.baseVal;
  const top = Math.min(...Object.values(outlets).map(at => at[1])) - 60;
  if (top > y) svg.setAttribute('viewBox', `${x} ${top} ${width} ${height - (top - y)}`);
}

async function begin() {
  const core = await benchCore((loaded, total) => {
    by('progress').value = total ? (100 * loaded) / total : 0;
  });
  by('loading').hidden = true;
  if (!core)
    return problem(
      'The water is computed in this browser, and WebAssembly did not start here. What was seen, and what it would ' +
        'do here, stands beside all the same.',
    );
  const own = new Beside(core, { flow: page.dataset.flow, refused: problem }),
    desk = new Desk(own);
  try {
    await own.begin(page.dataset.rig);
  } catch (error) {
    return problem(error.message);
  }
  desk.layout();
  desk.advance(0);
  const rig = new Rig(by('drawing'), desk),
    hands = new Hands(rig, problem);
  if (!desk.plan.scale.stands) crop(rig.svg, desk.plan.outlets);
  let frames = 0,
    told = desk.happened;
  const frame = dt => {
    rig.show(dt);
    if (frames++ % 6) return;
    hands.dock();
    if (desk.happened === told) return;
    by('caption').textContent = desk.news(told).slice(-2).join(' ');
    told = desk.happened;
  };
  const time = new Clock(desk, { frame });
  // Water answers in minutes; who asks why does not wait so long.
  time.speed = 4;
  time.mark();
  for (const one of acts) one.addEventListener('click', () => act(desk, one));
  page.dataset.ready = 'yes';
}

await begin();
