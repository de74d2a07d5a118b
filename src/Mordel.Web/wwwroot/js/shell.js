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

// Signing out leaves nothing on this device; what is not sent yet is said before it is lost.
document.addEventListener('submit', async event => {
  const form = event.target.closest('form.signout');
  if (!form || form.dataset.cleared) return;
  event.preventDefault();
  const { clear, left } = await import('/js/field/leave.js');
  const many = await left().catch(() => 0);
  const dialog = document.querySelector('#unsent');
  if (many && dialog && dialog.returnValue !== 'lose') {
    dialog.querySelector('[data-many]').textContent = many === 1 ? 'One entry' : `${many} entries`;
    dialog.returnValue = '';
    dialog.addEventListener('close', () => dialog.returnValue === 'lose' && form.requestSubmit(), { once: true });
    return dialog.showModal();
  }
  await clear().catch(() => {});
  form.dataset.cleared = 'yes';
  form.submit();
});
