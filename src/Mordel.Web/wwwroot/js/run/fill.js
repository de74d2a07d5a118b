// Fills the slots of an entry's template with what was typed, as docs/formats/README.md describes. It knows no entry.
const raw = text => ({ raw: text.replace(/^(-?)0+(?=\d)/, '$1') });

const quantity = (slot, text, typed) => ({
  value: raw(text),
  unit: slot.unit,
  ...(slot.resolution ? { resolution: raw(slot.resolution) } : {}),
  ...(typed.speed ? { speed: raw(typed.speed) } : {}),
});

const word = text => (text === 'true' || text === 'false' ? text === 'true' : text);

/** The entry; null where it is left out, or something is missing. */
export function fill(template, typed) {
  const entry = {};
  for (const [name, value] of Object.entries(template)) {
    if (name === 'unless') {
      if (typed[value.slot] === value.is) return null;
    } else if (value?.slot) {
      const text = (typed[value.slot] ?? '').trim();
      if (!text && value.optional) continue;
      if (!text) return null;
      entry[name] = value.unit
        ? quantity(value, text, typed)
        : value.list
          ? text.split(' ')
          : value.whole
            ? Number(text)
            : word(text);
    } else entry[name] = value;
  }
  return entry;
}

/** The entries that an action makes with what was typed. */
export const draft = (action, typed = {}) =>
  action.entries.map(template => fill(template, typed)).filter(entry => entry !== null);

/** A number as people type it: a comma for the point, a point with nothing behind it. */
export const number = text => (text ?? '').trim().replace(',', '.').replace(/\.$/, '');

/** What was typed as a number that fits; empty where nothing usable was typed. */
export const typedNumber = (pattern, text) => {
  const plain = number(text);
  return plain && fits(pattern, plain) ? plain : '';
};

/** Whether a text can be what is asked for. */
export const fits = (pattern, text) => !pattern || new RegExp(pattern).test(text);
