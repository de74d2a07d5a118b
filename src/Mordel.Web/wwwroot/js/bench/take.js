// Where a learner writes down what the gauge shows, as the step asks for it.
import { button, by, make } from './make.js';

export const takeForm = (desk, capture, again) => {
  const field = make('input', {
    id: 'take',
    className: 'form-control num',
    inputMode: 'decimal',
    autocomplete: 'off',
    maxLength: 7,
    ariaLabel: capture.name,
    onkeydown: event => {
      if (event.key === 'Enter') take();
    },
  });
  const take = async () => {
    const wrong = await desk.said('take', field.value.trim() || 'x');
    by('problem').hidden = !wrong;
    by('problem').textContent = wrong;
    if (!wrong) again();
  };
  return make(
    'div',
    { className: 'take' },
    make('h3', { textContent: capture.name }),
    make('p', { className: 'soft', textContent: capture.limit ?? 'Written down.' }),
    make(
      'div',
      { className: 'take-row' },
      field,
      make('span', { className: 'unit', textContent: capture.unit }),
      button('Write it down', take, 'btn btn-primary'),
    ),
  );
};
