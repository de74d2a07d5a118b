// The one dialog of the run screen: corrections, notes, findings, positions, the serial. Each says which entries it makes.
const blank = {
  title: '',
  lead: '',
  button: 'Save',
  text: '',
  textLabel: 'In your words',
  valueLabel: 'Right value',
  value: '',
  serial: '',
  replaced: false,
  standing: [],
  chips: [],
  problem: '',
  showText: false,
  showValue: false,
  showStanding: false,
  showSerial: false,
  showChips: false,
  make: () => [],
};
export const nothing = () => ({ ...blank });

const words = ask => ask.text.trim();
const number = text => (/^-?\d{1,4}(\.\d{1,3})?$/.test(text.trim()) ? text.trim() : null);

export const note = step => ({
  ...blank,
  title: 'Note',
  lead: 'It is kept with the time and goes into the report.',
  showText: true,
  make: ask => (words(ask) ? [{ kind: 'note', step, text: words(ask) }] : 'Write a few words first.'),
});

export const stop = () => ({
  ...blank,
  title: 'Cannot be tested today',
  lead: 'This ends the test without a result. It is neither pass nor fail; a return visit follows.',
  button: 'End the test',
  textLabel: 'Why',
  showText: true,
  showChips: true,
  chips: ['No access', 'SO1 does not shut off', 'SO2 does not shut off', 'Water cannot be shut off now'],
  make: ask => (words(ask) ? [{ kind: 'stopped', reason: words(ask) }] : 'Say why; the authority will ask.'),
});

export const correct = (reading, unit) => ({
  ...blank,
  title: `Correct ${reading.name}`,
  lead: `Written: ${reading.value} ${reading.unit}. The first value stays beside the new one.`,
  textLabel: 'Why it is corrected',
  showValue: true,
  showText: true,
  showChips: true,
  chips: ['Typed wrongly', 'Misread the dial'],
  make: ask =>
    !number(ask.value)
      ? 'Type the right value as a number, such as 1.8.'
      : !words(ask)
        ? 'Say why; both values go into the report.'
        : [
            {
              kind: 'correction',
              of: reading.entryId,
              reading: { value: { raw: number(ask.value) }, unit },
              reason: words(ask),
            },
          ],
});

export const line = unit => ({
  ...blank,
  title: 'Line pressure',
  lead: `The static pressure of the main, in ${unit}, where the kit or a gauge at TC1 shows it. It is optional.`,
  valueLabel: `Pressure, ${unit}`,
  showValue: true,
  make: ask =>
    number(ask.value)
      ? [{ kind: 'line-pressure', pressure: { value: { raw: number(ask.value) }, unit } }]
      : 'Type the pressure as a number, such as 62.',
});

export const standing = (kind, valves) => ({
  ...blank,
  title: kind === 'as-found' ? 'How each valve stood' : 'How each valve is left',
  showStanding: true,
  lead:
    kind === 'as-found'
      ? 'SO1 is the inlet, SO2 the outlet. The end leaves each as it was found; a line found shut is charged first.'
      : 'SO1 is the inlet, SO2 the outlet. Write each down as you see it.',
  standing: valves.map(v => ({
    part: v.part,
    label: v.label,
    standing: v.stands,
    drained: v.whenDrained,
    matters: v.matters || v.stands !== 'closed',
  })),
  make: ask =>
    ask.standing
      .filter(v => v.matters || v.standing !== 'closed')
      .map(v => ({ kind, part: v.part, standing: v.standing })),
});

export const pause = () => ({
  ...blank,
  title: 'Stop for today',
  lead: 'Close up now and continue another time. What was read stays on the record; the test is then begun again.',
  button: 'Stop for today',
  textLabel: 'Why',
  showText: true,
  showChips: true,
  chips: ['Window is over', 'Occupant needs the water', 'Parts are missing'],
  make: ask => (words(ask) ? [{ kind: 'paused', reason: words(ask) }] : 'Say why.'),
});

export const mended = () => ({
  ...blank,
  title: 'Something was repaired',
  lead: 'The whole test begins again. What was read so far stays on the report as the set before the repair.',
  button: 'Begin again',
  textLabel: 'What was done, and by whom',
  showText: true,
  showChips: true,
  chips: [
    'CV1 cleaned',
    'CV1 spring and disc replaced',
    'CV2 cleaned',
    'Relief valve cleaned',
    'Air inlet cleaned',
    'SO2 replaced',
  ],
  make: ask => (words(ask) ? [{ kind: 'mended', text: words(ask) }] : 'Say what was done.'),
});

export const height = unit => ({
  ...blank,
  title: 'Gauge height',
  lead: 'How far was the gauge from the level it should be held at? Minus is low: low reads high. The readings stay as they are; the screen says what it would mean. Leave it empty if you do not know.',
  button: 'Save',
  valueLabel: `Distance, ${unit}`,
  showValue: true,
  make: ask =>
    !ask.value.trim()
      ? [{ kind: 'gauge-height' }]
      : number(ask.value)
        ? [{ kind: 'gauge-height', offset: { value: { raw: number(ask.value) }, unit } }]
        : 'Type the distance as a number, such as -3, or leave it empty.',
});

export const cutShort = (step, reading) => ({
  ...blank,
  title: 'Cut the watch short',
  lead: 'The profile wants the needle watched longer. You can end it now, with a reason.',
  button: 'End it now',
  textLabel: 'Why',
  showText: true,
  showChips: true,
  chips: ['The needle moves: it is not still', 'The window is over', 'Training'],
  make: ask =>
    words(ask) ? [{ kind: 'hold-ended', step, reason: words(ask), ...(reading ? { reading } : {}) }] : 'Say why.',
});

export const serial = () => ({
  ...blank,
  title: 'The serial differs',
  lead: 'Read it off the plate. A replacement is a new assembly, linked to the old one; otherwise the register is corrected.',
  showSerial: true,
  make: ask =>
    ask.serial.trim()
      ? [{ kind: 'serial', serial: ask.serial.trim(), replaced: ask.replaced }]
      : 'Type the serial that is on the plate.',
});

export const agreed = ask => ({
  ...blank,
  title:
    ask.kind === 'permission' ? 'Who allowed the water to be shut off' : 'Who was asked before the water comes back',
  lead: 'The name, or the office they hold. It stands on the report with the time.',
  textLabel: 'Name',
  showText: true,
  showChips: true,
  chips: [ask.who, 'Nobody is on site', 'The owner, by telephone'].filter(Boolean),
  make: made =>
    words(made) ? [{ kind: 'agreed', about: ask.kind, who: words(made).slice(0, 120) }] : 'Say who it was.',
});

// The dialog for a question of the sheet; null where there is none.
export const about = ask =>
  ({
    permission: () => agreed(ask),
    restoring: () => agreed(ask),
    identity: () => serial(),
    'as-found': () => standing('as-found', ask.valves),
    'as-left': () => standing('as-left', ask.valves),
  })[ask?.kind]?.() ?? null;

// The entries of the likely answer.
export const likely = ask =>
  ask.valves.length
    ? ask.valves
        .filter(v => v.matters || v.likely !== 'closed')
        .map(v => ({ kind: ask.kind, part: v.part, standing: v.likely }))
    : [{ kind: 'agreed', about: ask.kind, who: ask.who }];

export const finding = (title, part, chips) => ({
  ...blank,
  title,
  lead: 'What did you find? It goes into the findings and, if you leave it so, the remarks.',
  showText: true,
  showChips: true,
  chips,
  make: ask =>
    words(ask) ? [{ kind: 'finding', text: words(ask), ...(part ? { part } : {}) }] : 'Write a few words first.',
});
