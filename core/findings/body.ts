import { saysNote } from '../glance/hint-words.ts';
import {
  CellKind,
  type ColumnProfile,
  distinctTexts,
  isYear,
  type TableProfile,
  textAt,
} from '../glance/table-profile.ts';
import { runStarts } from '../rules/placed.ts';
import { groupedBy } from '../values/grouped-by.ts';
import { rowSaysTotal } from './choose-rule.ts';
import type { DetectorInput } from './finding.ts';

/** What a row under the header is to the report. */
export type RowRole = 'data' | 'lone' | 'note' | 'page' | 'blank' | 'rule';

/** The rows under a header, as far as is known before any of them is set aside. */
export interface Body {
  profile: TableProfile;
  roles: readonly RowRole[];
  /** Columns of figures that may be summed. */
  figures: readonly ColumnProfile[];
  /** The other columns. */
  keys: readonly ColumnProfile[];
  /** First rows of the sheets. */
  starts: readonly number[];
  /** As matrixColumns and raggedLists find them. */
  pairs: readonly ColumnProfile[];
  lists: readonly ColumnProfile[];
  rowsOf(role: RowRole): number[];
}

const known = new WeakMap<TableProfile, Body>();

export function bodyOf(input: DetectorInput): Body {
  const found = known.get(input.profile);
  if (found !== undefined) return found;
  const body = look(input);
  known.set(input.profile, body);
  return body;
}

/** What a row says, without what changes from page to page. */
export function rowPattern(profile: TableProfile, row: number): string {
  return patternOf(profile.columns.map((column) => textAt(column, row)).join(''));
}

const patternOf = (text: string) => text.replace(/\s+/g, '').replace(/\d+/g, '#').toLowerCase();

function look(input: DetectorInput): Body {
  const { profile } = input;
  const figures = figureColumns(profile);
  const summed = new Set(figures.map((column) => column.index));
  const keys = profile.columns.filter((column) => !summed.has(column.index));
  const starts = runStarts(profile.table, input.within).slice(0, -1);
  const roles = new Array<RowRole>(profile.rows).fill('data');
  const usual = usualWidth(profile, figures);
  const inFigures = new Int32Array(profile.rows);
  for (const column of figures)
    for (let r = 0; r < profile.rows; r++)
      if (column.kinds[r] === CellKind.figure || column.kinds[r] === CellKind.missing) inFigures[r]!++;
  for (let r = 0; r < profile.rows; r++) {
    if (profile.filled[r] === 0) {
      roles[r] = profile.columns.some((column) => column.kinds[r] === CellKind.rule) ? 'rule' : 'blank';
    } else if (isTitleAgain(input, r)) roles[r] = 'page';
    else if (figures.length > 0 ? inFigures[r] === 0 : profile.filled[r]! < Math.max(2, usual * 0.5)) {
      // A row with all of its keys that only lacks its figures is data.
      const filled = keys.filter(
        (column) => column.kinds[r] !== CellKind.blank && column.kinds[r] !== CellKind.rule,
      ).length;
      const wide = filled === profile.filled[r] && filled >= Math.max(2, keys.length * 0.8);
      roles[r] = wide && !rowSaysTotal(profile, r) ? 'data' : 'lone';
    }
  }
  const [pairs, lists] = [matrixColumns(profile), raggedLists(profile)];
  if (lists.length > 0)
    roles.forEach((role, r) => {
      if (role === 'lone') roles[r] = 'data';
    });
  keepRowsOfValues(profile, roles, keys);
  const across = new Set(pairs.map(({ name }) => name));
  roles.forEach((role, r) => {
    if (role === 'lone' && PAGE.test(rowPattern(profile, r))) roles[r] = 'page';
    // The first name in a triangle has no filled cells.
    else if (role === 'lone' && across.has(textAt(profile.columns[0]!, r))) roles[r] = 'data';
  });
  tellNotes(profile, roles, starts, usual, figures);
  tellPages(profile, roles, starts.length);
  return {
    profile,
    roles,
    figures,
    keys,
    starts,
    pairs,
    lists,
    rowsOf: (role) => roles.flatMap((one, r) => (one === role ? [r] : [])),
  };
}

