// One bench: what hands do, and the row of numbers that the screen shows, read by name. Behind its door the water runs
// in this browser (beside.js) or at the server (away.js).

/** Where in the row stands what is told of each chamber, part and hose. */
export function placesOf({ head, chambers, parts }) {
  let at = head;
  return {
    cells: new Map(chambers.map(id => [id, (at += 2) - 2])),
    parts: new Map(parts.map(part => [part.id, (at += 3) - 3])),
    air: new Map(parts.filter(part => part.kind === 'Hose').map(part => [part.id, at++])),
  };
}

export class Desk {
  constructor(door) {
    this.door = door;
  }

  // What was said to the sheet, with its moment: it is no part of the recording and is kept beside it.
  words = [];

  layout() {
    const l = JSON.parse(this.door.Layout());
    Object.assign(this, placesOf(l));
    this.teeId = l.parts.find(part => part.kind === 'BleedOff').id;
    this.tubeId = l.parts.find(part => part.kind === 'SightTube').id;
    this.connections = new Map();
    this.deeds = -1;
    return (this.plan = l);
  }

  advance(ticks) {
    this.row = this.door.Advance(ticks);
    // Something was done, by a hand or by a recording: what is connected may be other.
    if (this.row[8] !== this.deeds) {
      this.deeds = this.row[8];
      this.connections = new Map(
        this.door
          .Connections()
          .split('\n')
          .filter(Boolean)
          .map(line => line.split(' ')),
      );
    }
    return this.row;
  }

  get tick() {
    return this.row[0];
  }
  get seconds() {
    return this.row[0] / this.plan.perSecond;
  }
  get needle() {
    return this.row[1];
  }
  get rate() {
    return this.row[2];
  }
  get tube() {
    return this.row[3];
  }
  get height() {
    return this.row[4];
  }
  get tapOpen() {
    return this.row[5] > 0;
  }
  get most() {
    return this.row[6];
  }
  get happened() {
    return this.row[7];
  }
  pressure(cell) {
    return this.row[this.cells.get(cell)];
  }
  filled(cell) {
    return this.row[this.cells.get(cell) + 1];
  }
  opening(part) {
    return this.row[this.parts.get(part)] ?? 0;
  }
  through(part) {
    return this.row[this.parts.get(part) + 1] ?? 0;
  }
  spills(part) {
    return this.row[this.parts.get(part) + 2] ?? 0;
  }
  airIn(hose) {
    return this.row[this.air.get(hose)];
  }
  part(id) {
    return this.plan.parts.find(part => part.id === id);
  }
  carries(outlet) {
    for (const [item, on] of this.connections) if (on === outlet) return item;
    return null;
  }

  turn(part, to, seconds = 0) {
    return this.door.Turn(part, Math.min(1, Math.max(0, to)), Math.round(seconds * this.plan.perSecond));
  }
  connect(item, to) {
    return this.door.Connect(item, to);
  }
  takeOff(item) {
    return this.connections.has(item) ? this.door.TakeOff(item) : '';
  }
  lift(inches) {
    return this.door.Lift(Math.min(this.plan.scale.high, Math.max(this.plan.scale.low, inches)));
  }
  tap(open) {
    return this.door.Tap(open);
  }
  async said(kind, value = '') {
    // A word that the sheet has not answered yet: a second was meant for the step that is behind.
    if (this.door.unheard) return '';
    const at = this.door.now ?? this.tick;
    const wrong = await (kind === 'take'
      ? this.door.Take(value)
      : kind === 'see'
        ? this.door.See(value)
        : this.door.Confirm());
    if (!wrong) this.words.push({ at, kind, value });
    return wrong ?? '';
  }
  async back(tick) {
    this.words = this.words.filter(word => word.at <= tick);
    await this.door.Back(tick);
    this.deeds = -1;
    return this.advance(0);
  }
  async seek(tick) {
    await this.door.Seek(tick);
    this.deeds = -1;
    return this.advance(0);
  }
  describe() {
    return this.door.Describe();
  }
  news(since) {
    return this.door.Happened(since).split('\n').filter(Boolean);
  }
  /** Everything done so far, as far as it is known at once. */
  recording() {
    return this.door.Recording();
  }
  /** How many deeds there are in that. */
  get recorded() {
    return this.door.recorded ?? this.deeds;
  }
  /** Everything done so far, to this moment. */
  async whole() {
    return this.door.whole ? this.door.whole() : this.recording();
  }
}

// A needle valve is finest near its seat: what the hand turns and what opens are not the same.
const fine = kind => ['Control', 'Bleed', 'BleedOff', 'Screw'].includes(kind);
export const turned = (kind, open) => (fine(kind) ? Math.cbrt(open) : open);
export const opened = (kind, turn) => (fine(kind) ? turn ** 3 : turn);
// Seconds that a hand takes from end to end.
export const takes = kind => (kind === 'Shutoff' ? 2 : kind === 'Screw' ? 3 : kind === 'Cock' ? 0.8 : 0.5);
