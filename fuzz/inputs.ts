/** The inputs of each reader: what is whole, what was changed by accident or on purpose, and what grammars give. */
import { readFileSync } from 'node:fs';
import { type BookType, utils, type WorkBook, write } from '@e965/xlsx';
import { gzipSync, strToU8, zipSync } from 'fflate';
import { countedColumn, makeTable, type Table, textColumn } from '../core/index.ts';
import { writeParquet } from '../core/write/parquet/write-parquet.ts';
import { writeArrow } from '../core/write/write-arrow.ts';
import { writeSqlite } from '../core/write/write-sqlite.ts';
import { ZIP_TIME } from '../core/write/zip-time.ts';
import * as grammars from './grammars.ts';
import { mutated, mutatedInside } from './mutate.ts';
import { Random } from './random.ts';

/** An archive that bears the same time whenever it is packed. */
const zipped = (files: Record<string, Uint8Array>) => zipSync(files, { mtime: ZIP_TIME }) as Uint8Array<ArrayBuffer>;

export interface Input {
  name: string;
  bytes: Uint8Array<ArrayBuffer>;
  /** A kind of reading that is asked for; else the one that is guessed. */
  kind?: string;
  /** What the bytes were before they were damaged, where a check sum tells of it. */
  whole?: Uint8Array<ArrayBuffer>;
}

const fileOf = (name: string) =>
  new Uint8Array(readFileSync(new URL(`../demo/files/${name}`, import.meta.url))) as Uint8Array<ArrayBuffer>;

/** A small workbook with what workbooks have: dates, merges, comments, hidden rows, formulas, errors. */
function book(): WorkBook {
  const sheet = utils.aoa_to_sheet(
    [
      ['Skerrow Ferries', null, null, null],
      ['Port', 'Sailing', 'Foot', 'Open'],
      ['Hask', new Date(Date.UTC(2031, 0, 4)), 12.5, true],
      ['Ullin', new Date(Date.UTC(2031, 0, 5, 7, 10)), 7, false],
      [null, null, 19.5, null],
    ],
    { UTC: true },
  );
  sheet['!merges'] = [
    { s: { r: 0, c: 0 }, e: { r: 0, c: 3 } },
    { s: { r: 2, c: 0 }, e: { r: 2, c: 0 } },
  ];
  sheet['!rows'] = [{}, {}, {}, { hidden: true }];
  sheet['!cols'] = [{}, { hidden: true }];
  sheet['C5'] = { t: 'n', v: 19.5, f: 'SUM(C3:C4)' };
  sheet['D5'] = { t: 'e', v: 0x2a };
  utils.cell_add_comment(sheet['C3'], 'counted twice', 'Isla');
  const other = utils.aoa_to_sheet([['Port', 'Foot'], ...Array.from({ length: 20 }, (_, k) => [`Pier ${k}`, k])]);
  return { SheetNames: ['January', 'Piers'], Sheets: { January: sheet, Piers: other } };
}

const bookBytes = (bookType: BookType) =>
  new Uint8Array(write(book(), { type: 'buffer', bookType }) as Buffer) as Uint8Array<ArrayBuffer>;
const encode = (text: string) => new TextEncoder().encode(text);

/** Packed formats: changed inside with their check sums made good, or damaged as they lie. */
function packed(name: string, seeds: () => Uint8Array<ArrayBuffer>[]) {
  let made: Uint8Array<ArrayBuffer>[] | undefined;
  return (random: Random): Input => {
    made ??= seeds();
    const whole = random.pick(made);
    if (random.chance(0.6)) return { name, bytes: mutatedInside(whole, random) };
    if (random.chance(0.5)) return { name, bytes: mutated(whole, random) };
    const bytes = whole.slice();
    for (let flips = 1 + random.below(3); flips > 0; flips--)
      bytes[random.below(bytes.length)]! ^= 1 << random.below(8);
    return { name, bytes, whole };
  };
}

function bare(name: string, seed: () => Uint8Array<ArrayBuffer>) {
  let made: Uint8Array<ArrayBuffer> | undefined;
  return (random: Random): Input => {
    made ??= seed();
    return { name, bytes: mutated(made, random) };
  };
}

const ENCODINGS = ['utf-8', 'utf-8', 'utf-8', 'utf-16le', 'utf-16be', 'latin'];

/** A text in one of the encodings that files come in. */
function inSomeEncoding(text: string, random: Random): Uint8Array<ArrayBuffer> {
  const how = random.pick(ENCODINGS);
  if (how === 'utf-8') return encode(random.chance(0.1) ? `\ufeff${text}` : text);
  if (how === 'latin') return Uint8Array.from(text, (character) => character.charCodeAt(0) & 0xff);
  const units = Uint16Array.from(`\ufeff${text}`, (_, k) => (k === 0 ? 0xfeff : text.charCodeAt(k - 1)));
  const bytes = new Uint8Array(units.length * 2);
  const view = new DataView(bytes.buffer);
  units.forEach((unit, k) => {
    view.setUint16(k * 2, unit, how === 'utf-16le');
  });
  return bytes;
}

