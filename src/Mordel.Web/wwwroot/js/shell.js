// What every page has: keys, theme, printing, search as you type.
const html = document.documentElement;

const year = 'path=/; max-age=31536000; samesite=lax';
// Light, dark, and black on white for the sun, one after the other.
const after = { light: 'dark', dark: 'sun', sun: 'light' };
document.querySelector('[data-theme-toggle]')?.addEventListener('click', () => {
  const now = html.dataset.theme || (matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light');
  html.dataset.theme = after[now];
  document.cookie = `theme=${html.dataset.theme}; ${year}`;
});
document.addEventListener('click', event => {
  if (!event.target.closest('[data-hand-toggle]')) return;
  html.dataset.hand = html.dataset.hand === 'left' ? '' : 'left';
  document.cookie = `hand=${html.dataset.hand}; ${year}`;
});
document.querySelector('[data-print]')?.addEventListener('click', () => print());

const keys = document.querySelector('#keys');
document.querySelector('[data-keys-open]')?.addEventListener('click', () => keys.showModal());

let pendingG = false;
const rooms = Object.fromEntries(
  [...document.querySelectorAll('[data-go-key]')].map(k => [k.textContent, k.dataset.goKey]),
);
document.addEventListener('keydown', event => {
  const typing = event.target.matches('input, textarea, select') && event.target.id !== 'digits';
  if (typing || event.ctrlKey || event.metaKey || event.altKey || document.querySelector('dialog[open]')) return;
  if (event.key === '?') {
    keys.showModal();
    event.preventDefault();
  } else if (event.key === '/' && document.querySelector('[data-search-field]')) {
    document.querySelector('[data-search-field]').focus();
    event.preventDefault();
  } else if (pendingG && rooms[event.key]) location.href = rooms[event.key];
  else if (event.key === 'Enter' && event.target === document.body) document.querySelector('[data-go]')?.click();
  pendingG = event.key === 'g';
});

const search = document.querySelector('[data-search]');
if (search) {
  const field = search.querySelector('[data-search-field]');
  let running = null,
    timer = 0;
  field.addEventListener('input', () => {
    clearTimeout(timer);
    timer = setTimeout(async () => {
      running?.abort();
      running = new AbortController();
      const url = `/register?q=${encodeURIComponent(field.value)}`;
      try {
        const answer = await fetch(url, { signal: running.signal });
        if (!answer.ok) return;
        const page = new DOMParser().parseFromString(await answer.text(), 'text/html');
        document.querySelector('#found').replaceChildren(...page.querySelector('#found').childNodes);
        history.replaceState(null, '', url);
      } catch (problem) {
        if (problem.name !== 'AbortError') search.classList.add('offline');
      }
    }, 120);
  });
}

// Signing out leaves nothing on this device; what is not sent yet is said before it is lost, and so is that it needs a
// signal.
document.addEventListener('submit', async event => {
  const form = event.target.closest('form.signout');
  if (!form) return;
  event.preventDefault();
  const { left, leave } = await import('/js/field/leave.js');
  const dialog = document.querySelector('#unsent');
  const say = (title, words) => {
    dialog.querySelector('h2').textContent = title;
    dialog.querySelector('p').textContent = words;
    dialog.returnValue = '';
    dialog.showModal();
    return new Promise(closed => dialog.addEventListener('close', () => closed(dialog.returnValue), { once: true }));
  };
  const many = await left();
  const [what, they] = many === 1 ? ['One entry', 'it'] : [`${many} entries`, 'they'];
  const lost = `${what} on this device not sent yet. Signing out wipes the device: ${they} would be lost.`;
  if (many && (await say('Not sent yet', lost)) !== 'lose') return;
  if (!(await leave(form))) await say('No signal', 'Signing out needs one. Nothing was wiped.');
});
