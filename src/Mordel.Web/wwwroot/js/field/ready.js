// On Today: what of the round is on this device, how old and how large; one press fetches it anew.
import { aboard, ageText, employ, lacking, sizeText, take } from './aboard.js';
import { sender } from './sender.js';
import { about, listen, waiting } from './store.js';

const box = document.getElementById('aboard');
const part = name => box.querySelector(`[data-${name}]`);

function say(why) {
  part('why').textContent = why;
  part('why').hidden = !why;
}

async function show() {
  const whose = await about('owner');
  const round = !whose || whose.id === box.dataset.me ? await aboard() : null,
    many = (await waiting()).length;
  const waits = many ? ` ${many === 1 ? 'One entry waits' : `${many} entries wait`} on this device to be sent.` : '';
  const stops = round?.stops === 1 ? 'one stop' : `${round?.stops} stops`;
  part('state').textContent =
    (round
      ? `On board: ${stops}, ${sizeText(round.bytes)}, fetched ${ageText(round.madeAt)}.`
      : 'Nothing is on board yet. Taken along, the whole day works in a pit as it does here.') + waits;
  part('take').textContent = round ? 'Fetch it anew' : 'Take the round along';
  part('leave').hidden = !round;
}

if (box) {
  box.hidden = false;
  const lacks = lacking();
  say(lacks);
  part('take').hidden = !!lacks;
  part('take').addEventListener('click', async event => {
    event.target.disabled = true;
    say('');
    const why = await take((at, of) => (part('state').textContent = `The round is fetched: ${at} of ${of} pieces.`));
    event.target.disabled = false;
    await show();
    say(why);
  });
  await show();
  listen(show);
  addEventListener('online', () => sender.send());
  if (!lacks && (await aboard())) await employ();
  sender.addEventListener('state', show);
  if ((await waiting()).length) await sender.send();
}
