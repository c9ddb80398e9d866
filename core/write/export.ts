/** A table as a file in an open format. The same table and choices give the same bytes. */
import { utils, type WorkSheet, write as writeBook } from '@e965/xlsx';
import { zipSync } from 'fflate';
import { parquetWriteBuffer } from 'hyparquet-writer';
import { z } from 'zod';
import type { Column } from '../table/column.ts';
import { type Field, type Table, uniqueName } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';
import { MS } from '../values/civil.ts';
import { escapeHtml as escaped } from './escape-html.ts';
import { type TypedCell, typedCell, unreadableRows } from './typed-cells.ts';

const Common = {
  unreadable: z.enum(['text', 'blank', 'stop']).default('text').describe('What an unreadable cell gives'),
};

export const ExportSpec = z.discriminatedUnion('as', [
  z.object({
    as: z.literal('csv'),
    ...Common,
    delimiter: z.string().length(1).default(','),
    decimal: z.enum(['.', ',']).default('.'),
    quoting: z.enum(['needed', 'all']).default('needed'),
    lineEnd: z.enum(['crlf', 'lf']).default('crlf'),
    bom: z.boolean().default(false),
    guard: z.boolean().default(false).describe("Texts that a spreadsheet would take for a formula get a ' in front"),
  }),
  z.object({ as: z.literal('xlsx'), ...Common }),
  z.object({ as: z.literal('ods'), ...Common }),
  z.object({ as: z.literal('json'), ...Common, layout: z.enum(['rows', 'columns']).default('rows') }),
  z.object({ as: z.literal('ndjson'), ...Common }),
  z.object({ as: z.literal('parquet'), ...Common }),
  z.object({ as: z.literal('markdown'), ...Common }),
  z.object({ as: z.literal('html'), ...Common }),
  z.object({ as: z.literal('data-package'), ...Common }),
]);
export type ExportSpec = z.infer<typeof ExportSpec>;
export type ExportFormat = ExportSpec['as'];

export const EXPORT_FORMATS: Record<ExportFormat, { title: string; ending: string; type: string }> = {
  csv: { title: 'Delimited text', ending: 'csv', type: 'text/csv' },
  xlsx: {
    title: 'Workbook',
    ending: 'xlsx',
    type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  },
  ods: { title: 'OpenDocument spreadsheet', ending: 'ods', type: 'application/vnd.oasis.opendocument.spreadsheet' },
  json: { title: 'JSON', ending: 'json', type: 'application/json' },
  ndjson: { title: 'JSON, a line for each row', ending: 'ndjson', type: 'application/x-ndjson' },
  parquet: { title: 'Parquet', ending: 'parquet', type: 'application/vnd.apache.parquet' },
  markdown: { title: 'Markdown table', ending: 'md', type: 'text/markdown' },
  html: { title: 'HTML table', ending: 'html', type: 'text/html' },
  'data-package': { title: 'Data package (Table Schema)', ending: 'zip', type: 'application/zip' },
};

/** The table holds cells that could not be read, and the export was told to stop at them. */
export class ExportStopped extends Error {
  override name = 'ExportStopped';
}

/** @throws ExportStopped */
export function exportTable(table: Table, name: string, spec: ExportSpec): Uint8Array<ArrayBuffer> {
  const ready = withoutUnreadable(table, spec.unreadable);
  switch (spec.as) {
    case 'csv':
      return encode(delimited(ready, spec));
    case 'xlsx':
    case 'ods':
      return workbook([{ name, table: ready }], spec.as);
    case 'json':
      return encode(json(ready, spec.layout));
    case 'ndjson':
      return encode(
        rowObjects(ready)
          .map((row) => `${JSON.stringify(row)}\n`)
          .join(''),
      );
    case 'parquet':
      return parquet(ready);
    case 'markdown':
      return encode(markdown(ready));
    case 'html':
      return encode(html(ready, name));
    case 'data-package':
      return dataPackage(ready, name);
  }
}

