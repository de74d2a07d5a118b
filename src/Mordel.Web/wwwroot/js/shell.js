// What every page has: keys, theme, printing, search as you type.
const html = document.documentElement;

document.querySelector('[data-theme-toggle]')?.addEventListener('click', () => {
  const dark = html.dataset.theme ? html.dataset.theme === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
  html.dataset.theme = dark ? 'light' : 'dark';
  document.cookie = `theme=${html.dataset.theme}; path=/; max-age=31536000; samesite=lax`;
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
