// On the bench's page: what was left unfinished on this device by whoever is signed in.
import { dropTape, left } from './keep.js';

const place = document.getElementById('kept'),
  kept = left();
if (kept && kept.key.endsWith(place.dataset.who)) {
  document.getElementById('kept-title').textContent = kept.title;
  document.getElementById('kept-when').textContent =
    `${kept.mode}, left at ${new Date(kept.at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })}`;
  document.getElementById('kept-go').href = kept.href;
  document.getElementById('kept-away').addEventListener('click', () => {
    dropTape(kept.key);
    place.hidden = true;
  });
  place.hidden = false;
}
