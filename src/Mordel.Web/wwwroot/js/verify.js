// A report's file is checked here, by the core and the browser's own cryptography: it does not leave the machine. Where
// that cannot be had, the form sends it as it stands.
import { fileChecks } from './core.js';

const form = document.getElementById('by-file'),
  field = document.getElementById('file'),
  answer = document.getElementById('answer'),
  largest = 20_000_000,
  algorithm = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' };

const bytesOf = base64 => Uint8Array.from(atob(base64), c => c.charCodeAt(0));

async function publicKeys() {
  const found = await (await fetch(form.dataset.keys)).json();
  const keys = new Map();
  for (const { id, publicKey } of found.keys) {
    const der = bytesOf(publicKey.replace(/-----[^-]+-----|\s/g, ''));
    keys.set(id, await crypto.subtle.importKey('spki', der, algorithm, false, ['verify']));
  }
  return keys;
}

async function holds(keys, { key, text, signature }) {
  try {
    const bytes = bytesOf(signature);
    if (btoa(String.fromCharCode(...bytes)) !== signature) return false;
    return await crypto.subtle.verify(algorithm, keys.get(key), bytes, new TextEncoder().encode(text));
  } catch {
    return false;
  }
}

const make = (name, text, parent) => {
  const one = parent.appendChild(document.createElement(name));
  one.textContent = text;
  return one;
};

function show({ says, broken, code }) {
  answer.replaceChildren();
  make('strong', broken.length ? 'Do not rely on this file' : 'Genuine: the seal holds', answer);
  const list = make('span', '', answer);
  for (const line of [...broken, ...says]) make('span', line, list).className = 'line';
  if (!broken.length && code) make('a', 'Is it still the latest?', answer).href = `/verify/${code}`;
  answer.className = `file-answer answer ${broken.length ? 'answer-no' : 'answer-yes'}`;
  answer.scrollIntoView({ block: 'nearest' });
}

async function check(file) {
  if (file.size > largest) return show({ says: [], broken: ['This file is larger than any report.'] });
  answer.className = 'file-answer answer';
  answer.textContent = 'Checking …';
  const door = await fileChecks((loaded, total) => {
    answer.textContent = total ? `Checking … ${Math.round((100 * loaded) / total)} %` : 'Checking …';
  });
  if (!door) return form.submit();
  const [bytes, keys] = [new Uint8Array(await file.arrayBuffer()), await publicKeys()];
  const ids = [...keys.keys()].join(' '),
    { asks } = JSON.parse(await door.Asks(bytes, ids)),
    answers = await Promise.all(asks.map(one => holds(keys, one))),
    holding = asks.filter((_, n) => answers[n]);
  show(JSON.parse(await door.Check(bytes, ids, JSON.stringify(holding))));
}

const begin = file =>
  check(file).catch(error => {
    answer.textContent = `It could not be checked here: ${error.message}`;
    answer.className = 'file-answer answer answer-no';
  });

// Browsers give cryptography to secure pages alone.
if (globalThis.crypto?.subtle && typeof WebAssembly === 'object') {
  document.getElementById('where').textContent =
    'The file is checked in this browser and does not leave your machine. It can also be dropped here.';
  form.addEventListener('submit', event => {
    event.preventDefault();
    if (field.files[0]) begin(field.files[0]);
  });
  for (const kind of ['dragenter', 'dragover'])
    document.addEventListener(kind, event => {
      event.preventDefault();
      form.dataset.over = '';
    });
  for (const kind of ['dragleave', 'drop']) document.addEventListener(kind, () => delete form.dataset.over);
  document.addEventListener('drop', event => {
    event.preventDefault();
    if (event.dataTransfer?.files[0]) begin(event.dataTransfer.files[0]);
  });
}
form.dataset.ready = 'yes';
