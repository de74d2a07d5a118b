// A simulated test on the page: the scenario from the form, the outcome from the core in the browser, or from the
// server where that cannot load.
import { core } from './core.js';
import { recall, scenario } from './set.js';

const by = id => document.getElementById(id);
const form = by('set');
async function perform(text) {
  by('loading').hidden = false;
  by('progress').removeAttribute('value');
  by('progress-text').textContent = 'Fetching the core, once…';
  const inside = await core((loaded, total) => {
    by('progress').value = total ? (100 * loaded) / total : 0;
  });
  by('progress').removeAttribute('value');
  by('progress-text').textContent = 'The tester is at work…';
  // Let the words be painted before the work begins.
  await new Promise(done => setTimeout(done, 30));
  if (inside)
    return [JSON.parse(await inside.Simulate(text, 2)), 'Computed in this browser by the same core as on the server.'];
  const answer = await fetch('/api/simulations?needle=2', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: text,
  });
  const said = await answer.json();
  return [
    answer.ok ? said : { faults: (said.faults ?? []).map(f => `${f.place}: ${f.says}`) },
    'Computed by the server: the core did not load in this browser.',
  ];
}

const element = (name, attributes, ...children) => {
  const made = document.createElement(name);
  Object.assign(made, attributes);
  made.append(...children);
  return made;
};

const clock = seconds => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;
const names = JSON.parse(by('items').textContent);
const shown = value =>
  value === null
    ? 'not read'
    : typeof value === 'object'
      ? `${value.value} ${value.unit}`
      : value === true
        ? 'yes'
        : value === false
          ? 'no'
          : value;

function draw(way, sights) {
  const [width, height, left, bottom] = [by('way').clientWidth < 500 ? 450 : 900, 240, 36, 24];
  by('way').setAttribute('viewBox', `0 0 ${width} ${height}`);
  const end = way.at(-1)?.[0] ?? 1;
  const x = s => left + ((width - left - 8) * s) / end;
  const y = n => 8 + (height - bottom - 8) * (1 - (Math.max(-2, n) + 2) / 17.5);
  const svg = by('way');
  const make = (name, attributes, text) => {
    const made = document.createElementNS('http://www.w3.org/2000/svg', name);
    for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, value);
    if (text !== undefined) made.textContent = text;
    return made;
  };
  const parts = [svg.querySelector('title')];
  for (const n of [0, 5, 10, 15])
    parts.push(
      make('path', { d: `M${left} ${y(n)}H${width - 8}`, class: 'grid' }),
      make('text', { x: left - 8, y: y(n) + 5, class: 'scale' }, n),
    );
  for (const sight of sights)
    parts.push(make('path', { d: `M${x(sight.seconds)} 8V${height - bottom}`, class: 'sight' }));
  parts.push(
    make('path', {
      d: way.map(([s, n], i) => `${i ? 'L' : 'M'}${x(s).toFixed(1)} ${y(n).toFixed(1)}`).join(''),
      class: 'needle',
    }),
  );
  parts.push(
    make('text', { x: left, y: height - 6, class: 'time' }, '0:00'),
    make('text', { x: width - 8, y: height - 6, class: 'time end' }, clock(end)),
  );
  svg.replaceChildren(...parts);
}

function show(outcome, where) {
  by('outcome').hidden = false;
  by('outcome').dataset.overall = outcome.verdict.overall;
  by('verdict').textContent = { pass: 'Pass', fail: 'Fail', incomplete: 'Incomplete', 'not-testable': 'Not testable' }[
    outcome.verdict.overall
  ];
  by('reason').textContent = outcome.verdict.reason;
  by('read').replaceChildren(
    ...Object.entries(outcome.results).map(([item, value]) =>
      element(
        'tr',
        {},
        element('th', { scope: 'row', textContent: names[item] ?? item }),
        element('td', { className: 'num', textContent: shown(value) }),
      ),
    ),
  );
  by('found').textContent = outcome.remarks || 'Nothing.';
  by('seen').replaceChildren(
    ...(outcome.sights.length
      ? outcome.sights.map(s =>
          element('li', {}, element('span', { className: 'num soft', textContent: clock(s.seconds) }), ` ${s.seen}`),
        )
      : [element('li', { textContent: 'Only what should be.' })]),
  );
  by('way-caption').textContent =
    `Needle in psid over ${clock(outcome.simulatedSeconds)} of simulated time; the marks are the sights.`;
  by('where').textContent = where;
  draw(outcome.needle ?? [], outcome.sights);
}

form.addEventListener('submit', async event => {
  event.preventDefault();
  by('problem').hidden = true;
  by('go').disabled = true;
  try {
    const text = scenario(form);
    history.replaceState(null, '', `?${new URLSearchParams(new FormData(form))}`);
    const [outcome, where] = await perform(text);
    if (outcome.faults) throw new Error(outcome.faults.join(' · '));
    show(outcome, where);
  } catch (problem) {
    by('problem').textContent = `It could not be performed: ${problem.message}`;
    by('problem').hidden = false;
  } finally {
    by('loading').hidden = true;
    by('go').disabled = false;
  }
});
if (recall(form).has('procedure')) form.requestSubmit();