const encode = (text: string) => new TextEncoder().encode(text) as Uint8Array<ArrayBuffer>;

/** Unreadable cells kept as text, made blank, or refused. */
function withoutUnreadable(table: Table, how: 'text' | 'blank' | 'stop'): Table {
  if (how === 'text') return table;
  return {
    ...table,
    fields: table.fields.map((field) => {
      const rows = unreadableRows(field);
      if (rows.length === 0) return field;
      if (how === 'stop')
        throw new ExportStopped(
          `${field.name} has ${rows.length.toLocaleString('en-GB')} unreadable cells, the first in row ${rows[0]! + 1}: nothing was exported. Read them by another type, or export them as text or blank.`,
        );
      return { ...field, column: blanked(field.column, rows) };
    }),
  };
}

function blanked(column: Column, rows: readonly number[]): Column {
  if (column.type === 'text') return column;
  if (column.type === 'received') {
    const tags = column.tags.slice();
    for (const row of rows) tags[row] = 0;
    return { ...column, tags };
  }
  return { type: column.type, values: column.values };
}

/** What a spreadsheet would take for a formula when it opens delimited text. */
const FORMULA = /^[=+\-@\t\r]/;

function delimited(table: Table, spec: Extract<ExportSpec, { as: 'csv' }>): string {
  const end = spec.lineEnd === 'crlf' ? '\r\n' : '\n';
  const quoted = (text: string) =>
    spec.quoting === 'all' || text === '' || text.includes(spec.delimiter) || /["\r\n]/.test(text)
      ? `"${text.replaceAll('"', '""')}"`
      : text;
  const cell = (field: Field, row: number): string => {
    const value = typedCell(field.column, row);
    if (value === null) return '';
    const text = cellText(field.column, row)!;
    if (typeof value === 'number') return quoted(spec.decimal === ',' ? text.replace('.', ',') : text);
    return quoted(spec.guard && FORMULA.test(text) ? `'${text}` : text);
  };
  const lines = [table.fields.map((field) => quoted(field.name)).join(spec.delimiter)];
  for (let r = 0; r < table.rows; r++) {
    const line = table.fields.map((field) => cell(field, r)).join(spec.delimiter);
    lines.push(table.fields.length === 1 && line === '' ? '""' : line);
  }
  return `${spec.bom ? '\ufeff' : ''}${lines.join(end)}${end}`;
}

/** Tables as sheets of one workbook: typed cells, real dates, a filter over the header. */
export function workbook(
  tables: readonly { name: string; table: Table }[],
  bookType: 'xlsx' | 'ods',
): Uint8Array<ArrayBuffer> {
  const book = utils.book_new();
  const taken = new Set<string>();
  for (const { name, table } of tables) utils.book_append_sheet(book, sheetOf(table), sheetName(name, taken));
  return new Uint8Array(
    writeBook(book, { type: 'array', bookType, compression: true, cellDates: false }) as ArrayBuffer,
  );
}

/** Up to 31 characters, none of those that ISO/IEC 29500 leaves out. */
function sheetName(name: string, taken: Set<string>): string {
  const plain =
    name
      .replace(/[\\/?*[\]:]/g, ' ')
      .trim()
      .slice(0, 28) || 'Table';
  return uniqueName(plain, taken);
}

const FORMATS: Record<string, string> = { date: 'yyyy-mm-dd', datetime: 'yyyy-mm-dd hh:mm:ss', time: 'hh:mm:ss' };
/** Days from the workbook's day zero (1900 system, with its leap day of 1900) to 1970-01-01. ISO/IEC 29500. */
const EPOCH = 25_569;

function sheetOf(table: Table): WorkSheet {
  const sheet: WorkSheet = {};
  table.fields.forEach((field, c) => {
    sheet[utils.encode_cell({ r: 0, c })] = { t: 's', v: field.name };
    for (let r = 0; r < table.rows; r++) {
      const value = typedCell(field.column, r);
      if (value === null) continue;
      const own = serialOf(field.column, r);
      sheet[utils.encode_cell({ r: r + 1, c })] =
        own !== undefined
          ? { t: 'n', v: own.serial, z: own.format }
          : typeof value === 'number'
            ? { t: 'n', v: value }
            : typeof value === 'boolean'
              ? { t: 'b', v: value }
              : { t: 's', v: value };
    }
  });
  const range = utils.encode_range({
    s: { r: 0, c: 0 },
    e: { r: table.rows, c: Math.max(0, table.fields.length - 1) },
  });
  sheet['!ref'] = range;
  sheet['!autofilter'] = { ref: range };
  return sheet;
}

function serialOf(column: Column, row: number): { serial: number; format: string } | undefined {
  if (column.type === 'text' || column.type === 'received') return undefined;
  const format = FORMATS[column.type];
  const value = column.values[row]!;
  if (format === undefined || Number.isNaN(value)) return undefined;
  if (column.type === 'time') return { serial: value / MS.day, format };
  const serial = (column.type === 'date' ? value : value / MS.day) + EPOCH;
  // Before March 1900 the workbook's calendar is another: the text says it better.
  return serial < 61 ? undefined : { serial, format };
}

function rowObjects(table: Table): Record<string, TypedCell>[] {
  return Array.from({ length: table.rows }, (_, r) =>
    Object.fromEntries(table.fields.map((field) => [field.name, typedCell(field.column, r)])),
  );
}

function json(table: Table, layout: 'rows' | 'columns'): string {
  if (layout === 'rows') {
    const rows = rowObjects(table).map((row) => JSON.stringify(row));
    return rows.length === 0 ? '[]\n' : `[\n${rows.join(',\n')}\n]\n`;
  }
  const columns = Object.fromEntries(
    table.fields.map((field) => [field.name, Array.from({ length: table.rows }, (_, r) => typedCell(field.column, r))]),
  );
  return `${JSON.stringify(columns)}\n`;
}

/** Columns by their types; a column that mixes kinds, or holds unreadable cells, as text. */
function parquet(table: Table): Uint8Array<ArrayBuffer> {
  const columns = table.fields.map((field) => ({ field, kind: parquetKind(field) }));
  const bytes = parquetWriteBuffer({
    columnData: columns.map(({ field, kind }) => ({
      name: field.name,
      data: Array.from({ length: table.rows }, (_, r) => parquetValue(field.column, r, kind)),
    })),
    schema: [
      { name: 'root', num_children: columns.length },
      ...columns.map(({ field, kind }) => ({
        name: field.name,
        repetition_type: 'OPTIONAL' as const,
        ...SCHEMA[kind],
      })),
    ],
  });
  return new Uint8Array(bytes);
}

type ParquetKind = 'text' | 'number' | 'whole' | 'yesno' | 'date' | 'time' | 'datetime';

const SCHEMA = {
  text: { type: 'BYTE_ARRAY', converted_type: 'UTF8' },
  number: { type: 'DOUBLE' },
  whole: { type: 'INT64' },
  yesno: { type: 'BOOLEAN' },
  date: { type: 'INT32', converted_type: 'DATE' },
  time: { type: 'INT32', converted_type: 'TIME_MILLIS' },
  datetime: { type: 'INT64', converted_type: 'TIMESTAMP_MILLIS' },
} as const;

function parquetKind({ column }: Field): ParquetKind {
  if (column.type === 'text' || column.type === 'received') return 'text';
  return column.unreadable === undefined || column.unreadable.codes.every((code) => code < 0) ? column.type : 'text';
}

function parquetValue(column: Column, row: number, kind: ParquetKind): unknown {
  if (kind === 'text') return cellText(column, row) ?? undefined;
  const value = (column as { values: Float64Array }).values[row]!;
  if (Number.isNaN(value)) return undefined;
  if (kind === 'yesno') return value !== 0;
  if (kind === 'whole') return BigInt(value);
  if (kind === 'datetime') return new Date(value);
  return kind === 'date' ? new Date(value * MS.day) : value;
}

function markdown(table: Table): string {
  const cell = (text: string) => text.replaceAll('|', '\\|').replace(/\r?\n/g, '<br>');
  const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |\n`;
  const ends = table.fields.map((field) =>
    field.column.type === 'number' || field.column.type === 'whole' ? '---:' : '---',
  );
  let text = line(table.fields.map((field) => cell(field.name))) + line(ends);
  for (let r = 0; r < table.rows; r++) text += line(table.fields.map((field) => cell(cellText(field.column, r) ?? '')));
  return text;
}

function html(table: Table, name: string): string {
  const row = (tag: string, cells: readonly string[]) =>
    `<tr>${cells.map((cell) => `<${tag}>${escaped(cell)}</${tag}>`).join('')}</tr>\n`;
  let text = `<!doctype html>\n<html lang="en">\n<meta charset="utf-8">\n<title>${escaped(name)}</title>\n<table>\n<caption>${escaped(name)}</caption>\n<thead>\n`;
  text += `${row(
    'th',
    table.fields.map((field) => field.name),
  )}</thead>\n<tbody>\n`;
  for (let r = 0; r < table.rows; r++)
    text += row(
      'td',
      table.fields.map((field) => cellText(field.column, r) ?? ''),
    );
  return `${text}</tbody>\n</table>\n</html>\n`;
}

/** Types of Table Schema (Frictionless Data, version 1). */
const SCHEMA_TYPES: Record<ParquetKind, string> = {
  text: 'string',
  number: 'number',
  whole: 'integer',
  yesno: 'boolean',
  date: 'date',
  time: 'time',
  datetime: 'datetime',
};

/** A zip of delimited text with its description. */
function dataPackage(table: Table, name: string): Uint8Array<ArrayBuffer> {
  const plain =
    name
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z0-9._-]+/g, '-')
      .replace(/^-+|-+$/g, '') || 'table';
  const fields = table.fields.map((field) => {
    const kind = parquetKind(field);
    return {
      name: field.name,
      type: SCHEMA_TYPES[kind],
      ...(kind === 'yesno' ? { trueValues: ['yes'], falseValues: ['no'] } : {}),
      ...(kind === 'time' || kind === 'datetime' ? { format: 'any' } : {}),
    };
  });
  const description = {
    profile: 'tabular-data-package',
    name: plain,
    title: name,
    resources: [
      {
        profile: 'tabular-data-resource',
        name: plain,
        path: `${plain}.csv`,
        format: 'csv',
        mediatype: 'text/csv',
        encoding: 'utf-8',
        dialect: { delimiter: ',', lineTerminator: '\r\n', quoteChar: '"', doubleQuote: true, header: true },
        schema: { fields, missingValues: [''] },
      },
    ],
  };
  const spec = ExportSpec.parse({ as: 'csv' }) as Extract<ExportSpec, { as: 'csv' }>;
  return zipSync(
    {
      'datapackage.json': encode(`${JSON.stringify(description, null, 2)}\n`),
      [`${plain}.csv`]: encode(delimited(table, spec)),
    },
    { mtime: new Date(1980, 0, 1) },
  ) as Uint8Array<ArrayBuffer>;
}

/** Files of several tables in one archive. */
export function exportAll(
  tables: readonly { name: string; table: Table }[],
  spec: ExportSpec,
): Uint8Array<ArrayBuffer> {
  const taken = new Set<string>();
  const files = Object.fromEntries(
    tables.map(({ name, table }) => [
      `${uniqueName(name.replace(/[\\/:*?"<>|]/g, ' '), taken)}.${EXPORT_FORMATS[spec.as].ending}`,
      exportTable(table, name, spec),
    ]),
  );
  return zipSync(files, { mtime: new Date(1980, 0, 1) }) as Uint8Array<ArrayBuffer>;
}
