// The form that sets a rig: what fits together, and the scenario it stands for.
const springsOf = { RP: ['cv1', 'cv2', 'rv'], DC: ['cv1', 'cv2'], PVB: ['cv1', 'ai'], SVB: ['cv1', 'ai'] };
const cocksOf = { RP: ['tc2', 'tc3', 'tc4'], DC: ['tc2', 'tc3', 'tc4'], PVB: ['tc1', 'tc2'], SVB: ['tc1'] };
const hows = { leaks: 'leaks', 'stuck-closed': 'does not open', hangs: 'opens only partly', blocked: 'is blocked' };

function faultsOf(type, body) {
  const list = [];
  const parts = ['so1', 'so2', ...springsOf[type].filter(s => s.startsWith('cv'))];
  for (const part of parts) list.push([part, 'leaks']);
  if (type === 'RP') list.push(['rv', 'leaks'], ['rv', 'stuck-closed']);
  if (type === 'PVB' || type === 'SVB') list.push(['ai', 'stuck-closed'], ['ai', 'hangs']);
  for (const cock of body === 'three-tap' ? ['t1', 't2', 't3'] : cocksOf[type]) list.push([cock, 'blocked']);
  const named = list.map(([part, fault]) => [`${part} ${fault}`, `${part.toUpperCase()} ${hows[fault]}`]);
  return [['', 'nothing'], ...named, ['kit hoses-swapped', 'hoses swapped'], ['kit air-in-hoses', 'air left in the hoses'],
    ['kit zero-offset 0.4', 'needle 0.4 off zero'], ['kit gauge-height -12', 'gauge a foot low'], ['kit gauge-height 3', 'gauge 3 in high']];
}

const school = form => form.procedure.selectedOptions[0];

export function suit(form) {
  const { type, kits, body } = school(form).dataset;
  for (const option of form.kit.options) option.disabled = !kits.split(' ').includes(option.value);
  if (form.kit.selectedOptions[0].disabled) form.kit.value = kits.split(' ')[0];
  for (const field of form.querySelectorAll('[data-spring]')) field.hidden = !springsOf[type].includes(field.dataset.spring);
  for (const select of form.querySelectorAll('[data-fault]')) {
    const kept = select.value;
    select.replaceChildren(...faultsOf(type, body).map(([value, text]) => new Option(text, value, false, value === kept)));
  }
}

export function scenario(form) {
  const { type } = school(form).dataset;
  const springs = {};
  for (const name of springsOf[type]) if (form.elements[name].value !== '') springs[name] = Number(form.elements[name].value);
  const faults = [1, 2].map(i => [form.elements[`fault-${i}`].value, form.elements[`size-${i}`].value]).filter(([fault]) => fault).map(([fault, size]) => {
    const [part, what, by_] = fault.split(' ');
    return { part, fault: what, ...(what === 'leaks' ? { size } : what === 'zero-offset' ? { by: Number(by_) } : what === 'gauge-height' ? { inches: Number(by_) } : {}) };
  });
  const site = { none: { demand: 'none' }, open: { demand: 'open' }, low: { demand: 'open', outlet: { value: -6, unit: 'ft' } } }[form.site.value]
    ?? { 'back-pressure': { value: Number(form.site.value), unit: 'psi' } };
  return JSON.stringify({ format: 'mordel.scenario/1', assembly: { type, springs }, supply: { value: Number(form.supply.value || 0), unit: 'psi' }, site, faults, procedure: form.procedure.value, kit: form.kit.value });
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
