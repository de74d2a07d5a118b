// Parts with their getters, put together into one component.
export const together = parts =>
  Object.defineProperties({}, Object.assign({}, ...parts.map(part => Object.getOwnPropertyDescriptors(part))));
