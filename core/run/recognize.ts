/** A report that arrives is compared with those that jobs have read: by its header, never by its figures. */

import type { KnownSource, Recognized, SourceLayout } from '../document/source-layout.ts';
import { nameKinds } from '../glance/period-names.ts';
import { StepFailure } from '../kinds/step.ts';
import { guessReading, READINGS } from '../read/catalogue.ts';
import { ReadFailure } from '../read/read-failure.ts';
import { baseName } from '../read/read-files.ts';
import type { Source } from '../read/read-kind.ts';
import { sniff } from '../read/sniff.ts';
import { ALONE } from '../steps/try-steps.ts';
import { isBlank } from '../table/column.ts';
import { isPositioned, type Table } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';
import { plainText } from '../values/likeness.ts';
import type { MethodRun } from './run.ts';

/** Header words that a layout must have: fewer are met by chance. */
const MIN_WORDS = 2;
/** Shares of header words that are met, and of words in the header's row that are not new. */
const MIN_MET = 0.6;
const MIN_KNOWN = 0.6;
/** Rows in which a header stands, and words that are kept of it. */
const MAX_ROWS = 80;
const MAX_WORDS = 120;
/** Bytes of a text in which its header stands. */
const HEAD_BYTES = 262_144;
/** What a header must be like, in a file that is called as the last one and in another. */
const MIN_NAMED = 0.45;
const MIN_UNNAMED = 0.75;
/** What the name of the file adds to a header that is the same. */
const BY_NAME = 0.1;

/** Without digits, months and years: '' for what says nothing else. */
function plainWord(text: string): string {
  if (nameKinds([text])[0] !== undefined) return '';
  return plainText(text.replace(/\d+/g, ''));
}

function plainWords(texts: Iterable<string | null>): string[] {
  const found = new Set<string>();
  for (const text of texts) {
    const word = text === null ? '' : plainWord(text);
    if (word !== '' && word.length <= MAX_LENGTH) found.add(word);
  }
  return [...found];
}

/** Letters of a name; a text that is longer is a title or a remark. */
const MAX_LENGTH = 60;

function nameOf(file: string): string {
  return baseName(file)
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .map((part) => (nameKinds([part])[0] === undefined ? part.replace(/\d+/g, '#') : '#'))
    .join(' ');
}

/** Words of the fields of a table that named its columns itself. */
const fieldWords = (table: Table) =>
  plainWords(table.fields.filter((field) => field.nameOrigin === 'named').map(({ name }) => name.split('.').at(-1)!));

/**
 * What the report that a run has read is known by.
 *
 * @returns undefined where its method has no header, or too few words in it
 */
export function layoutOf(run: MethodRun, file: string): SourceLayout | undefined {
  const raw = run.steps[0]?.table;
  if (raw === undefined) return undefined;
  const at = run.steps.findIndex((step) => step.aside.some((pile) => pile.mark === 'header'));
  let words: string[];
  if (at > 0) {
    const before = run.steps[at - 1]!.table;
    const rows = run.steps[at]!.aside.flatMap((pile) => (pile.mark === 'header' ? [...pile.rows] : []));
    words = plainWords(rows.flatMap((r) => rowTexts(before, r)));
  } else words = isPositioned(raw) ? [] : fieldWords(filledColumns(raw));
  return words.length < MIN_WORDS ? undefined : { words: words.slice(0, MAX_WORDS), name: nameOf(file) };
}

function rowTexts(table: Table, row: number): (string | null)[] {
  return table.fields.filter((field) => field.nameOrigin !== 'beside').map(({ column }) => cellText(column, row));
}

/**
 * Which of the known sources a report is the next one of, the likeliest first. It is read as each of them is, as far as
 * its header goes.
 */
