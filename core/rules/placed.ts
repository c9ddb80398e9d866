/** Where rows stand: beside others, or counted. Each run of equal values of a column is looked at on its own. */

import { isDrawnLine } from '../glance/table-profile.ts';
import { missingColumn } from '../kinds/step.ts';
import { unseenMask } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { cellText, textView } from '../values/cell-text.ts';

interface Within {
  within?: string | undefined;
}

/** Start of each run of equal values, and the number of rows at the end; one run of all rows without a column. */
export function runStarts(table: Table, within: string | undefined): number[] {
  if (within === undefined || within === '') return [0, table.rows];
  const index = table.fields.findIndex((field) => field.name === within);
  if (index < 0)
    throw missingColumn(
      within,
      table.fields.map((field) => field.name),
    );
  const { codes, texts } = textView(table.fields[index]!.column);
  const starts = [0];
  for (let r = 1; r < table.rows; r++) {
    if (codes[r] !== codes[r - 1] && texts[codes[r]!] !== texts[codes[r - 1]!]) starts.push(r);
  }
  starts.push(table.rows);
  return starts;
}

/** Rows above the first, or below the last, of those that the anchor marks, in each run. */
export function positionMask(
  table: Table,
  rule: Within & { test: 'above-first' | 'below-last' },
  anchor: Uint8Array,
): Uint8Array {
  const mask = new Uint8Array(table.rows);
  const starts = runStarts(table, rule.within);
  for (let k = 0; k + 1 < starts.length; k++) {
    const [from, to] = [starts[k]!, starts[k + 1]!];
    if (rule.test === 'above-first') {
      const first = anchor.indexOf(1, from);
      if (first >= 0 && first < to) mask.fill(1, from, first);
    } else {
      const last = to === 0 ? -1 : anchor.lastIndexOf(1, to - 1);
      if (last >= from) mask.fill(1, last + 1, to);
    }
  }
  return mask;
}

/** The nearest row above each marked one that holds more than blanks and drawn lines and is not marked itself, in the same run. */
export function rightAboveMask(table: Table, rule: Within, anchor: Uint8Array): Uint8Array {
  const mask = new Uint8Array(table.rows);
  const filled = new Uint8Array(table.rows);
  for (const field of table.fields) {
    if (field.nameOrigin === 'beside') continue;
    const unseen = unseenMask(field.column);
    for (let r = 0; r < filled.length; r++) if (unseen[r] === 0) filled[r] = 1;
  }
  const starts = runStarts(table, rule.within);
  for (let k = 0; k + 1 < starts.length; k++) {
    for (let r = starts[k]!; r < starts[k + 1]!; r++) {
      if (anchor[r] !== 1) continue;
      let above = r - 1;
      while (above >= starts[k]! && (filled[above] === 0 || isDrawn(table, above))) above--;
      if (above >= starts[k]! && anchor[above] !== 1) mask[above] = 1;
    }
  }
  return mask;
}

function isDrawn(table: Table, row: number): boolean {
  return table.fields.every(({ nameOrigin, column }) => {
    const text = nameOrigin === 'beside' ? null : cellText(column, row);
    return text === null || text.trim() === '' || isDrawnLine(text.trim());
  });
}

/** From each row that opens down to the next that closes, both included. */
export function stretchMask(table: Table, rule: Within, opens: Uint8Array, closes: Uint8Array): Uint8Array {
  const mask = new Uint8Array(table.rows);
  const starts = runStarts(table, rule.within);
  for (let k = 0; k + 1 < starts.length; k++) {
    let from = -1;
    for (let r = starts[k]!; r < starts[k + 1]!; r++) {
      if (from < 0 && opens[r] === 1) from = r;
      else if (from >= 0 && closes[r] === 1) {
        mask.fill(1, from, r + 1);
        from = -1;
      }
    }
  }
  return mask;
}

/** Rows by where they stand in each run. */
export function placeMask(
  table: Table,
  rule: Within & { which: 'first' | 'last' | 'range' | 'every'; from: number; count: number },
): Uint8Array {
  const mask = new Uint8Array(table.rows);
  const starts = runStarts(table, rule.within);
  for (let k = 0; k + 1 < starts.length; k++) {
    const [from, to] = [starts[k]!, starts[k + 1]!];
    if (rule.which === 'first') mask.fill(1, from, Math.min(to, from + rule.count));
    else if (rule.which === 'last') mask.fill(1, Math.max(from, to - rule.count), to);
    else if (rule.which === 'range') mask.fill(1, Math.min(to, from + rule.from - 1), Math.min(to, from + rule.count));
    else for (let r = from + rule.from - 1; r < to; r += rule.count) mask[r] = 1;
  }
  return mask;
}
