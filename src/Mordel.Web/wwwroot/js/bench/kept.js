// On the bench's page: what was left unfinished on this device by whoever is signed in; and while somebody chooses a
// rig, what every rig needs is fetched.
import { fetchAhead } from '../core.js';
import { dropRecording, left } from './keep.js';
const moment = { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' };

const place = document.getElementById('kept'),
  kept = left();
if (kept && kept.key.endsWith(place.dataset.who)) {
  document.getElementById('kept-title').textContent = kept.title;
  document.getElementById('kept-when').textContent =
    `${kept.mode}, left at ${new Date(kept.at).toLocaleString('en-GB', moment)}`;
  document.getElementById('kept-go').href = `${kept.href}#kept`;
  document.getElementById('kept-away').addEventListener('click', () => {
    dropRecording(kept.key);
    place.hidden = true;
  });
  place.hidden = false;
}

// Behind all that the page itself shows.
const ahead = () => fetchAhead(place.dataset.ahead.split(' ').filter(Boolean));
if (document.readyState === 'complete') ahead();
else addEventListener('load', ahead, { once: true });
