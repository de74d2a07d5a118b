// Alpine reads every property of the window, to forbid it to expressions. Newer browsers call one deprecated as soon as
// it is read; nothing here uses it, so it goes before Alpine comes.
delete globalThis.fence;
