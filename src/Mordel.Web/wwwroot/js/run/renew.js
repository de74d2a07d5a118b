// Puts a view in the place of the one that is shown, value by value: what is the same stays, and nothing on the screen
// that hangs on it is looked at again. What can be done, and the step at hand, are never changed under who holds them:
// they are the same, or others.
import Alpine from '/lib/alpine.esm.min.js';

const isMap = value => value !== null && typeof value === 'object' && !Array.isArray(value);
const idOf = row => row?.key ?? row?.id ?? row?.entryId;

/** Whether two values read from JSON say the same. */
export function same(a, b) {
  if (a === b) return true;
  if (a === null || b === null || typeof a !== 'object' || typeof b !== 'object') return false;
  const names = Object.keys(a);
  return (
    Array.isArray(a) === Array.isArray(b) &&
    names.length === Object.keys(b).length &&
    names.every(name => name in b && same(a[name], b[name]))
  );
}

const isAction = value => 'entries' in value || 'dialog' in value;

// Whether the one may become the other in its place: maps of things, and lists with the same rows.
const goesOver = (a, b) =>
  Array.isArray(a) && Array.isArray(b)
    ? a.length === b.length && a.every((row, i) => isMap(row) && idOf(row) !== undefined && idOf(row) === idOf(b[i]))
    : isMap(a) && isMap(b) && !isAction(a) && !isAction(b);

/**
 * Makes what is shown into what is to be shown.
 * @param shown What stands there, as Alpine has it.
 * @param next What it is to be.
 * @param whole Names of what is never changed within.
 */
export function renew(shown, next, whole = ['now']) {
  const before = Alpine.raw(shown);
  for (const name of Object.keys(before)) if (!(name in next)) delete shown[name];
  for (const [name, value] of Object.entries(next)) {
    if (same(before[name], value)) continue;
    if (!whole.includes(name) && goesOver(before[name], value)) renew(shown[name], value, []);
    else shown[name] = value;
  }
}
