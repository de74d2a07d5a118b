// The form that sets a rig: what fits together, and the scenario it stands for. What a body can have comes from the
// core.
const rigs = JSON.parse(document.getElementById('rigs')?.textContent ?? '{}');
const rigOf = form => rigs[school(form).dataset.body];

const school = form => form.procedure.selectedOptions[0];

export function suit(form) {
  const { kits } = school(form).dataset,
    { springs, faults } = rigOf(form);
  for (const option of form.kit.options) option.disabled = !kits.split(' ').includes(option.value);
  if (form.kit.selectedOptions[0].disabled) form.kit.value = kits.split(' ')[0];
  for (const field of form.querySelectorAll('[data-spring]')) field.hidden = !springs.includes(field.dataset.spring);
  for (const select of form.querySelectorAll('[data-fault]')) {
    const kept = select.value;
    select.replaceChildren(
      new Option('nothing', ''),
      ...faults.map(({ value, words }) => new Option(words, value, false, value === kept)),
    );
  }
}

export function scenario(form) {
  const { type } = school(form).dataset,
    known = rigOf(form),
    springs = {};
  for (const name of known.springs)
    if (form.elements[name].value !== '') springs[name] = Number(form.elements[name].value);
  const faults = [1, 2].flatMap(i =>
    known.faults
      .filter(fault => fault.value === form.elements[`fault-${i}`].value)
      .map(({ fault, sized }) => (sized ? { ...fault, size: form.elements[`size-${i}`].value } : fault)),
  );
  const site = {
    none: { demand: 'none' },
    open: { demand: 'open' },
    low: { demand: 'open', outlet: { value: -6, unit: 'ft' } },
  }[form.site.value] ?? { 'back-pressure': { value: Number(form.site.value), unit: 'psi' } };
  return JSON.stringify({
    format: 'mordel.scenario/1',
    assembly: { type, springs },
    supply: { value: Number(form.supply.value || 0), unit: 'psi' },
    site,
    faults,
    procedure: form.procedure.value,
    kit: form.kit.value,
  });
}

/** A link brings back what was set. */
export function recall(form, search = location.search) {
  const asked = new URLSearchParams(search);
  form.procedure.value = asked.get('procedure') ?? 'dc-sight-tube';
  if (form.procedure.selectedIndex < 0) form.procedure.selectedIndex = 0;
  suit(form);
  for (const [name, value] of asked) if (form.elements[name] && name !== 'procedure') form.elements[name].value = value;
  form.procedure.addEventListener('change', () => suit(form));
  return asked;
}
