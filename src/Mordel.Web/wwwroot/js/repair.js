// The repair page: every entry is on this device before it is sent, has an id of its own, and stands once however often
// it is sent. Without a signal the page goes on to the next step of the stage that stands in it.
import { KeptAnswers, NO_SIGNAL } from './kept.js';
import { PhotoBox } from './photos.js';
import { by } from './bench/make.js';

const id = by('repair').dataset.id,
  token = document.querySelector('input[name=__RequestVerificationToken]')?.value ?? '',
  kept = new KeptAnswers(`repair ${id}`, location.pathname, token),
  photos = new PhotoBox(id, token);

function say(text) {
  by('signal').textContent = text;
  by('signal').hidden = !text;
}

const held = (why, count, one, more) =>
  `${why} ${count === 1 ? `One ${one} is` : `${count} ${more} are`} kept on this device and sent as soon as can be.`;
const waiting = why => say(held(why, kept.all.length, 'entry', 'entries'));

// The page as the server has it now takes the place of what stands here.
function show(text) {
  const page = new DOMParser().parseFromString(text, 'text/html');
  const fresh = page.getElementById('repair');
  if (!fresh) return location.reload();
  by('repair').replaceWith(fresh);
  say('');
  by('step').scrollIntoView({ block: 'nearest' });
  by('step-title').tabIndex = -1;
  by('step-title').focus({ preventScroll: true });
}

// Without a signal: the step that was at hand goes, the next of this stage comes.
function goOn(form) {
  const here = form.closest('.at-hand');
  if (!here) return;
  const next = here.nextElementSibling;
  here.hidden = true;
  if (next?.matches('.at-hand')) {
    next.hidden = false;
    next.querySelector('h2').tabIndex = -1;
    next.querySelector('h2').focus();
  } else by('signal').append(' What comes next stands here then; the sheet itself is below.');
}

async function enter(form, submitter) {
  const data = new FormData(form, submitter);
  data.delete('__RequestVerificationToken');
  const fields = {};
  for (const name of new Set(data.keys())) fields[name] = data.getAll(name);
  const handler = new URL(form.action).searchParams.get('handler');
  kept.keep(KeptAnswers.answer(handler ? { ...fields, handler } : fields));
  await send(form);
}

// Taken, or refused in words: it would be refused again.
const settled = answer =>
  answer.status >= 500 || answer.status === 429
    ? 'The server is busy.'
    : answer.status === 401 || answer.status === 403 || !new URL(answer.url).pathname.startsWith('/repairs/')
      ? 'Sign in again.'
      : '';

async function send(form) {
  if (!kept.all.length) return;
  const why = await kept.sendAll(settled);
  const answer = kept.takeLast();
  if (answer) show(await answer.text());
  if (why) waiting(why);
  if (form && why === NO_SIGNAL) goOn(form);
}

document.addEventListener('submit', event => {
  const form = event.target.closest('form.entry');
  if (!form) return;
  event.preventDefault();
  // One at a time: a glove taps twice.
  if (!kept.onItsWay) enter(form, event.submitter);
});
document.addEventListener('change', event => {
  if (event.target.id === 'photo') take(event.target);
  if (event.target.id === 'item' && event.target.value)
    by('used').value = event.target.selectedOptions[0].textContent.replace(/ \([^(]*\)$/, '');
});

async function take(input) {
  const [file] = input.files;
  if (!file) return;
  by('photo-says').textContent = 'The picture is made smaller.';
  const refused = await photos.keep(file, input.dataset.of);
  input.value = '';
  if (refused) by('photo-says').textContent = refused;
  else await sendPhotos();
}

async function sendPhotos() {
  const { sent, left, why } = await photos.send();
  if (sent)
    try {
      show(await (await fetch(location.pathname)).text());
    } catch {
      // It is there; the page shows it when there is a signal again.
    }
  const says = by('photo-says');
  if (why) says.textContent = why;
  else if (left) says.textContent = held(NO_SIGNAL, left, 'picture', 'pictures');
  else if (sent) says.textContent = 'Kept.';
}

async function all() {
  await send();
  await sendPhotos();
}

addEventListener('online', all);
setInterval(all, 20_000);
await all();
