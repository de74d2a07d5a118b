// The watch over a needle that must stand still: its time, and what can be done with it.
import { typedNumber } from './fill.js';
import { cue } from './settings.js';

export const watch = {
  clock: Date.now(),
  cued: '',
  needle: '',

  get hold() {
    return this.view.now?.hold ?? null;
  },
  get hasHold() {
    return !!this.hold && !this.readonly && !this.expert;
  },
  get holdWanted() {
    return !!this.hold && !this.hold.ended && !this.readonly;
  },
  get holdOnSlate() {
    return this.holdWanted && this.captureHere;
  },
  get holdHere() {
    return this.hasHold && !this.captureHere;
  },
  get holdRuns() {
    return !!this.hold?.startedAt && !this.hold.ended;
  },
  get holdLeft() {
    if (!this.holdRuns) return this.hold?.seconds ?? 0;
    const left = Math.ceil(this.hold.seconds - (this.clock - Date.parse(this.hold.startedAt)) / 1000);
    return Math.min(this.hold.seconds, Math.max(0, left));
  },
  get holdClass() {
    return this.holdRuns && this.holdLeft === 0 ? 'is-over' : '';
  },
  get holdText() {
    return `${Math.floor(this.holdLeft / 60)}:${String(this.holdLeft % 60).padStart(2, '0')}`;
  },
  get holdLead() {
    if (!this.hold) return '';
    if (this.hold.ended) return this.hold.outcome;
    if (this.holdRuns)
      return [this.hold.start && `From ${this.hold.start}`, ...this.hold.watched].filter(Boolean).join(', ');
    const time = `${this.hold.seconds} s`;
    return `The needle is watched for ${time} before it counts as still. Type where it stands, if it can be read.`;
  },
  get holdButton() {
    if (this.hold?.ended) return 'Watch again';
    if (!this.holdRuns) return 'Start the watch';
    return this.holdLeft > 0 ? 'End it early…' : 'End the watch';
  },
  get needleTyped() {
    return typedNumber(this.can.watch?.pattern, this.needle);
  },
  get cannotLook() {
    return !this.needleTyped;
  },
  watch() {
    const { start, end, cutShort } = this.can.watch;
    const typed = { needle: this.needleTyped };
    if (!this.holdRuns) this.act(start, typed);
    else if (this.holdLeft > 0) this.open(cutShort, typed);
    else this.act(end, typed);
    this.clock = Date.now();
  },
  look() {
    if (this.needleTyped) this.act(this.can.watch.note, { needle: this.needleTyped });
  },
  beat() {
    if (!this.holdRuns) return;
    this.clock = Date.now();
    if (this.holdLeft === 0 && this.cued !== this.hold.startedAt) {
      this.cued = this.hold.startedAt;
      cue(this.sound, this.buzz);
    }
  },
};
