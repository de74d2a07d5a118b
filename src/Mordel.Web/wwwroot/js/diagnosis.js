// Touching a part of the drawing offers what may be seen there: the same links stand under it as words.
const drawing = document.querySelector('[data-parts] svg');
for (const link of document.querySelectorAll('[data-touch]')) {
  const part = drawing?.querySelector(`[data-part="${link.dataset.touch}"]`);
  if (!part) continue;
  part.classList.add('may-be-touched');
  if (link.getAttribute('aria-current')) part.classList.add('touched');
  part.addEventListener('click', () => link.click());
}