export function recognize(source: Source, known: readonly KnownSource[]): Recognized[] {
  const read = new Map<string, string[][]>();
  const rowsAs = (reading: KnownSource['reading']) => {
    const { source: _, ...params } = reading.params;
    const key = JSON.stringify([reading.kind, params]);
    const rows = read.get(key) ?? headRows(source, reading);
    read.set(key, rows);
    return rows;
  };
  let guessed: string[][] | undefined;
  const asGuessed = () => {
    guessed ??= unlessUnread(() => rowsAs(guessReading('source', source)));
    return guessed;
  };
  const name = nameOf(source.name);
  const found = known.flatMap((one): Recognized[] => {
    const { words } = one.layout;
    // Where columns moved, what it is read as may find its header yet.
    const like = comparedWith(rowsAs(one.reading), words) ?? comparedWith(asGuessed(), words);
    if (like === undefined) return [];
    const own = like.met / like.of - like.come.length / Math.max(1, like.come.length + like.met) / 2;
    const isNamed = one.layout.name === name;
    if (own < (isNamed ? MIN_NAMED : MIN_UNNAMED)) return [];
    const likeness = own * (1 - BY_NAME) + (isNamed ? BY_NAME : 0);
    return [{ job: one.job, source: one.source, ...like, likeness }];
  });
  return found.sort((a, b) => b.likeness - a.likeness);
}

/** Words of each of the first rows, or of the fields where a reading names them; none where it cannot be read so. */
function headRows(source: Source, reading: KnownSource['reading']): string[][] {
  const kind = READINGS.get(reading.kind);
  const params = kind?.params.safeParse(reading.params);
  if (kind === undefined || params?.success !== true) return [];
  return unlessUnread(() => {
    const head = sniff(source.bytes, source.name) === 'text' && source.bytes.length > HEAD_BYTES;
    const given = head ? { name: source.name, bytes: headOf(source.bytes) } : source;
    const { table } = kind.read(given, params.data, ALONE);
    if (!isPositioned(table)) return [fieldWords(filledColumns(table))];
    return Array.from({ length: Math.min(table.rows, MAX_ROWS) }, (_, r) => plainWords(rowTexts(table, r)));
  });
}

/** No rows where a source cannot be read so. */
function unlessUnread(read: () => string[][]): string[][] {
  try {
    return read();
  } catch (error) {
    if (error instanceof ReadFailure || error instanceof StepFailure) return [];
    throw error;
  }
}

/** Rows that tell whether a field is there, and the share of them that fill it. */
const MAX_FILLED = 200;
const MIN_FILLED = 0.1;

/** A reading names columns whether they are there or not: those that some rows fill. */
function filledColumns(table: Table): Table {
  const rows = Math.min(table.rows, MAX_FILLED);
  const isThere = ({ column }: Table['fields'][number]) => {
    let filled = 0;
    for (let r = 0; r < rows; r++) if (!isBlank(column, r)) filled++;
    return filled > 0 && filled >= rows * MIN_FILLED;
  };
  return { ...table, fields: table.fields.filter(isThere) };
}

/** Whole lines at the beginning. */
function headOf(bytes: Uint8Array): Uint8Array {
  const end = bytes.lastIndexOf(10, HEAD_BYTES);
  return bytes.subarray(0, end < 0 ? HEAD_BYTES : end + 1);
}

function comparedWith(rows: readonly (readonly string[])[], words: readonly string[]) {
  const wanted = new Set(words);
  const all = new Set(rows.flat());
  const gone = words.filter((word) => !all.has(word));
  const met = words.length - gone.length;
  if (words.length < MIN_WORDS || met < MIN_WORDS || met < words.length * MIN_MET) return undefined;
  // The row that says most of them is the header: what else stands in it is new.
  const metIn = (row: readonly string[]) => row.filter((word) => wanted.has(word)).length;
  const header = rows.reduce((best, row) => (metIn(row) > metIn(best) ? row : best), []);
  if (metIn(header) < header.length * MIN_KNOWN) return undefined;
  return { met, of: words.length, gone, come: header.filter((word) => !wanted.has(word)) };
}
