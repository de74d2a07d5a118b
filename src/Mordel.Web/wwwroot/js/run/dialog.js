// The one dialog of the run screen. What it asks and which entries it makes come with the action that opens it.
import { draft, fits, number } from './fill.js';

const closed = { title: '', lead: '', button: '', fields: [], drained: null, problem: '' };

export const dialog = {
  ask: { ...closed },
  asked: null,
  begun: {},

  open(action, begun = {}) {
    if (this.readonly || !action) return;
    this.asked = action;
    this.begun = begun;
    this.ask = { ...action.dialog, problem: '', fields: action.dialog.fields.map(field => ({ ...field })) };
    this.$refs.ask.showModal();
  },
  closeAsk() {
    this.$refs.ask.close();
  },
  useChip(field, chip) {
    field.value = chip;
  },
  drained() {
    for (const field of this.ask.fields) field.value = field.whenDrained ?? field.value;
  },
  async answer() {
    const typed = { ...this.begun };
    for (const field of this.ask.fields) {
      const text = field.kind === 'number' ? number(field.value) : String(field.value).trim();
      if (field.pattern ? !fits(field.pattern, text) : field.missing && !text) {
        this.ask.problem = field.missing;
        return;
      }
      typed[field.name] = text;
    }
    this.closeAsk();
    await this.enter(draft(this.asked, typed));
  },
  isWords: field => field.kind === 'words',
  isNumber: field => field.kind === 'number',
  isLine: field => field.kind === 'line',
  isTick: field => field.kind === 'tick',
  isChoice: field => field.kind === 'choice',
  isChosen: (field, option) => field.value === option.value,
  isValve: field => field.kind === 'valve',
  fieldId: field => (field.kind === 'words' ? 'ask-text' : field.kind === 'number' ? 'ask-value' : field.name),
  tick(field, event) {
    field.value = String(event.target.checked);
  },
};
