// Says how many lines of a list are marked.
const form = document.querySelector('[data-marked]');
const says = form?.querySelector('[data-marked-count]');

function count() {
  const marked = form.querySelectorAll('input[name="ids"]:checked').length;
  if (marked > 0) says.textContent = marked === 1 ? 'One is marked.' : `${marked} are marked.`;
}

if (form && says) form.addEventListener('change', count);
