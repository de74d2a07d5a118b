// Small makers of elements, and numbers as people write them.
export const by = id => document.getElementById(id);

export function make(name, attributes = {}, ...children) {
  const made = document.createElement(name);
  for (const [key, value] of Object.entries(attributes))
    if (value !== undefined && value !== null && value !== false)
      key in made && key !== 'list' ? (made[key] = value) : made.setAttribute(key, value);
  made.append(...children.filter(child => child !== null && child !== undefined));
  return made;
}

export function draw(name, attributes = {}, ...children) {
  const made = document.createElementNS('http://www.w3.org/2000/svg', name);
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, value);
  made.append(...children);
  return made;
}

export const button = (text, onclick, className = 'btn btn-quiet', more = {}) =>
  make('button', { type: 'button', className, textContent: text, onclick, ...more });

export const clock = seconds => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

// An attribute is written only when it has changed: what stands still costs nothing.
export function set(element, name, value) {
  const known = (element.known ??= {});
  if (known[name] === value) return;
  known[name] = value;
  element.setAttribute(name, value);
}
