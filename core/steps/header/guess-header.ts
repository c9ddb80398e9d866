import type { Table } from '../../table/table.ts';
import { cellText } from '../../values/cell-text.ts';

/** Rows that are looked at. */
const LOOKED_AT = 80;
const MAX_TIERS = 4;

export interface HeaderGuess {
  /** First row of the header. */
  row: number;
  tiers: number;
}

interface Row {
  /** Blank cells and those of rules are null. */
  cells: (string | null)[];
  filled: number;
  figures: number;
}

/**
 * Where the header stands: the first wide row of texts that stand over columns of figures, with the rows above that span
 * its columns and the rows below that divide them. Row classes of research on spreadsheet layout, simplified.
 */
export function guessHeader(table: Table): HeaderGuess {
  return guessOf(rowsOf(table));
}

export interface HeadGuess extends HeaderGuess {
  /** What the lowest row of the header says over each column, '' for nothing. */
  names: string[];
  /** Columns that hold figures. */
  figured: boolean[];
}

/** The header with what it says, for telling tables apart. */
export function guessHead(table: Table): HeadGuess {
  const rows = rowsOf(table);
  const guess = guessOf(rows);
  const names = (rows[guess.row + guess.tiers - 1]?.cells ?? []).map((cell) => cell ?? '');
  return { ...guess, names, figured: figureColumns(rows) };
}

function rowsOf(table: Table): Row[] {
  const columns = table.fields.filter((field) => field.nameOrigin !== 'beside').map((field) => field.column);
  return Array.from({ length: Math.min(LOOKED_AT, table.rows) }, (_, r) => {
    const cells = columns.map((column) => filledText(cellText(column, r)));
    const texts = cells.filter((cell): cell is string => cell !== null);
    if (isRule(texts)) return { cells: cells.map(() => null), filled: 0, figures: 0 };
    return { cells, filled: texts.length, figures: texts.filter(isFigure).length };
  });
}

function guessOf(rows: readonly Row[]): HeaderGuess {
  const usual = usualWidth(rows);
  const guess = firstHeader(rows, usual);
  const again = repeatedHeader(rows, usual);
  if (again === undefined || again.has(keyOf(rows[guess.row + guess.tiers - 1]!))) return guess;
  return { row: rows.findIndex((row) => again.has(keyOf(row))), tiers: 1 };
}

function firstHeader(rows: readonly Row[], usual: number): HeaderGuess {
  const figured = figureColumns(rows);
  const least = usual <= 1 ? 1 : Math.max(2, usual * 0.5);
  const isWide = (row: Row, share = least) => row.filled >= share && row.figures === 0;
  let at = rows.findIndex((row) => isWide(row) && overFigures(row, figured) >= 0.5);
  if (at < 0) {
    // Where nothing is a figure, the header is the first row that is as wide as the others.
    at = rows.findIndex((row) => isWide(row, Math.max(least, usual * 0.8)));
    if (at < 0) at = rows.findIndex((row) => isWide(row));
  }
  if (at < 0)
    return {
      row: Math.max(
        0,
        rows.findIndex((row) => row.filled > 0),
      ),
      tiers: 1,
    };
  let last = at;
  while (last - at + 1 < MAX_TIERS && isTierBelow(rows, last, figured)) last++;
  let first = at;
  while (last - first + 1 < MAX_TIERS && first > 0 && spans(rows[first - 1]!, rows[first]!)) first--;
  return { row: first, tiers: last - first + 1 };
}

/** The row below divides what this one spans, and names columns of figures: a row of data has none to say. */
function isTierBelow(rows: readonly Row[], at: number, figured: readonly boolean[]): boolean {
  const below = rows[at + 1];
  if (below === undefined || below.figures > 0 || !spans(rows[at]!, below)) return false;
  if (figured.includes(true)) return overFigures(below, figured) >= 0.5;
  // Without figures only names that come again under each of the upper ones tell a tier from data.
  const names = below.cells.filter((cell): cell is string => cell !== null);
  return new Set(names).size < names.length;
}

