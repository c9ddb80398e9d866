import { z } from 'zod';
import { type FormatChoice, type FormatKind, format, yesNo } from './format-kind.ts';

export const TEXT_ENCODINGS = {
  'utf-8': 'UTF-8',
  'utf-16le': 'UTF-16 (little-endian)',
  'windows-1252': 'Windows-1252 (western)',
  'windows-1250': 'Windows-1250 (central European)',
  'iso-8859-15': 'ISO 8859-15 (western)',
} as const;

export const YES_NO = ['yes/no', 'true/false', '1/0'] as const;

/** Characters of a cell (ISO/IEC 29500, 18.3.1.4 and the limits of spreadsheet programs). */
const MAX_CELL = 32_767;

/** Sheets that a workbook holds beside its tables. */
const Beside = {
  method: z.boolean().default(false).describe('A sheet with the method as sentences'),
  piles: z.boolean().default(false).describe('A sheet for each pile of rows that were set aside'),
};

const BESIDE: readonly FormatChoice[] = [
  { param: 'method', label: 'Method', words: yesNo('no sheet for the method', 'with a sheet that says the method') },
  { param: 'piles', label: 'Piles', words: yesNo('no sheets for the piles', 'with a sheet for each pile') },
];

const csv = format(
  'csv',
  {
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
  },
  {
    title: 'Delimited text',
    ending: 'csv',
    type: 'text/csv',
    limits: { halves: (spec) => spec['encoding'] === 'utf-16le' },
    choices: [
      {
        param: 'delimiter',
        label: 'Delimiter',
        words: [
          [',', 'comma'],
          [';', 'semicolon'],
          ['\t', 'tab'],
          ['|', 'bar'],
        ],
      },
      {
        param: 'decimal',
        label: 'Decimal mark',
        words: [
          ['.', 'decimal point'],
          [',', 'decimal comma'],
        ],
      },
      { param: 'yesno', label: 'Yes and no', words: YES_NO.map((words) => [words, `yes and no as ${words}`]) },
      {
        param: 'quoting',
        label: 'Quoting',
        words: [
          ['needed', 'quotes where they are needed'],
          ['all', 'quotes around every cell'],
        ],
      },
      {
        param: 'lineEnd',
        label: 'Line ends',
        words: [
          ['crlf', 'line ends CR LF'],
          ['lf', 'line ends LF'],
        ],
      },
      { param: 'encoding', label: 'Encoding', words: Object.entries(TEXT_ENCODINGS) },
      {
        param: 'bom',
        label: 'Byte order mark',
        words: yesNo('no byte order mark', 'with a byte order mark'),
        when: (spec) => String(spec['encoding']).startsWith('utf'),
      },
      {
        param: 'guard',
        label: 'Formulas',
        words: yesNo('texts as they are', 'guard texts that a spreadsheet would compute'),
      },
    ],
  },
);

const xlsx = format('xlsx', Beside, {
  title: 'Workbook',
  ending: 'xlsx',
  type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  many: true,
  limits: { cell: MAX_CELL },
  choices: BESIDE,
});

const ods = format('ods', Beside, {
  title: 'OpenDocument spreadsheet',
  ending: 'ods',
  type: 'application/vnd.oasis.opendocument.spreadsheet',
  many: true,
  limits: { cell: MAX_CELL, noControls: true },
  choices: BESIDE,
});

const json = format(
  'json',
  { layout: z.enum(['rows', 'columns']).default('rows') },
  {
    title: 'JSON',
    ending: 'json',
    type: 'application/json',
    choices: [
      {
        param: 'layout',
        label: 'Layout',
        words: [
          ['rows', 'an object for each row'],
          ['columns', 'a list for each column'],
        ],
      },
    ],
  },
);

const ndjson = format(
  'ndjson',
  {},
  {
    title: 'JSON, a line for each row',
    ending: 'ndjson',
    type: 'application/x-ndjson',
  },
);

const parquet = format(
  'parquet',
  {},
  {
    title: 'Parquet',
    ending: 'parquet',
    type: 'application/vnd.apache.parquet',
    limits: { typed: true },
  },
);

const arrow = format(
  'arrow',
  {},
  {
    title: 'Arrow',
    ending: 'arrow',
    type: 'application/vnd.apache.arrow.file',
    limits: { typed: true },
  },
);

const sqlite = format(
  'sqlite',
  {},
  {
    title: 'SQLite database',
    ending: 'sqlite',
    type: 'application/vnd.sqlite3',
    many: true,
    limits: { typed: true },
  },
);

const markdown = format(
  'markdown',
  {},
  {
    title: 'Markdown table',
    ending: 'md',
    type: 'text/markdown',
  },
);

const html = format(
  'html',
  {},
  {
    title: 'HTML table',
    ending: 'html',
    type: 'text/html',
  },
);

const dataPackage = format(
  'data-package',
  {},
  {
    title: 'Data package (Table Schema)',
    ending: 'zip',
    type: 'application/zip',
    many: true,
  },
);

/** All export formats by name, in the order in which they are offered. */
export const FORMATS = {
  csv,
  xlsx,
  ods,
  json,
  ndjson,
  parquet,
  arrow,
  sqlite,
  markdown,
  html,
  'data-package': dataPackage,
} as const;

export type ExportFormat = keyof typeof FORMATS;
export type SpecOf<F extends ExportFormat> = z.infer<(typeof FORMATS)[F]['schema']>;
export type ExportSpec = { [F in ExportFormat]: SpecOf<F> }[ExportFormat];
export type DelimitedSpec = SpecOf<'csv'>;

type Schemas = (typeof FORMATS)[ExportFormat]['schema'];

export const ExportSpec = z.discriminatedUnion(
  'as',
  Object.values(FORMATS).map((format) => format.schema) as unknown as [Schemas, ...Schemas[]],
);

/** The same without the types of each format's own params, for what holds of all. */
export const EXPORT_FORMATS: Readonly<Record<ExportFormat, FormatKind<z.ZodObject>>> = FORMATS;

/** The table holds something that the export was asked to stop at, or cannot hold. */
export class ExportStopped extends Error {
  override name = 'ExportStopped';
}
