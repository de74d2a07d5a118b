/** When nothing else is to be done. */
export const idle = () => new Promise(done => (window.requestIdleCallback ?? setTimeout)(done));
