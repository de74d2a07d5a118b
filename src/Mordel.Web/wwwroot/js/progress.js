// Says how far something in the background is, and shows the page anew when it is done.
const place = document.querySelector('[data-progress]');
const EVERY = 700;

async function look() {
  try {
    const answer = await fetch(place.dataset.progress);
    if (answer.ok) {
      const now = await answer.json();
      if (now.state !== place.dataset.state) return location.reload();
      place.textContent = now.says;
    }
  } catch {
    // Without a signal it is asked again; the work goes on without us.
  }
  setTimeout(look, EVERY);
}

if (place) setTimeout(look, EVERY);
