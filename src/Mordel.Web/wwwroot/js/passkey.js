// Asks the browser for a passkey, or makes one, and sends the answer with the form that wanted it.
const forms = document.querySelectorAll('form[data-passkey]');
const { PublicKeyCredential: keys } = globalThis;

const ask = async form => {
  const token = form.querySelector('[name=__RequestVerificationToken]').value;
  const options = await fetch(form.dataset.passkey, { method: 'POST', headers: { 'X-Mordel-Token': token } });
  if (!options.ok) throw new Error('The page has grown stale. Load it again.');
  const publicKey = await options.json();
  const answer =
    'user' in publicKey
      ? await navigator.credentials.create({ publicKey: keys.parseCreationOptionsFromJSON(publicKey) })
      : await navigator.credentials.get({ publicKey: keys.parseRequestOptionsFromJSON(publicKey) });
  form.elements.answer.value = JSON.stringify(answer);
};

for (const form of forms) {
  if (!keys?.parseRequestOptionsFromJSON) continue;
  form.hidden = false;
  form.addEventListener('submit', async event => {
    if (form.elements.answer.value) return;
    event.preventDefault();
    const says = form.querySelector('.passkey-says');
    says.textContent = '';
    try {
      await ask(form);
      form.requestSubmit();
    } catch (e) {
      says.textContent =
        e.name === 'NotAllowedError'
          ? 'No passkey was given.'
          : e.name === 'InvalidStateError'
            ? 'This device has one already.'
            : e.name === 'SecurityError'
              ? 'Passkeys belong to a name, not to a number: open this page under its name, here http://localhost.'
              : e.message;
    }
  });
}