/** Text: from its grammar, or a demo report changed; read as what it looks like, or as what is asked for. */
function textual(name: string, kind: string | undefined, grammar: (random: Random) => string, seed?: string) {
  let made: Uint8Array<ArrayBuffer> | undefined;
  return (random: Random): Input => {
    const asked = kind !== undefined && random.chance(0.5) ? { kind } : {};
    if (seed !== undefined && random.chance(0.3)) {
      made ??= fileOf(seed).slice(0, 12_000);
      return { name, bytes: mutated(made, random), ...asked };
    }
    const bytes = inSomeEncoding(grammar(random), random);
    return { name, bytes: random.chance(0.4) ? mutated(bytes, random) : bytes, ...asked };
  };
}

const jobFiles = () => ['quay-returns', 'crew-list', 'targets', 'fares-page'].map((name) => fileOf(`${name}.job.json`));

const months = () => ({
  'bookings-2031-01.csv': strToU8('Ref,Foot\nB1,3\nB2,4\n'),
  'bookings-2031-02.csv': strToU8('Ref,Foot\nB3,5\n'),
});

/** A table with a column of each type. */
function typedTable(): Table {
  const many = Array.from({ length: 40 }, (_, k) => k);
  return makeTable({
    Port: textColumn(many.map((k) => (k % 7 === 0 ? null : ['Hask', 'Ullin', 'Côté'][k % 3]!))),
    Foot: countedColumn(
      'whole',
      many.map((k) => (k % 5 === 0 ? null : k * 37)),
    ),
    Fare: countedColumn(
      'number',
      many.map((k) => k / 8),
    ),
    Day: countedColumn(
      'date',
      many.map((k) => 22_000 + k),
    ),
    At: countedColumn(
      'datetime',
      many.map((k) => 1.9e12 + k * 60_000),
    ),
    Paid: countedColumn(
      'yesno',
      many.map((k) => k % 2),
    ),
  });
}

/** Their libraries answer later, so that they are made before any input is asked for. */
const arrow = await writeArrow(typedTable());
const database = await writeSqlite([{ name: 'Fares', table: typedTable() }]);

/** The readers by name: what is made of a random generator. */
export const READERS: Readonly<Record<string, (random: Random) => Input>> = {
  zip: packed('months.zip', () => [
    fileOf('arrivals-2030.zip'),
    zipped(months()),
    zipped({ 'all.zip': zipped(months()), 'a.xlsx': bookBytes('xlsx') }),
  ]),
  xlsx: packed('returns.xlsx', () => [bookBytes('xlsx'), fileOf('targets-2030.xlsx')]),
  xlsb: packed('returns.xlsb', () => [bookBytes('xlsb')]),
  ods: packed('returns.ods', () => [bookBytes('ods')]),
  xls: bare('returns.xls', () => bookBytes('biff8')),
  'old xls': bare('returns.xls', () => bookBytes('biff5')),
  'spreadsheet xml': bare('returns.xml', () => bookBytes('xlml')),
  fods: bare('returns.fods', () => bookBytes('fods')),
  delimited: textual('bookings.csv', 'read-delimited', grammars.delimited, 'booking-export.csv'),
  fixed: textual('crew.txt', 'read-fixed-width', grammars.fixedWidth, 'weighbridge.prn'),
  pattern: textual('gate.log', 'read-pattern', grammars.log, 'gate.log'),
  blocks: textual('manifest.txt', 'read-blocks', grammars.blocks, 'manifest.txt'),
  json: textual('sailings.json', 'read-nested', grammars.json, 'sailings.json'),
  ndjson: textual('sailings.ndjson', 'read-nested', grammars.jsonLines),
  xml: textual('voyages.xml', 'read-nested', grammars.xml),
  expression: textual('expression', undefined, grammars.expression),
  regex: textual('regex', undefined, grammars.pattern),
  'job file': (random) => ({ name: 'job.json', bytes: mutated(random.pick(jobFiles()), random) }),
  pdf: bare('crossings.pdf', () => fileOf('crossings.pdf')),
  gzip: bare('months.csv.gz', () => gzipSync(strToU8('Ref,Foot\nB1,3\nB2,4\n'.repeat(40))) as Uint8Array<ArrayBuffer>),
  mail: textual('june.eml', undefined, grammars.mail),
  yaml: textual('sailings.yaml', 'read-nested', grammars.yaml),
  parquet: bare('fares.parquet', () => writeParquet(typedTable())),
  arrow: bare('fares.arrow', () => arrow),
  sqlite: (random) => ({ name: 'fares.db', bytes: mutated(database, random) }),
  markdown: textual('fares.md', undefined, grammars.markdown),
  html: textual('fares.html', undefined, grammars.html, 'fares.html'),
};

/** The same input for the same reader and number. */
export function inputOf(reader: string, number: number): Input {
  let seed = number + 1;
  for (const character of reader) seed = Math.imul(seed ^ character.charCodeAt(0), 0x9e3779b1);
  return READERS[reader]!(new Random(seed));
}
