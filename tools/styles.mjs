// Of a library of styles, what this application uses: its rules for elements, and those for the classes that are named.
// Everything else would be read by a phone for nothing.

/** The rules of a minified file: [selector or at-rule, body] each, nested rules inside the body. */
function* blocks(css) {
  for (let at = 0; at < css.length;) {
    const open = css.indexOf('{', at);
    if (open < 0) return;
    let [depth, close] = [1, open + 1];
    for (; depth > 0; close++) depth += css[close] === '{' ? 1 : css[close] === '}' ? -1 : 0;
    yield [css.slice(at, open), css.slice(open + 1, close - 1)];
    at = close;
  }
}

/** The classes that a selector names. */
export const classesOf = selector => [...selector.matchAll(/\.(-?[a-z_][\w-]*)/gi)].map(m => m[1]);

/** All classes of a file of styles. */
export const allClasses = css =>
  new Set(
    [...blocks(bare(css))].flatMap(([head, body]) =>
      head.startsWith('@media') ? [...allClasses(body)] : head.startsWith('@') ? [] : classesOf(head),
    ),
  );

/** The rules whose classes are all among these; of a theme that nobody asks for, none. */
export function only(css, classes) {
  const kept = filtered(bare(css), new Set(classes));
  // Of the variables, those that a rule asks for, and those that they ask for.
  const wanted = new Set();
  const ask = text => {
    for (const [, name] of text.matchAll(/var\((--[\w-]+)/g))
      if (!wanted.has(name)) {
        wanted.add(name);
        ask(kept.match(new RegExp(`${name}:([^;}]*)`))?.[1] ?? '');
      }
  };
  ask(kept.replace(/--[\w-]+:[^;}]*/g, ''));
  return kept.replace(/(--[\w-]+):[^;}]*;?/g, (all, name) => (wanted.has(name) ? all : '')).replace(/[^{}]+\{\}/g, '');
}

const bare = css => css.replace(/^@charset[^;]*;/, '').replace(/\/\*[^]*?\*\//g, '');

function filtered(css, classes) {
  let kept = '';
  for (const [head, body] of blocks(css)) {
    if (head.startsWith('@media')) {
      const inner = filtered(body, classes);
      if (inner) kept += `${head}{${inner}}`;
    } else if (!head.startsWith('@')) {
      const selectors = head
        .split(/,(?![^(]*\))/)
        .filter(s => !/data-bs-theme=dark/.test(s) && classesOf(s).every(c => classes.has(c)));
      if (selectors.length) kept += `${selectors.join(',')}{${body}}`;
    }
  }
  return kept;
}
