// The drawn signature: lines in a box of 600 by 200, sent as path data.
import SignaturePad from '/lib/signature_pad.min.js';
import { inkOf } from './ink.js';

const form = document.querySelector('[data-sign]');
if (form) {
  const canvas = form.querySelector('canvas');
  const pad = new SignaturePad(canvas, { minWidth: 1.5, maxWidth: 3, penColor: '#1b211f' });
  const problem = form.querySelector('[data-problem]');
  // The canvas keeps its 600 by 200 points however wide it is shown; the pad works in shown points.
  const size = () => {
    const kept = pad.toData();
    const box = canvas.getBoundingClientRect();
    canvas.width = box.width;
    canvas.height = box.height;
    pad.fromData(kept);
  };
  size();
  addEventListener('resize', size);
  form.querySelector('[data-clear]').addEventListener('click', () => pad.clear());
  form.addEventListener('submit', event => {
    const ink = inkOf(pad, canvas);
    form.elements.ink.value = ink;
    if (ink || form.elements.typed.checked) return;
    event.preventDefault();
    problem.textContent = 'Draw your signature in the box, or tick that your typed name is your signature.';
    problem.hidden = false;
  });
}
