// A drawn signature as path data in a box of 600 by 200.
const WIDE = 600,
  TALL = 200;
const within = (most, value) => Math.round(Math.min(most, Math.max(0, value)));

/** The lines of a pad; empty where nothing was drawn that could be a signature. */
export function inkOf(pad, canvas) {
  const scale = WIDE / canvas.width;
  const ink = pad
    .toData()
    .map(stroke =>
      stroke.points
        .map((p, i) => `${i ? 'L' : 'M'}${within(WIDE, p.x * scale)} ${within(TALL, p.y * scale)}`)
        .join(' '),
    )
    .join(' ');
  return (ink.match(/L/g) ?? []).length >= 2 ? ink : '';
}
