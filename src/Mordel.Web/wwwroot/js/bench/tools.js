// The tools of a bench.
import { button, by } from './make.js';

/** What stands above the rig: its inside, its sound, its state in words; each has its key. */
export function tools({ page, mode, sound, desk, clock }) {
  const inside = button(
    'See inside',
    () => {
      const on = !page.classList.contains('inside');
      page.classList.toggle('inside', on);
      inside.ariaPressed = String(on);
    },
    'btn btn-quiet',
    { ariaPressed: 'true', hidden: mode === 'exam' },
  );
  const heard = button(
    'Sound',
    () => {
      heard.ariaPressed = String(sound.toggle());
    },
    'btn btn-quiet',
    { ariaPressed: 'false' },
  );
  const say = button(
    'Describe it',
    async () => {
      by('spoken').textContent = '';
      const words = await desk().describe();
      by('spoken').textContent = by('state-words').textContent = words;
      by('state-words').hidden = false;
    },
    'btn btn-quiet',
  );
  by('tools').replaceChildren(inside, heard, say);
  page.classList.toggle('inside', mode !== 'exam');
  addEventListener('keydown', event => {
    if (
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      event.target.closest('input:not([type=range]):not([type=radio]):not([type=checkbox]), select, textarea, dialog')
    )
      return;
    if (event.key === 's') say.click();
    else if (event.key === 'p' && mode !== 'exam') clock().toggle();
    else if (event.key === 'i' && mode !== 'exam') inside.click();
    else if (event.key === 'h' && mode === 'guided')
      [...by('sheet').querySelectorAll('button')].find(b => b.textContent.startsWith('Hint'))?.click();
    else return;
    event.preventDefault();
  });
}
