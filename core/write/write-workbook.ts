import { utils, type WorkBook, type WorkSheet, write as writeBook } from '@e965/xlsx';
import { unzipSync, zipSync } from 'fflate';
import { ExportStopped } from '../formats/export-spec.ts';
import type { Column } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { MS, SERIAL_10000 } from '../values/civil.ts';
import { grouped } from '../values/counted.ts';
import { freeName } from '../values/free-name.ts';
import type { Exported } from './exported.ts';
import { typedCell } from './typed-cells.ts';
import { ZIP_TIME } from './zip-time.ts';

/** Sheets beside the tables. */
export interface Beside {
  method: boolean;
  piles: boolean;
}

type Cell = { t: 's' | 'n' | 'b'; v: string | number | boolean; z?: string };

/** Tables as sheets of one workbook: typed cells, real dates, a header that stays in sight with a filter over it. */
export function writeWorkbook(
  tables: readonly Exported[],
  bookType: 'xlsx' | 'ods',
  beside: Beside,
): Uint8Array<ArrayBuffer> {
  const book: WorkBook = utils.book_new();
  const formats = bookType === 'ods' ? ODF_FORMATS : FORMATS;
  setFormats(book, Object.values(formats));
  // Spreadsheet programs keep this name for a sheet of their own.
  const taken = new Set(['history']);
  const add = (name: string, sheet: WorkSheet) => utils.book_append_sheet(book, sheet, sheetName(name, taken));
  for (const { name, table } of tables) add(name, sheetOf(table, formats, bookType));
  for (const one of tables) {
    const lead = tables.length > 1 ? `${one.name}: ` : '';
    if (beside.method && one.method !== undefined) add(`${lead}method`, methodSheet(one.method));
    if (beside.piles)
      for (const pile of one.piles ?? []) add(`${lead}${pile.name}`, sheetOf(pile.table, formats, bookType));
  }
  const bytes = new Uint8Array(
    writeBook(book, { type: 'array', bookType, compression: bookType === 'ods', cellDates: false }) as ArrayBuffer,
  );
  return bookType === 'xlsx' ? withHeaders(bytes) : bytes;
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

type Formats = Record<string, string>;
const FORMATS: Formats = { date: 'yyyy-mm-dd', datetime: 'yyyy-mm-dd hh:mm:ss', time: 'hh:mm:ss' };
/** The first number of formats that are not built in (ISO/IEC 29500). */
const FIRST_FORMAT = 164;

/** The library would number formats by what it read before in this process: the same table would give other bytes. */
export function setFormats(book: WorkBook, formats: readonly string[]): void {
  const numbered = formats.map((format, k) => [FIRST_FORMAT + k, format]);
  Object.assign(book, { SSF: { 0: 'General', ...Object.fromEntries(numbered) } });
}

/** OpenDocument wants literal characters to be quoted. */
const ODF_FORMATS: Formats = { date: 'yyyy"-"mm"-"dd', datetime: 'yyyy"-"mm"-"dd" "hh:mm:ss', time: 'hh:mm:ss' };
/** Days from the workbook's day zero (1900 system, with its leap day of 1900) to 1970-01-01. ISO/IEC 29500. */
const EPOCH = 25_569;
const WIDEST = 60;
/** Of deflate: nearly as small as the usual 6, and much faster for sheets. */
const LEVEL = 3;
const MOST_ROWS = 1_048_576;
const MOST_COLUMNS = 16_384;

/** @throws ExportStopped when a sheet has no room for the table (1,048,576 rows by 16,384 columns, ISO/IEC 29500) */
function sheetOf(table: Table, formats: Formats, bookType: 'xlsx' | 'ods'): WorkSheet {
  if (table.rows >= MOST_ROWS || table.fields.length > MOST_COLUMNS)
    throw new ExportStopped(
      `The table has ${grouped(table.rows)} rows and ${grouped(table.fields.length)} columns; a sheet holds ${grouped(MOST_ROWS - 1)} under its header, and ${grouped(MOST_COLUMNS)} columns. Choose another format.`,
    );
  const plain = bookType === 'xlsx' ? escaped : (text: string) => text;
  const rows: (Cell | undefined)[][] = [table.fields.map((field) => ({ t: 's', v: plain(field.name) }))];
  for (let r = 0; r < table.rows; r++) rows.push(table.fields.map((field) => cellOf(field.column, r, formats, plain)));
  return denseSheet(rows, true);
}

function methodSheet(method: NonNullable<Exported['method']>): WorkSheet {
  const text = (v: string): Cell => ({ t: 's', v });
  return denseSheet(
    [
      ['Step', 'What it does', 'Rows after it', 'Note'].map(text),
      ...method.map(({ sentence, note, rows }, k): (Cell | undefined)[] => [
        { t: 'n', v: k + 1 },
        text(sentence),
        { t: 'n', v: rows },
        note === undefined ? undefined : text(note),
      ]),
    ],
    false,
  );
}

function denseSheet(rows: readonly (readonly (Cell | undefined)[])[], filtered: boolean): WorkSheet {
  const columns = Math.max(1, rows[0]!.length);
  const range = utils.encode_range({ s: { r: 0, c: 0 }, e: { r: rows.length - 1, c: columns - 1 } });
  const widths = Array.from({ length: columns }, (_, c) =>
    Math.max(6, ...rows.slice(0, 200).map((row) => String(row[c]?.z ?? row[c]?.v ?? '').length)),
  );
  return {
    '!ref': range,
    '!data': rows,
    '!cols': widths.map((wch) => ({ wch: Math.min(WIDEST, wch + 2) })),
    ...(filtered ? { '!autofilter': { ref: range } } : {}),
  } as unknown as WorkSheet;
}

function cellOf(column: Column, row: number, formats: Formats, plain: (text: string) => string): Cell | undefined {
  const value = typedCell(column, row);
  if (value === null) return undefined;
  const own = serialOf(column, row, formats);
  if (own !== undefined) return { t: 'n', v: own.serial, z: own.format };
  if (typeof value === 'string') return { t: 's', v: plain(value) };
  return { t: typeof value === 'number' ? 'n' : 'b', v: value };
}

function serialOf(column: Column, row: number, formats: Formats): { serial: number; format: string } | undefined {
  if (column.type === 'text' || column.type === 'received') return undefined;
  const format = formats[column.type];
  const value = column.values[row]!;
  if (format === undefined || Number.isNaN(value)) return undefined;
  if (column.type === 'time') return { serial: value / MS.day, format };
  const serial = (column.type === 'date' ? value : value / MS.day) + EPOCH;
  // Before March 1900 the workbook's calendar is another: the text says it better.
  return serial < 61 || serial >= SERIAL_10000 ? undefined : { serial, format };
}

/** Texts that read like an escaped character are escaped themselves (ISO/IEC 29500, 22.9.2.19: ST_Xstring). */
function escaped(text: string): string {
  return text.replace(/_(?=x[0-9a-f]{4}_)/gi, '_x005F_');
}

/** The library writes no styles: headers in bold that stay in sight are put into the sheets it wrote. */
function withHeaders(bytes: Uint8Array): Uint8Array<ArrayBuffer> {
  const files = unzipSync(bytes);
  const change = (name: string, how: (text: string) => string) => {
    files[name] = new TextEncoder().encode(how(new TextDecoder().decode(files[name]!)));
  };
  let style = 0;
  change('xl/styles.xml', (text) => {
    const count = (tag: string) => Number(new RegExp(`<${tag} count="(\\d+)"`).exec(text)![1]);
    const [fonts, formats] = [count('fonts'), count('cellXfs')];
    style = formats;
    return text
      .replace(`<fonts count="${fonts}">`, `<fonts count="${fonts + 1}">`)
      .replace(
        '</fonts>',
        '<font><b/><sz val="12"/><color theme="1"/><name val="Calibri"/><family val="2"/></font></fonts>',
      )
      .replace(`<cellXfs count="${formats}">`, `<cellXfs count="${formats + 1}">`)
      .replace(
        '</cellXfs>',
        `<xf numFmtId="0" fontId="${fonts}" fillId="0" borderId="0" xfId="0" applyFont="1"/></cellXfs>`,
      );
  });
  const pane = '<pane ySplit="1" topLeftCell="A2" activePane="bottomLeft" state="frozen"/>';
  for (const name of Object.keys(files).filter((one) => one.startsWith('xl/worksheets/sheet')))
    change(name, (text) => {
      const end = text.indexOf('</row>');
      return `${text.slice(0, end).replaceAll('<c ', `<c s="${style}" `)}${text.slice(end)}`.replace(
        /<sheetView ([^>]*?)\/>/,
        `<sheetView $1>${pane}</sheetView>`,
      );
    });
  return zipSync(files, { mtime: ZIP_TIME, level: LEVEL }) as Uint8Array<ArrayBuffer>;
}