/** A row without figures whose cells, of which there are several, all say what rows of data say in their columns is one of them. */
function keepRowsOfValues(profile: TableProfile, roles: RowRole[], keys: readonly ColumnProfile[]): void {
  const lone = roles.flatMap((role, r) => (role === 'lone' && profile.filled[r]! >= 2 ? [r] : []));
  if (lone.length === 0) return;
  const said = keys.map((column) => {
    const codes = new Set<number>();
    for (let r = 0; r < profile.rows; r++) if (roles[r] === 'data') codes.add(column.codes[r]!);
    return codes;
  });
  for (const r of lone) {
    const filled = keys.flatMap((column, k) => (column.kinds[r] === CellKind.blank ? [] : [k]));
    const isOfData = filled.length === profile.filled[r] && filled.every((k) => said[k]!.has(keys[k]!.codes[r]!));
    if (isOfData && !rowSaysTotal(profile, r)) roles[r] = 'data';
  }
}

/** Lists side by side, and texts in all of them, that are enough to tell. */
const MIN_LISTS = 3;
const MIN_LISTED = 8;
/** Share of the texts that stand in one list only. */
const MOSTLY_APART = 0.75;

/**
 * Columns of lists side by side that end at different rows, no text twice in one of them: what is blank below a list
 * belongs to nothing. Empty where the table is none such.
 */
export function raggedLists(profile: TableProfile): readonly ColumnProfile[] {
  const used = profile.columns.filter(({ counts }) => counts[CellKind.blank]! < profile.rows);
  if (used.length < MIN_LISTS || used.some(({ counts }) => counts[CellKind.figure]! + counts[CellKind.date]! > 0))
    return [];
  const lengths = used.map(({ kinds }) => {
    const end = kinds.indexOf(CellKind.blank);
    return end < 0 || kinds.subarray(end).some((kind) => kind !== CellKind.blank) ? kinds.length : end;
  });
  const isEven = used.every(({ counts }, k) => profile.rows - counts[CellKind.blank]! === lengths[k]);
  if (!isEven || new Set(lengths).size < MIN_LISTS) return [];
  const texts = used.map((column) => distinctTexts(column, profile.rows));
  const all = lengths.reduce((sum, length) => sum + length, 0);
  const isApart =
    all >= MIN_LISTED &&
    texts.every((own, k) => own.length === lengths[k]) &&
    new Set(texts.flat()).size >= all * MOSTLY_APART;
  return isApart ? used : [];
}

/** Names that must stand across and down. */
const MIN_IN_PAIRS = 3;
const MAX_IN_PAIRS = 300;

/** Columns of a table of pairs, such as distances: their names, or nearly all, also stand in the first column. */
export function matrixColumns(profile: TableProfile): readonly ColumnProfile[] {
  const [first, ...others] = profile.columns;
  if (first === undefined || others.length < MIN_IN_PAIRS) return [];
  const down = new Set(distinctTexts(first, MAX_IN_PAIRS));
  const both = others.filter(({ name }) => down.has(name));
  if (both.length < MIN_IN_PAIRS || both.length < others.length * 0.6) return [];
  const [from, to] = [both[0]!.index, both.at(-1)!.index];
  const own = others.filter(({ index }) => index >= from && index <= to);
  return own.every(({ counts }) => counts[CellKind.text] === 0) ? own : [];
}

/** Cells that a line above the header has at most. */
const MAX_TITLE_CELLS = 8;

/** What stands above the header stands here again. */
function isTitleAgain(input: DetectorInput, row: number): boolean {
  if (input.titles.size === 0 || input.profile.filled[row]! > MAX_TITLE_CELLS) return false;
  // The first text alone tells most rows from titles.
  const first = input.profile.columns.find((column) => textAt(column, row) !== '');
  const begins = first === undefined ? '' : patternOf(textAt(first, row));
  if (![...input.titles].some((title) => title.startsWith(begins))) return false;
  const pattern = rowPattern(input.profile, row);
  return input.titles.has(pattern) && (pattern.match(/\p{L}/gu)?.length ?? 0) >= 4;
}

