// The board goes on without a signal: an answer that cannot be sent is kept on this device, and the core in this
// browser weighs it with the same atlas. Once there is a signal it is sent, and the server's board stands again.
import { diagnoses } from './core.js';
import { idle } from './idle.js';
import { KeptAnswers, NO_SIGNAL } from './kept.js';
import { button, by, make } from './bench/make.js';

const board = by('board'),
  log = JSON.parse(board.dataset.log),
  token = document.querySelector('input[name=__RequestVerificationToken]')?.value ?? '',
  kept = new KeptAnswers(`diagnosis ${board.dataset.id}`, board.dataset.post, token);
let core = null;

const loaded = () => (core ??= diagnoses(board.dataset.atlas));

const say = text => {
  by('signal').textContent = text;
  by('signal').hidden = !text;
};

function waiting(why) {
  const many = kept.all.length;
  say(
    `${why} ${many === 1 ? 'One answer is' : `${many} answers are`} kept on this device and sent by ${
      many === 1 ? 'itself' : 'themselves'
    } when there is one.`,
  );
}

// One line of the log, as the core reads it.
const line = ({ look, outlet, opened, found }) => JSON.stringify(opened ? { part: opened, found } : { look, outlet });

function picture(state) {
  const made = by('port').content.firstElementChild.cloneNode(true);
  made.setAttribute('class', `port ${state}`);
  return made;
}

function cardOf(look, largest) {
  const fields = answer => (look.part ? { opened: look.part, found: answer } : { look: look.look, outlet: answer });
  return [
    make(largest ? 'h2' : 'h3', largest ? { id: 'next-title' } : {}, look.title),
    make('p', { className: 'effort' }, `${look.effort}. `, make('strong', { className: 'caution' }, look.caution)),
    look.answers.length
      ? make(
          'div',
          { className: 'answers', role: 'group', ariaLabel: look.ask },
          make('span', { className: 'ask' }, look.ask),
          ...look.answers.map(a => {
            const made = button(a.says, () => answer(fields(a.value)), 'btn answer');
            if (!look.part) made.prepend(picture(a.value));
            return made;
          }),
        )
      : make('p', {}, 'Its sights and readings come here from the run, once there is a signal.'),
  ];
}

function show(view) {
  const [best, ...others] = view.next;
  board
    .querySelector('.next-look')
    .replaceChildren(
      ...view.against.map(words =>
        make(
          'div',
          { className: 'contradiction', role: 'alert' },
          make('h2', {}, 'That does not fit together'),
          make('p', {}, `“${words}” goes with nothing else that was seen. Look at that once more.`),
        ),
      ),
      ...(best
        ? [make('p', { className: 'eyebrow' }, 'Look at this next'), ...cardOf(best, true)]
        : [make('h2', { id: 'next-title' }, 'Nothing more to look at')]),
      ...(others.length
        ? [
            make(
              'details',
              { className: 'others' },
              make('summary', {}, 'Or one of these'),
              ...others.flatMap(o => cardOf(o, false)),
            ),
          ]
        : []),
    );
  board
    .querySelector('.remains')
    .replaceChildren(
      make('h2', { id: 'remains-title' }, 'What remains'),
      ...(view.nothing ? [make('p', { className: 'notice' }, make('strong', {}, 'Nothing of this explains it.'))] : []),
      make(
        'ol',
        { className: 'hypotheses' },
        ...view.hypotheses.map(h =>
          make(
            'li',
            {},
            make(
              'div',
              { className: 'what' },
              make('strong', {}, h.says),
              make('span', { className: 'weight num' }, h.percent < 1 ? 'under 1 %' : `${h.percent} %`),
            ),
            h.leaves.length ? make('p', { className: 'leaves' }, `Does not explain: ${h.leaves.join('; ')}`) : null,
          ),
        ),
      ),
      make(
        'p',
        { className: 'rule' },
        make('span', { className: 'simulated' }, 'Simulated'),
        ' Weighed in this browser with a model of the water. It names what is likely; the assembly decides.',
      ),
    );
  board
    .querySelector('.seen')
    .replaceChildren(
      make('h2', { id: 'seen-title' }, 'What was seen'),
      make('ol', {}, ...view.seen.map(words => make('li', {}, make('div', {}, words)))),
    );
}

// What waits is part of the board, whoever draws it; what is drawn already stands, and its reader is not disturbed.
let drawn = 0;
async function goOn(why) {
  waiting(why);
  if (drawn === kept.all.length) return;
  drawn = kept.all.length;
  const weighs = await loaded();
  const view = await weighs?.Board(JSON.stringify({ ...log, seen: [...log.seen, ...kept.all.map(line)] }));
  if (view) show(JSON.parse(view));
  else say(`${by('signal').textContent} What it means is said then: the core did not load here.`);
  by('next-title')?.scrollIntoView({ block: 'nearest' });
}

// A glove taps twice: one answer goes its way at a time.
let sending = false;
async function answer(fields) {
  if (sending) return;
  sending = true;
  try {
    await give(fields);
  } finally {
    sending = false;
  }
}

async function give(fields) {
  const given = KeptAnswers.answer(fields);
  if (!kept.all.length)
    try {
      const answered = await kept.sent(given);
      if (answered.redirected) {
        location.assign(answered.url);
        return new Promise(() => {});
      }
      const page = new DOMParser().parseFromString(await answered.text(), 'text/html');
      return say(page.querySelector('main .error')?.textContent ?? `The server did not take it (${answered.status}).`);
    } catch {
      // No signal.
    }
  kept.keep(given);
  await goOn(NO_SIGNAL);
}

// The board answers what it has taken by leading back to itself.
const taken = answer =>
  answer.redirected && new URL(answer.url).pathname === location.pathname
    ? ''
    : `The server answers, and did not take it (${answer.status}). Sign in again, or open the page anew.`;

async function send() {
  if (!kept.all.length) return;
  const why = await kept.sendAll(taken);
  if (why) await goOn(why);
  else location.reload();
}

board.addEventListener('submit', event => {
  const form = event.target.closest('form.answers');
  if (!form) return;
  event.preventDefault();
  const data = new FormData(form, event.submitter);
  data.delete('__RequestVerificationToken');
  answer(Object.fromEntries(data));
});
addEventListener('online', send);
setInterval(send, 20_000);
await send();
// In a pit there is no signal later on: what is needed then is fetched while there is one.
if (matchMedia('(pointer: coarse)').matches) {
  await idle();
  const weighs = await loaded();
  // The first weighing warms the core up.
  if (await weighs?.Board(board.dataset.log)) board.dataset.ready = 'yes';
}
