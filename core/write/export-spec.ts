import { z } from 'zod';

const Common = {
  unreadable: z.enum(['text', 'blank', 'stop']).default('text').describe('What an unreadable cell gives'),
};

/** Sheets that a workbook holds beside its tables. */
const Beside = {
  method: z.boolean().default(false).describe('A sheet with the method as sentences'),
  piles: z.boolean().default(false).describe('A sheet for each pile of rows that were set aside'),
};

export const TEXT_ENCODINGS = {
  'utf-8': 'UTF-8',
  'utf-16le': 'UTF-16 (little-endian)',
  'windows-1252': 'Windows-1252 (western)',
  'windows-1250': 'Windows-1250 (central European)',
  'iso-8859-15': 'ISO 8859-15 (western)',
} as const;

export const YES_NO = ['yes/no', 'true/false', '1/0'] as const;

export const ExportSpec = z.discriminatedUnion('as', [
  z.object({
    as: z.literal('csv'),
    ...Common,
    delimiter: z.string().length(1).default(','),
    decimal: z.enum(['.', ',']).default('.'),
    yesno: z.enum(YES_NO).default('yes/no').describe('How yes and no are written'),
    quoting: z.enum(['needed', 'all']).default('needed'),
    lineEnd: z.enum(['crlf', 'lf']).default('crlf'),
    encoding: z.enum(Object.keys(TEXT_ENCODINGS) as (keyof typeof TEXT_ENCODINGS)[]).default('utf-8'),
    bom: z.boolean().default(false).describe('A byte order mark in front; UTF encodings only'),
    guard: z
      .boolean()
      .default(true)
      .describe("Texts and names that a spreadsheet would take for a formula get a ' in front"),
  }),
  z.object({ as: z.literal('xlsx'), ...Common, ...Beside }),
  z.object({ as: z.literal('ods'), ...Common, ...Beside }),
  z.object({ as: z.literal('json'), ...Common, layout: z.enum(['rows', 'columns']).default('rows') }),
  z.object({ as: z.literal('ndjson'), ...Common }),
  z.object({ as: z.literal('parquet'), ...Common }),
  z.object({ as: z.literal('arrow'), ...Common }),
  z.object({ as: z.literal('sqlite'), ...Common }),
  z.object({ as: z.literal('markdown'), ...Common }),
  z.object({ as: z.literal('html'), ...Common }),
  z.object({ as: z.literal('data-package'), ...Common }),
]);
export type ExportSpec = z.infer<typeof ExportSpec>;
export type ExportFormat = ExportSpec['as'];
export type DelimitedSpec = Extract<ExportSpec, { as: 'csv' }>;

export interface FormatEntry {
  title: string;
  ending: string;
  type: string;
  /** One file can hold several tables. */
  many?: true;
}

export const EXPORT_FORMATS: Record<ExportFormat, FormatEntry> = {
  csv: { title: 'Delimited text', ending: 'csv', type: 'text/csv' },
  xlsx: {
    title: 'Workbook',
    ending: 'xlsx',
    type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    many: true,
  },
  ods: {
    title: 'OpenDocument spreadsheet',
    ending: 'ods',
    type: 'application/vnd.oasis.opendocument.spreadsheet',
    many: true,
  },
  json: { title: 'JSON', ending: 'json', type: 'application/json' },
  ndjson: { title: 'JSON, a line for each row', ending: 'ndjson', type: 'application/x-ndjson' },
  parquet: { title: 'Parquet', ending: 'parquet', type: 'application/vnd.apache.parquet' },
  arrow: { title: 'Arrow', ending: 'arrow', type: 'application/vnd.apache.arrow.file' },
  sqlite: { title: 'SQLite database', ending: 'sqlite', type: 'application/vnd.sqlite3', many: true },
  markdown: { title: 'Markdown table', ending: 'md', type: 'text/markdown' },
  html: { title: 'HTML table', ending: 'html', type: 'text/html' },
  'data-package': { title: 'Data package (Table Schema)', ending: 'zip', type: 'application/zip', many: true },
};

/** The table holds something that the export was told to stop at, or cannot hold. */
export class ExportStopped extends Error {
  override name = 'ExportStopped';
}
