import { ExportStopped } from '../formats/export-spec.ts';
import { countedColumn, textColumn } from '../table/builder.ts';
import { makeTable, type Table } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';
import { grouped } from '../values/counted.ts';
import { freeName } from '../values/free-name.ts';
import type { Exported } from './exported.ts';
import { type BookSheet, writeBook } from './sheet-xml/write-book.ts';
import { writeOpenDocument } from './write-open-document.ts';

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
): Uint8Array<ArrayBuffer> | Promise<Uint8Array<ArrayBuffer>> {
  // Spreadsheet programs keep this name for their own sheet.
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
const MAX_ROWS = 1_048_576;
const MAX_COLUMNS = 16_384;

function refuseTooLarge(table: Table): void {
  if (table.rows >= MAX_ROWS || table.fields.length > MAX_COLUMNS)
    throw new ExportStopped(
      `The table has ${grouped(table.rows)} rows and ${grouped(table.fields.length)} columns; a sheet holds ${grouped(MAX_ROWS - 1)} under its header, and ${grouped(MAX_COLUMNS)} columns. Choose another format.`,
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