/** A pattern of a row that counts pages, in several languages. Common practice. */
export const PAGE = /(?:page|seite|blatt|p[áa]g(?:ina|\.)?|feuille|hoja|folio|sida|side|strona)n?[.:]*[#./:-]/;

/** Lone lines that stand again, but for their numbers, away from the rows that they might be labels of. */
function tellPages(profile: TableProfile, roles: RowRole[], sheets: number): void {
  const lone = roles.flatMap((role, r) => (role === 'lone' ? [r] : []));
  const patterns = groupedBy(lone, (r) => rowPattern(profile, r));
  for (const [pattern, rows] of patterns) {
    const texts = rows.map((r) => profile.columns.map((column) => textAt(column, r)).join(' '));
    const distinct = new Set(texts).size;
    const again = rows.length >= 2 && countsUp(texts);
    // A label that never changes says nothing of the rows under it; one for each sheet may.
    const same = rows.length >= 2 && distinct === 1 && patterns.size === 1 && rows.length > sheets;
    // Labels such as 'Line 1' and 'Line 2' have data right under them and no other line beside.
    const isApart = /^[^\p{L}#]+#[^\p{L}#]+$/u.test(pattern) || rows.every((r) => roles[r + 1] !== 'data');
    if (same || (again && distinct > 1 && isApart)) for (const r of rows) roles[r] = 'page';
  }
}

/** A number in the texts goes up by one from each to the next, as pages do and years need not. */
export function countsUp(texts: readonly string[]): boolean {
  const numbers = texts.map((text) => (text.match(/\d+/g) ?? []).map(Number));
  return numbers[0]!.some((first, k) => first < 1000 && numbers.every((own, n) => own[k] === first + n));
}

/** A sentence that the columns of a print-out cut in pieces: they go on in small letters. */
function isCutUp(profile: TableProfile, row: number): boolean {
  const texts = profile.columns.map((column) => textAt(column, row)).filter((text) => text !== '');
  return texts.slice(1).filter((text) => /^[\p{Ll},.;]/u.test(text)).length > texts.length * 0.3;
}

/** What stands below the last row of data in a sheet, and remarks between. */
function tellNotes(
  profile: TableProfile,
  roles: RowRole[],
  starts: readonly number[],
  usual: number,
  figures: readonly ColumnProfile[],
): void {
  starts.forEach((from, k) => {
    const to = starts[k + 1] ?? roles.length;
    let last = to - 1;
    while (last >= from && roles[last] !== 'data') last--;
    for (let r = Math.max(last + 1, from); r < to; r++)
      // One cell at the end counts the rows, or says what it may: a total stands beside figures.
      if (roles[r] === 'lone' && (!rowSaysTotal(profile, r) || (figures.length > 0 && profile.filled[r] === 1)))
        // A note has a cell or two: a row as wide as the table is a row of it.
        roles[r] = profile.filled[r]! >= Math.max(3, usual * 0.8) && !isCutUp(profile, r) ? 'data' : 'note';
    for (let r = from; r <= last; r++) {
      if (roles[r] !== 'lone') continue;
      const text = profile.columns.map((column) => textAt(column, r)).find((one) => one !== '') ?? '';
      const sentence = /[.!]$/.test(text) && text.split(/\s+/).length >= 5;
      if ((saysNote(text) && text.length > 20) || text.length > 120 || sentence) roles[r] = 'note';
    }
  });
}

/** Columns that hold figures where rows are wide, but for those that only number or name the rows. */
function figureColumns(profile: TableProfile): ColumnProfile[] {
  return profile.columns.filter((column) => {
    const [figure, text, date, missing] = [
      column.counts[CellKind.figure]!,
      column.counts[CellKind.text]!,
      column.counts[CellKind.date]!,
      column.counts[CellKind.missing]!,
    ];
    if (figure === 0 || figure + missing < (text + date) * 1.5) return false;
    return !isKeyLike(profile, column);
  });
}

/** Years, or numbers that count the rows: they tell rows apart and are never summed. */
function isKeyLike(profile: TableProfile, column: ColumnProfile): boolean {
  let [figures, years, steps, last] = [0, 0, 0, Number.NaN];
  const values = new Set<number>();
  for (let r = 0; r < profile.rows; r++) {
    if (column.kinds[r] !== CellKind.figure) continue;
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

function usualWidth(profile: TableProfile, figures: readonly ColumnProfile[]): number {
  const widths: number[] = [];
  for (let r = 0; r < profile.rows; r++)
    if (
      profile.filled[r]! > 0 &&
      (figures.length === 0 || figures.some((column) => column.kinds[r] === CellKind.figure))
    )
      widths.push(profile.filled[r]!);
  widths.sort((a, b) => a - b);
  return widths[Math.floor(widths.length * 0.6)] ?? 0;
}
