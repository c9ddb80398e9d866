import { type CellObject, read, type WorkBook, type WorkSheet } from '@e965/xlsx';
import { ReceivedBuilder } from '../table/builder.ts';
import { type Column, columnLength, Tag } from '../table/column.ts';
import { brief } from '../values/text.ts';
import { checkedFiles, stored, type UnpackBudget } from './archive.ts';
import { BookStyles } from './cell-styles.ts';
import { withWholeSectors } from './compound-file.ts';
import { withoutDefaultPassword } from './default-password.ts';
import type { KeptNumbers } from './kept-numbers.ts';
import { type DateSystem, GENERAL, isDated, readDated, shownNumber } from './number-formats.ts';
import { isOpenDocument, readOpenDocument } from './open-document.ts';
import { CellBudget, ReadFailure } from './read-failure.ts';
import { type Comment, cellKey, type DisplayedColumn, type Merge, type Report, type ReportPart } from './report.ts';
import { type FastSheets, formatCell, takeCells } from './sheet-xml/fast-sheets.ts';
import type { Grid, NumberReader } from './sheet-xml/sheet-cells.ts';
import { ShownTexts } from './shown-texts.ts';
import { sniff } from './sniff.ts';

/**
 * A workbook (ISO/IEC 29500 and its relatives) with every stored cell, nothing coerced: numbers with a date format
 * are dates by the workbook's own word, error cells are unreadable with their text.
 *
 * @param progress told of the part done, 0 to 1; may throw to end it
 * @param by library: also the cells that the scanner knows, as a second opinion
 * @throws ReadFailure when the bytes are no workbook, or an encrypted or broken one
 */
export function readWorkbook(
  bytes: Uint8Array,
  fileName: string,
  room?: UnpackBudget,
  progress?: (done: number) => void,
  by: 'scanner' | 'library' = 'scanner',
): Report {
  if (sniff(bytes, fileName) !== 'workbook') {
    throw new ReadFailure(
      fileName,
      `${fileName} is no workbook but text. Give a workbook, or begin a new job from this file.`,
    );
  }
  if (isOpenDocument(bytes, fileName)) {
    return readOpenDocument(bytes, fileName, room);
  }
  const whole = withWholeSectors(bytes);
  const open = withoutDefaultPassword(whole);
  if (open !== undefined) return readWorkbook(open, fileName, room, progress, by);
  if (bytes[0] !== 0x50) return reportOf(bookOf(whole, fileName), fileName);
  const files = checkedFiles(bytes, fileName, room);
  const fast = by === 'library' || files.has('xl/workbook.bin') ? undefined : takeCells(files, fileName, progress);
  return reportOf(bookOf(stored(files), fileName), fileName, new BookStyles(bytes, fileName), fast);
}

/** @throws ReadFailure */
function bookOf(bytes: Uint8Array, fileName: string): WorkBook {
  try {
    return read(bytes, {
      type: 'array',
      dense: true,
      cellNF: true,
      cellText: true,
      cellStyles: true,
      cellFormula: true,
      cellHTML: false,
    });
  } catch (error) {
    throw new ReadFailure(fileName, workbookTrouble(error instanceof Error ? error.message : String(error)));
  }
}

/** @throws ReadFailure */
function reportOf(book: WorkBook, fileName: string, styles?: BookStyles, fast?: FastSheets): Report {
  const system = book.Workbook?.WBProps?.date1904 ? 1904 : 1900;
  const numbers = numberReader(formatsOf(book, fast), system);
  const reach = new CellBudget(fileName);
  const parts = book.SheetNames.flatMap((name, k) => {
    const hidden = (book.Workbook?.Sheets?.[k]?.Hidden ?? 0) !== 0;
    const sheet = book.Sheets[name];
    if (sheet === undefined) return [missingPart(name, hidden)];
    // Charts, dialogs and macros have separate sheets, without cells of a report.
    const type = sheet['!type'] as string | undefined;
    if (type !== undefined && type !== 'sheet') return [];
    const taken = fast?.cells.get(name);
    const cells =
      taken === undefined
        ? gridCells(sheet, system)
        : { of: taken, finish: (r: number, c: number) => taken.finish(r, c, numbers) };
    const part = sheetPart(name, sheet, cells, hidden, reach);
    return [styled(fast?.odd.includes(name) ? { ...part, odd: true } : part, styles)];
  });
  if (parts.length === 0) throw new ReadFailure(fileName, 'The workbook has no sheets.');
  return { format: 'workbook', parts };
}

