// The keyboard: digits go to the slate, the other keys are those that the actions name.
const typing = 'textarea, select, [data-own-keys]';
const pressing = 'button, a, summary, [role=button]';

const elsewhere = event =>
  event.ctrlKey ||
  event.metaKey ||
  event.altKey ||
  document.querySelector('dialog[open]') ||
  event.target.closest(typing) ||
  (event.target.closest(pressing) && event.key === 'Enter');

export const keys = {
  key(event) {
    if (elsewhere(event) || this.pedalled(event)) return;
    if (event.target.id === 'digits') {
      if (!/^[a-z?]$/.test(event.key)) return;
      event.preventDefault();
    }
    if (/^[0-9.]$/.test(event.key) && this.hasCapture) {
      this.press(event.key);
      event.preventDefault();
    } else if (event.key === 'Backspace') this.press('⌫');
    else if (event.key === 'Enter') {
      if (this.digits && this.hasCapture) this.take();
      else if (this.can.confirm) this.act(this.can.confirm);
    } else if (event.key === ' ' && this.canCapture && !event.target.closest(pressing)) {
      this.captureNow();
      event.preventDefault();
    } else if (event.key === 'x') this.toggle('expert');
    else if (event.key === 'w' && this.hasHold) this.watch();
    else this.named(event);
  },
  named(event) {
    const action = [...(this.sightsHere ? this.can.sights : []), ...(this.can.tools ?? [])].find(
      a => a.key === event.key,
    );
    if (!action) return;
    this.act(action);
    event.preventDefault();
  },
};
