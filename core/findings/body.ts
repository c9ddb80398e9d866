import { saysNote } from '../glance/hint-words.ts';
import { isYear, Seen, type SeenColumn, type Sight, textAt } from '../glance/sight.ts';
import { runStarts } from '../rules/placed.ts';
import { groupedBy } from '../values/grouped-by.ts';
import { rowSaysTotal } from './choose-rule.ts';
import type { Hand } from './finding.ts';

/** What a row under the header is to the report. */
export type RowRole = 'data' | 'lone' | 'note' | 'page' | 'blank' | 'rule';

/** The rows under a header, as far as they can be told before any of them is set aside. */
export interface Body {
  sight: Sight;
  roles: readonly RowRole[];
  /** Columns of figures that may be summed. */
  figures: readonly SeenColumn[];
  /** The other columns. */
  keys: readonly SeenColumn[];
  /** First rows of the sheets. */
  starts: readonly number[];
  rowsOf(role: RowRole): number[];
}

const known = new WeakMap<Sight, Body>();

export function bodyOf(hand: Hand): Body {
  const found = known.get(hand.sight);
  if (found !== undefined) return found;
  const body = look(hand);
  known.set(hand.sight, body);
  return body;
}

/** What a row says, without what changes from page to page. */
export function rowPattern(sight: Sight, row: number): string {
  return patternOf(sight.columns.map((column) => textAt(column, row)).join(''));
}

const patternOf = (text: string) => text.replace(/\s+/g, '').replace(/\d+/g, '#').toLowerCase();

function look(hand: Hand): Body {
  const { sight } = hand;
  const figures = figureColumns(sight);
  const summed = new Set(figures.map((column) => column.index));
  const keys = sight.columns.filter((column) => !summed.has(column.index));
  const starts = runStarts(sight.table, hand.within).slice(0, -1);
  const roles = new Array<RowRole>(sight.rows).fill('data');
  const usual = usualWidth(sight, figures);
  const inFigures = new Int32Array(sight.rows);
  for (const column of figures)
    for (let r = 0; r < sight.rows; r++)
      if (column.kinds[r] === Seen.figure || column.kinds[r] === Seen.missing) inFigures[r]!++;
  for (let r = 0; r < sight.rows; r++) {
    if (sight.filled[r] === 0) {
      roles[r] = sight.columns.some((column) => column.kinds[r] === Seen.rule) ? 'rule' : 'blank';
    } else if (isTitleAgain(hand, r)) roles[r] = 'page';
    else if (figures.length > 0 ? inFigures[r] === 0 : sight.filled[r]! < Math.max(2, usual * 0.5)) {
      // A row with all of its keys that only lacks its figures is data.
      const filled = keys.filter((column) => column.kinds[r] !== Seen.blank && column.kinds[r] !== Seen.rule).length;
      const wide = filled === sight.filled[r] && filled >= Math.max(2, keys.length * 0.8);
      roles[r] = wide && !rowSaysTotal(sight, r) ? 'data' : 'lone';
    }
  }
  roles.forEach((role, r) => {
    if (role === 'lone' && PAGE.test(rowPattern(sight, r))) roles[r] = 'page';
  });
  tellNotes(sight, roles, starts, usual, figures);
  tellPages(sight, roles, starts.length);
  return {
    sight,
    roles,
    figures,
    keys,
    starts,
    rowsOf: (role) => roles.flatMap((one, r) => (one === role ? [r] : [])),
  };
}

/** Cells that a line above the header has at most. */
const MAX_TITLE_CELLS = 8;

/** What stands above the header stands here again. */
function isTitleAgain(hand: Hand, row: number): boolean {
  if (hand.titles.size === 0 || hand.sight.filled[row]! > MAX_TITLE_CELLS) return false;
  // The first text alone tells most rows from titles.
  const first = hand.sight.columns.find((column) => textAt(column, row) !== '');
  const begins = first === undefined ? '' : patternOf(textAt(first, row));
  if (![...hand.titles].some((title) => title.startsWith(begins))) return false;
  const pattern = rowPattern(hand.sight, row);
  return hand.titles.has(pattern) && (pattern.match(/\p{L}/gu)?.length ?? 0) >= 4;
}

