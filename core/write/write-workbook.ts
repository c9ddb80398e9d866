import { utils, type WorkBook, type WorkSheet, write } from '@e965/xlsx';
import { ExportStopped } from '../formats/export-spec.ts';
import { countedColumn, textColumn } from '../table/builder.ts';
import type { Column } from '../table/column.ts';
import { makeTable, type Table } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';
import { grouped } from '../values/counted.ts';
import { freeName } from '../values/free-name.ts';
import type { Exported } from './exported.ts';
import { type BookSheet, writeBook } from './sheet-xml/write-book.ts';
import { typedCell } from './typed-cells.ts';
import { serialOf } from './workbook-dates.ts';

/** Sheets beside the tables. */
export interface Beside {
  method: boolean;
  piles: boolean;
}

/**
 * Tables as sheets of one workbook: typed cells, real dates, a header that stays in sight with a filter over it.
 * @throws ExportStopped when a sheet has no room for a table (1,048,576 rows by 16,384 columns, ISO/IEC 29500)
 */
export function writeWorkbook(
  tables: readonly Exported[],
  bookType: 'xlsx' | 'ods',
  beside: Beside,
): Uint8Array<ArrayBuffer> {
  // Spreadsheet programs keep this name for a sheet of their own.
  const taken = new Set(['history']);
  const sheets: BookSheet[] = [];
  const add = (name: string, table: Table, filtered: boolean) => {
    refuseTooLarge(table);
    sheets.push({ name: sheetName(name, taken), table, filtered, widths: widthsOf(table) });
  };
  for (const { name, table } of tables) add(name, table, true);
  for (const one of tables) {
    const lead = tables.length > 1 ? `${one.name}: ` : '';
    if (beside.method && one.method !== undefined) add(`${lead}method`, methodTable(one.method), false);
    if (beside.piles) for (const pile of one.piles ?? []) add(`${lead}${pile.name}`, pile.table, true);
  }
  return bookType === 'xlsx' ? writeBook(sheets) : writeOpenDocument(sheets);
}

/** Up to 31 characters, none of those that ISO/IEC 29500 leaves out. */
function sheetName(name: string, taken: Set<string>): string {
  const plain =
    name
      .replace(/[\\/?*[\]:]/g, ' ')
      .replace(/^'+|'+$/g, '')
      .trim()
      .slice(0, 28) || 'Table';
  return freeName(plain, taken);
}

const WIDEST = 60;
const NARROWEST = 6;
/** Rows that are looked at for how wide a column is. */
const MEASURED_ROWS = 200;
const MOST_ROWS = 1_048_576;
const MOST_COLUMNS = 16_384;

function refuseTooLarge(table: Table): void {
  if (table.rows >= MOST_ROWS || table.fields.length > MOST_COLUMNS)
    throw new ExportStopped(
      `The table has ${grouped(table.rows)} rows and ${grouped(table.fields.length)} columns; a sheet holds ${grouped(MOST_ROWS - 1)} under its header, and ${grouped(MOST_COLUMNS)} columns. Choose another format.`,
    );
}

function widthsOf(table: Table): number[] {
  return table.fields.map(({ name, column }) => {
    let longest = Math.max(NARROWEST, name.length);
    for (let r = 0; r < Math.min(table.rows, MEASURED_ROWS); r++)
      longest = Math.max(longest, cellText(column, r)?.length ?? 0);
    return Math.min(WIDEST, longest + 2);
  });
}

function methodTable(method: NonNullable<Exported['method']>): Table {
  return makeTable({
    Step: countedColumn(
      'whole',
      method.map((_, k) => k + 1),
    ),
    'What it does': textColumn(method.map(({ sentence }) => sentence)),
    'Rows after it': countedColumn(
      'whole',
      method.map(({ rows }) => rows),
    ),
    Note: textColumn(method.map(({ note }) => note ?? null)),
  });
}

type Cell = { t: 's' | 'n' | 'b'; v: string | number | boolean; z?: string };

/** OpenDocument wants literal characters to be quoted. */
const ODF_FORMATS: Record<string, string> = {
  date: 'yyyy"-"mm"-"dd',
  datetime: 'yyyy"-"mm"-"dd" "hh:mm:ss',
  time: 'hh:mm:ss',
};
/** The first number of formats that are not built in (ISO/IEC 29500). */
const FIRST_FORMAT = 164;

function writeOpenDocument(sheets: readonly BookSheet[]): Uint8Array<ArrayBuffer> {
  const book: WorkBook = utils.book_new();
  setFormats(book, Object.values(ODF_FORMATS));
  for (const { name, table, filtered, widths } of sheets)
    utils.book_append_sheet(book, denseSheet(table, filtered, widths), name);
  return new Uint8Array(
    write(book, { type: 'array', bookType: 'ods', compression: true, cellDates: false }) as ArrayBuffer,
  );
}

/** The library would number formats by what it read before in this process: the same table would give other bytes. */
export function setFormats(book: WorkBook, formats: readonly string[]): void {
  const numbered = formats.map((format, k) => [FIRST_FORMAT + k, format]);
  Object.assign(book, { SSF: { 0: 'General', ...Object.fromEntries(numbered) } });
}

function denseSheet(table: Table, filtered: boolean, widths: readonly number[]): WorkSheet {
  const rows: (Cell | undefined)[][] = [table.fields.map(({ name }) => ({ t: 's', v: name }))];
  for (let r = 0; r < table.rows; r++) rows.push(table.fields.map(({ column }) => cellOf(column, r)));
  const columns = Math.max(1, table.fields.length);
  const range = utils.encode_range({ s: { r: 0, c: 0 }, e: { r: table.rows, c: columns - 1 } });
  return {
    '!ref': range,
    '!data': rows,
    '!cols': widths.map((wch) => ({ wch })),
    ...(filtered ? { '!autofilter': { ref: range } } : {}),
  } as unknown as WorkSheet;
}

function cellOf(column: Column, row: number): Cell | undefined {
  const value = typedCell(column, row);
  if (value === null) return undefined;
  const serial = serialOf(column, row);
  if (serial !== undefined) return { t: 'n', v: serial, z: ODF_FORMATS[column.type]! };
  if (typeof value === 'string') return { t: 's', v: value };
  return { t: typeof value === 'number' ? 'n' : 'b', v: value };
}
