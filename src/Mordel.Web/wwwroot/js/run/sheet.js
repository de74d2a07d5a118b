// The run sheet beside the step, and what was taken so far: how each line reads.
const marks = { done: '✓', 'passed-over': '·', seen: '!', now: '▸', ahead: ' ' };
const states = { done: ' (done)', 'passed-over': ' (passed over)', seen: ' (something was seen)', now: ' (now)' };

export const sheet = {
  sheetOpen: true,
  // Lines that nobody sees are not made, nor looked at again for each tap.
  get sheetStages() {
    return this.sheetOpen ? this.view.stages : [];
  },
  openSheet() {
    this.sheetOpen = this.$refs.sheet.open;
  },
  lineMark: line => marks[line.state],
  lineState: line => states[line.state] ?? '',
  lineClass: line => (line.state === 'now' ? 'is-now' : line.state),
  stageClass: stage => `stage-${stage.state}`,
  stripClass: stage => [stage.state === 'now' ? 'here' : stage.state, stage.isTest ? 'test' : ''].join(' '),
  again(line) {
    return (!this.readonly && this.can.again?.[line.stepId]) || null;
  },
  canGoBack(line, stage) {
    return stage.isTest && ['done', 'passed-over', 'seen'].includes(line.state) && !!this.again(line);
  },
  goBack(line) {
    this.act(this.again(line));
  },
  backLabel: line => `Repeat from: ${line.title}`,
  readingClass: reading => [reading.result ?? '', reading.counts ? '' : 'off'].join(' '),
  readingValue: reading => `${reading.value} ${reading.unit}`,
  readingNote: reading =>
    [
      reading.margin && `(${reading.margin})`,
      reading.first && `first ${reading.first}: ${reading.reason}`,
      reading.counts ? '' : 'does not count',
    ]
      .filter(Boolean)
      .join(' '),
  canCorrect(reading) {
    return !this.readonly && !!this.can.correct?.[reading.entryId];
  },
  correct(reading) {
    this.act(this.can.correct[reading.entryId]);
  },
  correctLabel: reading => `Correct ${reading.name}`,
  lineSay: line => line.say.join(' '),
  askAnswer: line => line.ask?.answer ?? '',
  likely(line) {
    return this.can.likely?.[line.key] ?? null;
  },
  likelyText(line) {
    return this.likely(line)?.text ?? '';
  },
  otherwise(line) {
    return this.can.otherwise?.[line.key] ?? null;
  },
  otherwiseText(line) {
    return this.otherwise(line)?.text ?? 'Not so…';
  },
  get progressText() {
    return `${this.view.progress}%`;
  },
  get hasEarlier() {
    return this.view.earlier.length > 0;
  },
  get hasHeightNotes() {
    return this.view.heightNotes.length > 0;
  },
  get hasReadings() {
    return this.view.readings.length > 0;
  },
  get hasFindings() {
    return this.view.findings.length > 0;
  },
  get hasAside() {
    return this.view.setAside.length > 0;
  },
  get hasUnreadable() {
    return (this.view.unreadable ?? []).length > 0;
  },
};
