// Rounds are changed by dragging and by the keys; what comes of it is worked out by the server and shown at once.
const QUARTER = 15;
const STEP = 5;
const FAR = 5;
const twoDigits = n => String(n).padStart(2, '0');
const time = minute => `${twoDigits(Math.floor(minute / 60))}:${twoDigits(minute % 60)}`;

let drag = null;
let busy = false;

const lanes = () => document.querySelector('.lanes[data-can]');
const token = () => document.querySelector('#rounds input[name="__RequestVerificationToken"]')?.value;

// Sends what a form would, and puts the answered page in the place of this one; the chosen stop keeps the focus.
async function send(handler, fields) {
  if (busy) return;
  busy = true;
  const place = lanes();
  const body = new URLSearchParams({ ...fields, __RequestVerificationToken: token() });
  try {
    const answer = await fetch(`${location.pathname}?handler=${handler}`, { method: 'POST', body });
    const page = new DOMParser().parseFromString(await answer.text(), 'text/html');
    const fresh = page.querySelector('#rounds');
    if (!fresh) return location.reload();
    document.querySelector('#rounds').replaceWith(fresh);
    history.replaceState(null, '', answer.url.replace(/\?handler=[^&]*/, '?'));
    focusOn(fields.stop);
  } catch {
    place?.insertAdjacentHTML('afterbegin', '<p class="notice" role="alert"></p>');
    if (place) place.querySelector('.notice').textContent = 'There is no signal: nothing was changed. Try it again.';
  } finally {
    busy = false;
  }
}

const focusOn = stop => document.querySelector(`.lane .stop[data-stop="${CSS.escape(stop ?? '')}"]`)?.focus();

const move = (stop, row, minute) =>
  send('Move', {
    stop: stop.dataset.stop,
    tester: row.dataset.tester,
    on: lanes().dataset.day,
    at: time(Math.min(23 * 60 + 55, Math.max(0, minute))),
  });

// The minute of the day under a point of a lane.
function minuteAt(lane, x) {
  const box = lane.getBoundingClientRect();
  const units = ((x - box.left) / box.width) * lane.viewBox.baseVal.width;
  return Number(lanes().dataset.from) + units / Number(lanes().dataset.scale);
}

const rowAt = event => document.elementFromPoint(event.clientX, event.clientY)?.closest('.lane-row[data-tester]');
const snapped = (row, event, grip = drag.grip) =>
  Math.round((minuteAt(row.querySelector('.lane'), event.clientX) - grip) / STEP) * STEP;

document.addEventListener('pointerdown', event => {
  const stop = event.target.closest?.('.lane .stop');
  if (!stop || !lanes() || event.button > 0) return;
  const lane = stop.closest('svg');
  drag = { stop, lane, x: event.clientX, y: event.clientY, grip: minuteAt(lane, event.clientX) - stop.dataset.begin };
});

document.addEventListener('pointermove', event => {
  if (!drag) return;
  const far = Math.hypot(event.clientX - drag.x, event.clientY - drag.y);
  if (!drag.on && far < FAR) return;
  drag.on = true;
  event.preventDefault();
  const scale = drag.lane.viewBox.baseVal.width / drag.lane.getBoundingClientRect().width;
  drag.stop.classList.add('dragged');
  drag.stop.setAttribute(
    'transform',
    `translate(${(event.clientX - drag.x) * scale} ${(event.clientY - drag.y) * scale})`,
  );
  drag.lane.style.overflow = 'visible';
  drag.stop.style.pointerEvents = 'none';
  const row = rowAt(event);
  if (row)
    lanes().dataset.says = `${time(Math.max(0, snapped(row, event)))}, ${row.querySelector('strong').textContent}`;
});

document.addEventListener('pointerup', event => {
  if (!drag) return;
  const { stop, lane, grip, on } = drag;
  drag = null;
  if (!on) return;
  stop.addEventListener('click', e => e.preventDefault(), { once: true });
  addEventListener('click', e => e.preventDefault(), { once: true, capture: true });
  delete lanes().dataset.says;
  const row = rowAt(event);
  if (row) {
    move(stop, row, snapped(row, event, grip));
  } else {
    stop.removeAttribute('transform');
    stop.classList.remove('dragged');
    stop.style.pointerEvents = '';
    lane.style.overflow = '';
  }
});

document.addEventListener('dragstart', event => {
  if (event.target.closest?.('.lane .stop')) event.preventDefault();
});

document.addEventListener(
  'keydown',
  event => {
    const stop = document.activeElement?.closest?.('.lane .stop');
    if (!stop || !lanes() || event.ctrlKey || event.metaKey || event.altKey) return;
    const row = stop.closest('.lane-row');
    const begin = Number(stop.dataset.begin);
    const acts = {
      ArrowLeft: () => move(stop, row, begin - QUARTER),
      ArrowRight: () => move(stop, row, begin + QUARTER),
      ArrowUp: () => beside(row, 'previousElementSibling', stop, begin),
      ArrowDown: () => beside(row, 'nextElementSibling', stop, begin),
      Delete: () => send('Out', { stop: stop.dataset.stop, day: lanes().dataset.day }),
      s: () =>
        send('Pin', {
          stop: stop.dataset.stop,
          day: lanes().dataset.day,
          settled: stop.classList.contains('settled') ? 'false' : 'true',
        }),
    };
    if (!acts[event.key]) return;
    event.preventDefault();
    event.stopPropagation();
    acts[event.key]();
  },
  true,
);

function beside(row, way, stop, begin) {
  let other = row[way];
  while (other && !other.dataset.tester) other = other[way];
  if (other) move(stop, other, begin);
}
