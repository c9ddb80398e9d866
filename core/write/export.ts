/** A table as a file in an open format. The same table and choices give the same bytes. */

import { zipSync } from 'fflate';
import {
  EXPORT_FORMATS,
  type ExportFormat,
  type ExportSpec,
  ExportStopped,
  type SpecOf,
} from '../formats/export-spec.ts';
import type { Column } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import { freeName } from '../values/free-name.ts';
import type { Exported } from './exported.ts';
import { refuseUnfit } from './fits.ts';
import { writeParquet } from './parquet/write-parquet.ts';
import { unreadableRows } from './typed-cells.ts';
import { writeArrow } from './write-arrow.ts';
import { writeDataPackage } from './write-data-package.ts';
import { writeDelimited } from './write-delimited.ts';
import { writeJson, writeJsonLines } from './write-json.ts';
import { markdownText, writeHtmlPage } from './write-pages.ts';
import { writeSqlite } from './write-sqlite.ts';
import { writeWorkbook } from './write-workbook.ts';
import { ZIP_TIME } from './zip-time.ts';

type Bytes = Uint8Array<ArrayBuffer>;
type Writer<F extends ExportFormat> = (
  tables: readonly Exported[],
  name: string,
  spec: SpecOf<F>,
) => Bytes | Promise<Bytes>;

/** What writes each format. Formats that hold one table only are given one. */
const WRITERS: { [F in ExportFormat]: Writer<F> } = {
  csv: ([one], _, spec) => writeDelimited(one!.table, spec),
  xlsx: (tables, _, spec) => writeWorkbook(tables, 'xlsx', spec),
  ods: (tables, _, spec) => writeWorkbook(tables, 'ods', spec),
  json: ([one], _, spec) => writeJson(one!.table, spec.layout),
  ndjson: ([one]) => writeJsonLines(one!.table),
  parquet: ([one]) => writeParquet(one!.table),
  arrow: ([one]) => writeArrow(one!.table),
  sqlite: (tables) => writeSqlite(tables),
  markdown: ([one]) => encode(markdownText(one!.table)),
  html: ([one], name) => writeHtmlPage(one!.table, name),
  'data-package': (tables, name) => writeDataPackage(tables, name),
};

/** @throws ExportStopped */
export function exportTable(given: Exported, spec: ExportSpec): Promise<Bytes> {
  return written([given], given.name, spec);
}

/**
 * Several tables: in one file where the format can hold them, else as an archive of files.
 * @throws ExportStopped
 */
export async function exportAll(tables: readonly Exported[], name: string, spec: ExportSpec): Promise<Bytes> {
  if (EXPORT_FORMATS[spec.as].many === true) return written(tables, name, spec);
  const taken = new Set<string>();
  const files: Record<string, Uint8Array> = {};
  for (const one of tables) {
    const plain = freeName(one.name.replace(/[\\/:*?"<>|]/g, ' ').trim() || 'Table', taken);
    files[`${plain}.${EXPORT_FORMATS[spec.as].ending}`] = await exportTable(one, spec);
  }
  return zipSync(files, { mtime: ZIP_TIME }) as Bytes;
}

/** In one file. Where several go out, what is wrong with one is reported under its name. */
async function written(given: readonly Exported[], name: string, spec: ExportSpec): Promise<Bytes> {
  const ready = given.map((one) => {
    const of = given.length > 1 ? one.name : undefined;
    const table = withoutUnreadable(one.table, spec.unreadable, of);
    refuseUnfit(table, spec, of);
    return { ...one, table };
  });
  return (WRITERS[spec.as] as Writer<ExportFormat>)(ready, name, spec);
}

const encode = (text: string) => new TextEncoder().encode(text) as Bytes;

/** Unreadable cells kept as text, made blank, or refused. */
function withoutUnreadable(table: Table, how: 'text' | 'blank' | 'stop', of?: string): Table {
  if (how === 'text') return table;
  return {
    ...table,
    fields: table.fields.map((field) => {
      const rows = unreadableRows(field);
      if (rows.length === 0) return field;
      if (how === 'stop')
        throw new ExportStopped(
          `${of === undefined ? '' : `${of}: `}${field.name} has ${counted(rows.length, 'unreadable cell')}, the first in row ${rows[0]! + 1}: nothing was exported. Read them by another type, or export them as text or blank.`,
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