/** Its texts reach over more than their own columns: blank or said again to the right, where the row below says more. */
function spans(upper: Row, lower: Row): boolean {
  if (upper.filled < 2 || upper.figures > 0) return false;
  let groups = 0;
  let reached = 0;
  upper.cells.forEach((cell, k) => {
    if (cell === null || (k > 0 && upper.cells[k - 1] === cell)) return;
    let to = k + 1;
    while (
      to < upper.cells.length &&
      (upper.cells[to] === null || upper.cells[to] === cell) &&
      lower.cells[to] !== null
    )
      to++;
    const named = lower.cells.slice(k, to).filter((one) => one !== null && one !== cell).length;
    if (named >= 2) {
      groups++;
      reached += named;
    }
  });
  return groups >= 2 || (groups === 1 && reached >= lower.filled * 0.4);
}

function keyOf(row: Row): string {
  return JSON.stringify(row.cells);
}

/** Rows that stand again word for word right above data, as page heads of a print-out do; undefined when there are none. */
function repeatedHeader(rows: readonly Row[], usual: number): ReadonlySet<string> | undefined {
  const counts = new Map<string, number>();
  rows.forEach((row, r) => {
    const next = rows.slice(r + 1).find((one) => one.filled > 0);
    if (row.figures > 0 || row.filled < Math.max(2, usual * 0.5)) return;
    if (next === undefined || next.figures === 0 || next.filled < usual * 0.5) return;
    counts.set(keyOf(row), (counts.get(keyOf(row)) ?? 0) + 1);
  });
  const again = [...counts].filter(([, count]) => count > 1).map(([key]) => key);
  return again.length === 0 ? undefined : new Set(again);
}

/** Columns in which at least as many cells are figures as texts; headers of short tables are not held against them. */
function figureColumns(rows: readonly Row[]): boolean[] {
  const width = rows[0]?.cells.length ?? 0;
  return Array.from({ length: width }, (_, k) => {
    let figures = 0;
    let texts = 0;
    for (const { cells } of rows) {
      const cell = cells[k];
      if (cell === null || cell === undefined || isMissing(cell)) continue;
      if (isFigure(cell)) figures++;
      else texts++;
    }
    return figures > 0 && figures * (rows.length <= 8 ? 2 : 1) >= texts;
  });
}

/** Share of the columns of figures over which the row has a text. */
function overFigures(row: Row, figured: readonly boolean[]): number {
  let over = 0;
  let of = 0;
  figured.forEach((is, k) => {
    if (!is) return;
    of++;
    const cell = row.cells[k];
    if (cell !== null && cell !== undefined && !isMissing(cell)) over++;
  });
  return of === 0 ? 0 : over / of;
}

function usualWidth(rows: readonly Row[]): number {
  const widths = rows.filter((row) => row.filled > 0).map((row) => row.filled);
  widths.sort((a, b) => a - b);
  return widths[Math.floor(widths.length / 2)] ?? 0;
}

function filledText(text: string | null): string | null {
  return text === null || text.trim() === '' ? null : text.trim();
}

/** Lines drawn under a header or over a sum. */
function isRule(texts: readonly string[]): boolean {
  return texts.length > 0 && texts.every((text) => /^[-=_~+|*─═]{2,}$/.test(text) || text === '|');
}

/** What stands where a figure is missing (common practice). */
function isMissing(text: string): boolean {
  return /^(?:[-–—.*…:x/]{1,3}|n\/?a|n\.a\.|nan|null|none|k\.\s?a\.|s\/?d|nd|n\.d\.|n\/d)$/i.test(text);
}

/** Ranges such as those of ages. */
const RANGE = /^\d{1,3}\s?[-–]\s?\d{1,3}$|^\d{1,3}\s?\+$/;
/** Years, seasons, quarters and months written in figures. */
const PERIOD = /^(?:19|20)\d\d(?:\s?[-/–]\s?(?:\d\d|(?:19|20)\d\d))?$|^Q[1-4]\b/;

/** A number, date or time as data holds them; a year or a quarter may be a name. */
function isFigure(text: string): boolean {
  const plain = text.trim();
  if (plain.length > 60 || PERIOD.test(plain) || RANGE.test(plain)) return false;
  return /^[\s$€£(+-]*\d[\d\s.,:'/%T)-]*(?:[A-Za-z%€]{0,3})[)-]?$/.test(plain) || /^\d{1,2}[ -][A-Za-z]{3}/.test(plain);
}
