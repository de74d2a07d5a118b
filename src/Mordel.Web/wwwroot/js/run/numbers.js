// The whole school on one page, for who knows the sequence: rows with their number or their sights.
import { typedNumber } from './fill.js';

export const numbers = {
  rowClass: row => `row-${row.state} ${row.result ?? ''}`,
  rowLimit: row => (row.capture ? `${row.capture.limit ?? 'written down'}` : ''),
  rowUnit: row => row.capture?.unit ?? '',
  rowNumber: row => row.state === 'now' && !!row.capture,
  rowValue: row => (row.value ? `${row.value}${row.margin ? ` (${row.margin})` : ''}` : ''),
  rowInput: row => `row-${row.key}`,
  rowSights(row, good) {
    const sights = this.can.rowSights?.[row.key] ?? [];
    return row.sights.some(sight => sight.good) ? (good ? sights.slice(0, 1) : sights.slice(1)) : good ? [] : sights;
  },
  rowMeans: (row, action) => row.sights.find(sight => sight.seen === action.text)?.means ?? '',
  rowHasOthers(row) {
    return this.rowSights(row, false).length > 0;
  },
  rowWatch(row) {
    return row.state === 'now' && row.key === this.view.now?.key && !!this.hold;
  },
  takeRow(row) {
    const text = typedNumber(this.can.slate?.pattern, document.getElementById(`row-${row.key}`)?.value);
    if (!text) {
      this.problem = `${row.title}: type a number, such as 1.8.`;
      return;
    }
    this.problem = '';
    if (this.rowWatch(row) && this.holdWanted) {
      this.needle = text;
      this.watch();
      return;
    }
    this.act(this.can.rows[row.key], { value: text });
  },
};