/** A pattern of a row that counts pages, in several languages. Common practice. */
export const PAGE = /(?:page|seite|blatt|p[áa]g(?:ina|\.)?|feuille|hoja|folio|sida|side|strona)n?[.:]*[#./:-]/;

/** Lone lines that stand again, but for their numbers, away from the rows that they might be labels of. */
function tellPages(sight: Sight, roles: RowRole[], sheets: number): void {
  const lone = roles.flatMap((role, r) => (role === 'lone' ? [r] : []));
  const patterns = groupedBy(lone, (r) => rowPattern(sight, r));
  for (const rows of patterns.values()) {
    const texts = rows.map((r) => sight.columns.map((column) => textAt(column, r)).join(' '));
    const distinct = new Set(texts).size;
    const again = rows.length >= 2 && countsUp(texts);
    // A label that never changes says nothing of the rows under it; one for each sheet may.
    const same = rows.length >= 2 && distinct === 1 && patterns.size === 1 && rows.length > sheets;
    // Labels such as 'Line 1' and 'Line 2' have data right under them and no other line beside.
    if (same || (again && distinct > 1 && rows.every((r) => roles[r + 1] !== 'data')))
      for (const r of rows) roles[r] = 'page';
  }
}

/** A number in the texts goes up by one from each to the next, as pages do and years need not. */
function countsUp(texts: readonly string[]): boolean {
  const numbers = texts.map((text) => (text.match(/\d+/g) ?? []).map(Number));
  return numbers[0]!.some((first, k) => first < 1000 && numbers.every((own, n) => own[k] === first + n));
}

/** A sentence that the columns of a print-out cut in pieces: they go on in small letters. */
function isCutUp(sight: Sight, row: number): boolean {
  const texts = sight.columns.map((column) => textAt(column, row)).filter((text) => text !== '');
  return texts.slice(1).filter((text) => /^[\p{Ll},.;]/u.test(text)).length > texts.length * 0.3;
}

/** What stands below the last row of data in a sheet, and remarks between. */
function tellNotes(
  sight: Sight,
  roles: RowRole[],
  starts: readonly number[],
  usual: number,
  figures: readonly SeenColumn[],
): void {
  starts.forEach((from, k) => {
    const to = starts[k + 1] ?? roles.length;
    let last = to - 1;
    while (last >= from && roles[last] !== 'data') last--;
    for (let r = Math.max(last + 1, from); r < to; r++)
      // One cell at the end counts the rows, or says what it may: a total stands beside figures.
      if (roles[r] === 'lone' && (!rowSaysTotal(sight, r) || (figures.length > 0 && sight.filled[r] === 1)))
        // A note has a cell or two: a row as wide as the table is a row of it.
        roles[r] = sight.filled[r]! >= Math.max(3, usual * 0.8) && !isCutUp(sight, r) ? 'data' : 'note';
    for (let r = from; r <= last; r++) {
      if (roles[r] !== 'lone') continue;
      const text = sight.columns.map((column) => textAt(column, r)).find((one) => one !== '') ?? '';
      const sentence = /[.!]$/.test(text) && text.split(/\s+/).length >= 5;
      if ((saysNote(text) && text.length > 20) || text.length > 120 || sentence) roles[r] = 'note';
    }
  });
}

/** Columns that hold figures where rows are wide, but for those that only number or name the rows. */
function figureColumns(sight: Sight): SeenColumn[] {
  return sight.columns.filter((column) => {
    const [figure, text, date, missing] = [
      column.counts[Seen.figure]!,
      column.counts[Seen.text]!,
      column.counts[Seen.date]!,
      column.counts[Seen.missing]!,
    ];
    if (figure === 0 || figure + missing < (text + date) * 1.5) return false;
    return !isKeyLike(sight, column);
  });
}

/** Years, or numbers that count the rows: they tell rows apart and are never summed. */
function isKeyLike(sight: Sight, column: SeenColumn): boolean {
  let [figures, years, steps, last] = [0, 0, 0, Number.NaN];
  const values = new Set<number>();
  for (let r = 0; r < sight.rows; r++) {
    if (column.kinds[r] !== Seen.figure) continue;
    const value = column.values[r]!;
    figures++;
    if (isYear(value)) years++;
    if (value === last + 1) steps++;
    last = value;
    if (values.size < 5000) values.add(value);
  }
  if (
    figures >= 3 &&
    years === figures &&
    (values.size < figures || /year|jahr|ann|año|anno/i.test(column.name) || column.index === 0)
  )
    return !/^\d/.test(column.name);
  return figures >= 4 && steps >= (figures - 1) * 0.9;
}

function usualWidth(sight: Sight, figures: readonly SeenColumn[]): number {
  const widths: number[] = [];
  for (let r = 0; r < sight.rows; r++)
    if (sight.filled[r]! > 0 && (figures.length === 0 || figures.some((column) => column.kinds[r] === Seen.figure)))
      widths.push(sight.filled[r]!);
  widths.sort((a, b) => a - b);
  return widths[Math.floor(widths.length * 0.6)] ?? 0;
}
