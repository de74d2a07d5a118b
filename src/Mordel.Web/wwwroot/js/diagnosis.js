// Touching a part of the drawing offers what may be seen there; the same stands under it as links.
const drawing = document.querySelector('[data-parts] svg');
const links = new Map([...document.querySelectorAll('[data-touch]')].map(link => [link.dataset.touch, link]));

const touch = part => {
  const id = part.dataset.part;
  const link = links.get(id);
  if (link) return link.click();
  const to = new URL(location.href);
  to.searchParams.delete('handler');
  to.searchParams.set('part', id);
  to.hash = 'part';
  location.assign(to);
};

for (const [id, link] of links)
  if (link.getAttribute('aria-current')) drawing?.querySelector(`[data-part="${id}"]`)?.classList.add('touched');
drawing?.addEventListener('click', event => {
  const part = event.target.closest('[data-part]');
  if (part) touch(part);
});
drawing?.addEventListener('keydown', event => {
  const part = event.target.closest('[data-part]');
  if (!part || (event.key !== 'Enter' && event.key !== ' ')) return;
  event.preventDefault();
  touch(part);
});