function styled(part: ReportPart, styles: BookStyles | undefined): ReportPart {
  if (styles === undefined) return part;
  return { ...part, styles: () => styles.sheet(part.name, part.rows, part.columns.length) };
}

function workbookTrouble(why: string): string {
  if (/password|encrypt/i.test(why)) {
    return 'The workbook is protected by a password. Open it in a spreadsheet program, save it without one, and try again.';
  }
  return `The workbook is broken or cut off (${brief(why)}). Ask for it again, or open it in a spreadsheet program and save it again.`;
}

function missingPart(name: string, hidden: boolean): ReportPart {
  return { name, rows: 0, columns: [], displayed: [], merges: [], comments: [], hidden, missing: true };
}

/** The filled cells of a sheet, by the scanner or by the library. */
interface FilledCells {
  of: {
    /** Behind the last that is filled. */
    rows: number;
    columns: number;
    /** Formulas without a value. */
    emptyFormulas: number;
    zeroFormulas: ReadonlySet<number>;
    keptNumbers?: KeptNumbers;
    hiddenRows: Iterable<number>;
  };
  /** The cells as columns of a given number of rows. */
  finish(rows: number, columns: number): Grid;
}

function sheetPart(name: string, sheet: WorkSheet, cells: FilledCells, hidden: boolean, reach: CellBudget): ReportPart {
  const merges: Merge[] = (sheet['!merges'] ?? []).map((range) => ({
    row: range.s.r,
    column: range.s.c,
    rows: range.e.r - range.s.r + 1,
    columns: range.e.c - range.s.c + 1,
  }));
  const comments: Comment[] = [];
  let { rows, columns } = cells.of;
  const include = (row: number, column: number) => {
    rows = Math.max(rows, row + 1);
    columns = Math.max(columns, column + 1);
  };
  everyCell(sheet['!data'] ?? [], (cell, r, c) => {
    for (const comment of cell.c ?? []) {
      comments.push({ row: r, column: c, text: withoutNul(comment.t), author: withoutNul(comment.a) });
      include(r, c);
    }
  });
  for (const merge of merges) {
    // A merge counts only where its first cell is filled; formats may merge far beyond the data.
    if (merge.row < rows && merge.column < columns)
      include(merge.row, Math.min(merge.column + merge.columns - 1, columns + 63));
  }
  reach.add(name, rows, columns);
  const { columns: stored, displayed } = cells.finish(rows, columns);
  const hiddenRows = [...cells.of.hiddenRows].filter((row) => row < rows).sort((a, b) => a - b);
  const hiddenColumns = hiddenOf(sheet['!cols']).filter((column) => column < columns);
  const { emptyFormulas, zeroFormulas, keptNumbers } = cells.of;
  return {
    name,
    rows,
    columns: stored,
    displayed,
    merges,
    comments,
    hidden,
    hiddenRows,
    hiddenColumns,
    emptyFormulas,
    ...(keptNumbers === undefined || keptNumbers.count === 0 ? {} : { keptNumbers }),
    ...(zeroFormulas.size === 0 ? {} : { zeroFormulas }),
  };
}

type CellGrid = readonly (readonly (CellObject | undefined)[] | undefined)[];

/** Rows and cells that are gone through one by one, whether they are there or not. */
const MAX_COUNTED = 1024;

/** The cells that there are: rows and cells far behind the others are not counted up to. */
function everyCell(grid: CellGrid, act: (cell: CellObject, row: number, column: number) => void): void {
  const each = <T>(list: readonly (T | undefined)[], of: (one: T, at: number) => void) => {
    const dense = list.length <= MAX_COUNTED;
    for (const key of dense ? list.keys() : Object.keys(list).map(Number)) {
      const one = list[key];
      if (one !== undefined) of(one, key);
    }
  };
  each(grid, (cells, row) => {
    each(cells, (cell, column) => act(cell, row, column));
  });
}

