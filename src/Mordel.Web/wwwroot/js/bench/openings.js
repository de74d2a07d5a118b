// How far valves open, and how that and the gauge's height are said.
// Of a valve that opens evenly, and of one that is finest near its seat: names, and how far the hand turns.
export const even = [
    ['Close', 0],
    ['¼', 0.25],
    ['Half', 0.5],
    ['Open', 1],
  ],
  needle = [
    ['Close', 0],
    ['Crack', 0.25],
    ['A little', 0.38],
    ['Half', 0.79],
    ['Open', 1],
  ];

// Against the middle of the pipe, or beside a standing one against the cock in use: what one sees.
export const heightText = ({ height, plan }) => {
  const { stands } = plan.scale,
    inches = stands ? height - 1 : height,
    what = stands ? 'the cock' : 'the pipe';
  return Math.abs(inches) < 0.13
    ? `level with ${what}`
    : `${Math.abs(inches).toFixed(Number.isInteger(inches) ? 0 : 2)} in ${inches < 0 ? 'below' : 'above'} ${what}`;
};

export const openText = open =>
  open === 0 ? 'closed' : open > 0.995 ? 'open' : `${(100 * open).toFixed(open < 0.1 ? 1 : 0)} % open`;
