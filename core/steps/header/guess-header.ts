import type { Table } from '../../table/table.ts';
import { cellText } from '../../values/cell-text.ts';

/** Rows that are looked at. */
const LOOKED_AT = 80;

export interface HeaderGuess {
  /** First row of the header. */
  row: number;
  tiers: number;
}

interface Row {
  cells: (string | null)[];
  filled: number;
  figures: number;
}

/**
 * Where the header stands: the row without figures right above the first row of data, and the row above that where it
 * spans some of its columns. Row classes of research on spreadsheet layout, simplified.
 */
export function guessHeader(table: Table): HeaderGuess {
  const columns = table.fields.filter((field) => field.standing !== 'beside').map((field) => field.column);
  const rows: Row[] = Array.from({ length: Math.min(LOOKED_AT, table.rows) }, (_, r) => {
    const cells = columns.map((column) => cellText(column, r));
    const texts = cells.filter((cell): cell is string => cell !== null && cell.trim() !== '');
    return { cells, filled: texts.length, figures: texts.filter(isFigure).length };
  });
  const usual = usualWidth(rows);
  const guess = aboveData(rows, usual);
  const again = repeatedHeader(rows, usual);
  if (again === undefined || again.has(keyOf(rows[guess.row + guess.tiers - 1]!))) return guess;
  return { row: rows.findIndex((row) => again.has(keyOf(row))), tiers: 1 };
}

function aboveData(rows: readonly Row[], usual: number): HeaderGuess {
  const first = rows.findIndex((row) => row.figures > 0 && row.filled >= usual * 0.5);
  const end = first < 0 ? rows.length : first;
  for (let r = end - 1; r >= 0; r--) {
    const row = rows[r]!;
    if (row.filled === 0) continue;
    if (row.filled < Math.max(1, usual * 0.5) || row.figures > 0) continue;
    // Where nothing is a figure, the header is the first row that is as wide as the others.
    const at = first < 0 ? rows.findIndex((one) => one.filled >= usual * 0.8) : r;
    const above = rows[at - 1];
    const spans =
      above !== undefined &&
      above.filled >= 2 &&
      above.figures === 0 &&
      (above.filled < rows[at]!.filled || repeats(above));
    return spans ? { row: at - 1, tiers: 2 } : { row: Math.max(0, at), tiers: 1 };
  }
  return { row: 0, tiers: 1 };
}

function keyOf(row: Row): string {
  return JSON.stringify(row.cells);
}

/** Rows that stand again word for word right above data, as page heads of a print-out do; undefined when there are none. */
function repeatedHeader(rows: readonly Row[], usual: number): ReadonlySet<string> | undefined {
  const counts = new Map<string, number>();
  rows.forEach((row, r) => {
    const next = rows[r + 1];
    if (row.figures > 0 || row.filled < Math.max(2, usual * 0.5)) return;
    if (next === undefined || next.figures === 0 || next.filled < usual * 0.5) return;
    counts.set(keyOf(row), (counts.get(keyOf(row)) ?? 0) + 1);
  });
  const again = [...counts].filter(([, count]) => count > 1).map(([key]) => key);
  return again.length === 0 ? undefined : new Set(again);
}

/** A text that stands twice side by side spans both columns. */
function repeats(row: Row): boolean {
  return row.cells.some((cell, k) => cell !== null && cell === row.cells[k + 1]);
}

function usualWidth(rows: readonly Row[]): number {
  const widths = rows.filter((row) => row.filled > 0).map((row) => row.filled);
  widths.sort((a, b) => a - b);
  return widths[Math.floor(widths.length / 2)] ?? 0;
}

/** A number, date or time as data holds them; a year or a quarter may be a name. */
function isFigure(text: string): boolean {
  const plain = text.trim();
  if (/^(?:19|20)\d\d$|^Q[1-4]\b/.test(plain)) return false;
  return /^[\s$€£(+-]*\d[\d\s.,:'/%T)-]*(?:[A-Za-z%€]{0,3})[)-]?$/.test(plain) || /^\d{1,2}[ -][A-Za-z]{3}/.test(plain);
}