/** Old workbooks fill their texts up with NUL. */
function withoutNul(text: string | undefined): string {
  const end = (text ?? '').search(/\0+$/);
  return end < 0 ? (text ?? '') : text!.slice(0, end);
}

function hiddenOf(infos: readonly ({ hidden?: boolean } | undefined)[] = []): number[] {
  return Object.keys(infos)
    .map(Number)
    .filter((k) => infos[k]?.hidden === true);
}

/** Formats by the index that cells have for them, as the library tells them. */
function formatsOf(book: WorkBook, fast: FastSheets | undefined): string[] {
  const asked = fast?.formatsFrom;
  const grid: CellGrid = (asked && book.Sheets[asked.sheet]?.['!data']) ?? [];
  return Array.from({ length: asked?.count ?? 0 }, (_, style) => {
    const { row, column } = formatCell(style);
    return String(grid[row]?.[column]?.z ?? GENERAL);
  });
}

function numberReader(formats: readonly string[], system: DateSystem): NumberReader {
  const dated = formats.map(isDated);
  return {
    dated: (style) => dated[style] ?? false,
    read: (style, value) => readDated(value, formats[style]!, system),
    shown: (style, value) => shownNumber(value, formats[style] ?? GENERAL, system),
  };
}

function isFilled(cell: CellObject): boolean {
  return cell.t !== 'z' && (cell.v !== undefined || (cell.t === 'e' && cell.w !== undefined)) && cell.v !== '';
}

/** The cells as the library gives them, one object for each. */
function gridCells(sheet: WorkSheet, system: DateSystem): FilledCells {
  const grid: CellGrid = sheet['!data'] ?? [];
  const of = {
    rows: 0,
    columns: 0,
    emptyFormulas: 0,
    zeroFormulas: new Set<number>(),
    hiddenRows: hiddenOf(sheet['!rows']),
  };
  everyCell(grid, (cell, r, c) => {
    if (isFilled(cell)) {
      of.rows = Math.max(of.rows, r + 1);
      of.columns = Math.max(of.columns, c + 1);
      if (cell.f !== undefined && cell.t === 'n' && cell.v === 0) of.zeroFormulas.add(cellKey(r, c));
    } else if (cell.f !== undefined) of.emptyFormulas++;
  });
  return {
    of,
    finish(rows, columns) {
      const stored = storedColumns(grid, rows, columns, system);
      return { columns: stored, displayed: displayedColumns(grid, stored) };
    },
  };
}

function storedColumns(grid: CellGrid, rows: number, columns: number, system: DateSystem): Column[] {
  const builders = Array.from({ length: columns }, () => new ReceivedBuilder(rows));
  everyCell(grid, (cell, r, c) => {
    if (!isFilled(cell)) return;
    const builder = builders[c]!;
    if (cell.t === 's') builder.text(r, String(cell.v));
    else if (cell.t === 'b') builder.counted(r, Tag.yesno, cell.v === true ? 1 : 0);
    else if (cell.t === 'n') putNumber(builder, r, cell, system);
    else if (cell.t === 'e') builder.unreadable(r, cell.w ?? String(cell.v), 'an error cell of the workbook');
    else builder.text(r, cell.w ?? String(cell.v));
  });
  return builders.map((builder) => builder.finish());
}

function putNumber(builder: ReceivedBuilder, row: number, cell: CellObject, system: DateSystem): void {
  const value = cell.v as number;
  const format = String(cell.z ?? GENERAL);
  const read = isDated(format) ? readDated(value, format, system) : { tag: Tag.number, value };
  if ('tag' in read) builder.counted(row, read.tag, read.value);
  else builder.unreadable(row, read.text, read.reason);
}

/** What is shown in cells where that is another text than what is stored. */
function displayedColumns(grid: CellGrid, stored: readonly Column[]): (DisplayedColumn | undefined)[] {
  const shown: (ShownTexts | undefined)[] = stored.map(() => undefined);
  everyCell(grid, (cell, r, c) => {
    if (cell.t === 's' || cell.w === undefined || !isFilled(cell)) return;
    shown[c] ??= new ShownTexts(columnLength(stored[c]!));
    shown[c].put(r, cell.w.trim(), stored[c]!);
  });
  return shown.map((texts) => texts?.finish());
}
