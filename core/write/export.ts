/** A table as a file in an open format. The same table and choices give the same bytes. */

import { zipSync } from 'fflate';
import type { Column } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import { freeName } from '../values/free-name.ts';
import { EXPORT_FORMATS, type ExportSpec, ExportStopped } from './export-spec.ts';
import type { Exported } from './exported.ts';
import { refuseUnfit } from './fits.ts';
import { unreadableRows } from './typed-cells.ts';
import { writeArrow } from './write-arrow.ts';
import { writeDataPackage } from './write-data-package.ts';
import { writeDelimited } from './write-delimited.ts';
import { jsonText, linesOfJson } from './write-json.ts';
import { htmlPage, markdownText } from './write-pages.ts';
import { writeParquet } from './write-parquet.ts';
import { writeSqlite } from './write-sqlite.ts';
import { writeWorkbook } from './write-workbook.ts';
import { ZIP_TIME } from './zip-time.ts';

/** @throws ExportStopped */
export async function exportTable(given: Exported, spec: ExportSpec): Promise<Uint8Array<ArrayBuffer>> {
  const ready = { ...given, table: withoutUnreadable(given.table, spec.unreadable) };
  const { table, name } = ready;
  refuseUnfit(table, spec);
  switch (spec.as) {
    case 'csv':
      return writeDelimited(table, spec);
    case 'json':
      return encode(jsonText(table, spec.layout));
    case 'ndjson':
      return encode(linesOfJson(table));
    case 'parquet':
      return writeParquet(table);
    case 'arrow':
      return writeArrow(table);
    case 'markdown':
      return encode(markdownText(table));
    case 'html':
      return encode(htmlPage(table, name));
    default:
      return together([ready], name, spec);
  }
}

/**
 * Several tables: in one file where the format can hold them, else as an archive of files.
 * @throws ExportStopped
 */
export async function exportAll(
  tables: readonly Exported[],
  name: string,
  spec: ExportSpec,
): Promise<Uint8Array<ArrayBuffer>> {
  if (EXPORT_FORMATS[spec.as].many === true) {
    const ready = tables.map((one) => ({ ...one, table: withoutUnreadable(one.table, spec.unreadable, one.name) }));
    for (const one of ready) refuseUnfit(one.table, spec, one.name);
    return together(ready, name, spec as ManySpec);
  }
  const taken = new Set<string>();
  const files: Record<string, Uint8Array> = {};
  for (const one of tables) {
    const plain = freeName(one.name.replace(/[\\/:*?"<>|]/g, ' ').trim() || 'Table', taken);
    files[`${plain}.${EXPORT_FORMATS[spec.as].ending}`] = await exportTable(one, spec);
  }
  return zipSync(files, { mtime: ZIP_TIME }) as Uint8Array<ArrayBuffer>;
}

type ManySpec = Extract<ExportSpec, { as: 'xlsx' | 'ods' | 'sqlite' | 'data-package' }>;

async function together(tables: readonly Exported[], name: string, spec: ManySpec): Promise<Uint8Array<ArrayBuffer>> {
  switch (spec.as) {
    case 'sqlite':
      return writeSqlite(tables);
    case 'data-package':
      return writeDataPackage(tables, name);
    default:
      return writeWorkbook(tables, spec.as, spec);
  }
}

const encode = (text: string) => new TextEncoder().encode(text) as Uint8Array<ArrayBuffer>;

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
