import { type CellObject, read, SSF, type WorkBook, type WorkSheet } from '@e965/xlsx';
import { Dictionary, ReceivedBuilder } from '../table/builder.ts';
import { type Column, columnLength, Tag } from '../table/column.ts';
import { cellText } from '../values/cell-text.ts';
import { daysFromSerial, MS, SERIAL_10000 } from '../values/civil.ts';
import { brief } from '../values/text.ts';
import { checkedArchive, type Room } from './archive.ts';
import { BookStyles } from './cell-styles.ts';
import { isOpenDocument, readOpenDocument } from './open-document.ts';
import { Reach, ReadFailure } from './read-failure.ts';
import type { Comment, DisplayedColumn, Merge, Report, ReportPart } from './report.ts';
import { sniff } from './sniff.ts';

/**
 * A workbook (ISO/IEC 29500 and its relatives) with every stored cell, nothing coerced: numbers with a date format
 * are dates by the workbook's own word, error cells are unreadable with their text.
 *
 * @throws ReadFailure when the bytes are no workbook, or an encrypted or broken one
 */
export function readWorkbook(bytes: Uint8Array, fileName: string, room?: Room): Report {
  if (sniff(bytes, fileName) !== 'workbook') {
    throw new ReadFailure(
      fileName,
      `${fileName} is no workbook but text. Give a workbook, or begin a new job from this file.`,
    );
  }
  if (isOpenDocument(bytes, fileName)) {
    return readOpenDocument(bytes, fileName, room);
  }
  let book: WorkBook;
  try {
    book = read(bytes[0] === 0x50 ? checkedArchive(bytes, fileName, room) : bytes, {
      type: 'array',
      dense: true,
      cellNF: true,
      cellText: true,
      cellStyles: true,
      cellFormula: true,
      cellHTML: false,
    });
  } catch (error) {
    if (error instanceof ReadFailure) throw error;
    throw new ReadFailure(fileName, workbookTrouble(error instanceof Error ? error.message : String(error)));
  }
  const system = book.Workbook?.WBProps?.date1904 ? 1904 : 1900;
  const reach = new Reach(fileName);
  const styles = bytes[0] === 0x50 ? new BookStyles(bytes, fileName) : undefined;
  const parts = book.SheetNames.flatMap((name, k) => {
    const hidden = (book.Workbook?.Sheets?.[k]?.Hidden ?? 0) !== 0;
    const sheet = book.Sheets[name];
    if (sheet === undefined) return [missingPart(name, hidden)];
    // Charts, dialogs and macros stand on sheets of their own, without cells of a report.
    const type = sheet['!type'] as string | undefined;
    return type === undefined || type === 'sheet'
      ? [styled(sheetPart(name, sheet, system, hidden, reach), styles)]
      : [];
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
  return `The workbook is broken or cut off (${brief(why)}). Ask for it again, or open it in a spreadsheet program and save it anew.`;
}

function missingPart(name: string, hidden: boolean): ReportPart {
  return { name, rows: 0, columns: [], displayed: [], merges: [], comments: [], hidden, missing: true };
}

function sheetPart(name: string, sheet: WorkSheet, system: 1900 | 1904, hidden: boolean, reach: Reach): ReportPart {
  const grid: Grid = sheet['!data'] ?? [];
  const merges: Merge[] = (sheet['!merges'] ?? []).map((range) => ({
    row: range.s.r,
    column: range.s.c,
    rows: range.e.r - range.s.r + 1,
    columns: range.e.c - range.s.c + 1,
  }));
  const comments: Comment[] = [];
  let emptyFormulas = 0;
  let rows = 0;
  let columns = 0;
  const include = (row: number, column: number) => {
    rows = Math.max(rows, row + 1);
    columns = Math.max(columns, column + 1);
  };
  everyCell(grid, (cell, r, c) => {
    if (isFilled(cell)) include(r, c);
    else if (cell.f !== undefined) emptyFormulas++;
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
  const stored = storedColumns(grid, rows, columns, system);
  const displayed = displayedColumns(grid, stored);
  const hiddenRows = hiddenOf(sheet['!rows'], rows);
  const hiddenColumns = hiddenOf(sheet['!cols'], columns);
  return { name, rows, columns: stored, displayed, merges, comments, hidden, hiddenRows, hiddenColumns, emptyFormulas };
}

type Grid = readonly (readonly (CellObject | undefined)[] | undefined)[];

/** Rows and cells that are gone through one by one, whether they are there or not. */
const MOST_COUNTED = 1024;

/** The cells that there are: rows and cells far behind the others are not counted up to. */
function everyCell(grid: Grid, act: (cell: CellObject, row: number, column: number) => void): void {
  const each = <T>(list: readonly (T | undefined)[], of: (one: T, at: number) => void) => {
    const dense = list.length <= MOST_COUNTED;
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

function hiddenOf(infos: readonly ({ hidden?: boolean } | undefined)[] | undefined, within: number): number[] {
  return Object.keys(infos ?? [])
    .map(Number)
    .filter((k) => k < within && infos![k]?.hidden === true);
}

function isFilled(cell: CellObject): boolean {
  return cell.t !== 'z' && cell.v !== undefined && cell.v !== '';
}

function storedColumns(grid: Grid, rows: number, columns: number, system: 1900 | 1904): Column[] {
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

/** Serial number of 1900-02-29 in the 1900 system (ISO/IEC 29500, 18.17.4.1). */
const LEAP_DAY = 60;

function putNumber(builder: ReceivedBuilder, row: number, cell: CellObject, system: 1900 | 1904): void {
  const value = cell.v as number;
  const format = String(cell.z ?? 'General');
  if (!SSF.is_date(format)) {
    builder.counted(row, Tag.number, value);
    return;
  }
  // Elapsed hours, [h]:mm: no time of day from a day on, and kept in days as they are stored.
  if (/^[^;"]*\[(?:h+|m+|s+)\]/i.test(format) && (value >= 1 || value < 0)) {
    builder.counted(row, Tag.number, value);
    return;
  }
  const day = Math.floor(value);
  const ms = Math.round((value - day) * MS.day);
  const dated = /[yd]|m(?!m?:)(?<!:m)/i.test(format.replace(/\[[^\]]*\]|"[^"]*"/g, ''));
  const days = daysFromSerial(value, system);
  if (dated && system === 1900 && day === LEAP_DAY) {
    builder.unreadable(row, cell.w ?? String(value), 'a day that never was: workbooks count a 29th of February 1900');
    return;
  }
  if (value >= 0 && value < 1 && !/[yd]/i.test(format)) builder.counted(row, Tag.time, ms % MS.day);
  else if (!dated || days === undefined || day >= SERIAL_10000) builder.counted(row, Tag.number, value);
  else if (ms === 0) builder.counted(row, Tag.date, days);
  else builder.counted(row, Tag.datetime, days * MS.day + ms);
}

/** What is shown in cells where that is another text than what is stored. */
function displayedColumns(grid: Grid, stored: readonly Column[]): (DisplayedColumn | undefined)[] {
  const dictionaries: (Dictionary | undefined)[] = new Array(stored.length).fill(undefined);
  const codes: (Int32Array | undefined)[] = new Array(stored.length).fill(undefined);
  everyCell(grid, (cell, r, c) => {
    if (cell.t === 's' || cell.w === undefined || !isFilled(cell)) return;
    const shown = cell.w.trim();
    const column = stored[c]!;
    if (shown === cellText(column, r)) return;
    dictionaries[c] ??= new Dictionary();
    codes[c] ??= new Int32Array(columnLength(column)).fill(-1);
    codes[c][r] = dictionaries[c].code(shown);
  });
  return codes.map((own, c) => (own === undefined ? undefined : { codes: own, texts: dictionaries[c]!.texts }));
}
