import { z } from 'zod';
import { type Blank, blank } from '../kinds/sentence.ts';
import type { Notice } from '../kinds/step.ts';
import { Dictionary } from '../table/builder.ts';
import type { TextColumn } from '../table/column.ts';
import { decoderOf } from '../table/decoder.ts';
import { SpanBuilder } from '../table/span-builder.ts';
import { columnLetters, type Field } from '../table/table.ts';
import { rowNumbers } from '../table/vectors.ts';
import { grouped } from '../values/counted.ts';
import { brokenNotices, decodeSource } from './encoding.ts';
import { gridResult } from './grid-result.ts';
import { ReadFailure } from './read-failure.ts';
import type { ReadResult, Source } from './read-kind.ts';
import { sniff } from './sniff.ts';

/** Longest line that is taken for a line of a report. */
const MAX_LINE_LENGTH = 1_000_000;

export const ENCODING = z.string().nullable().default(null).describe('WHATWG label; null: guessed');

export function encodingBlank(encoding: string | null): Blank {
  return blank('encoding', encoding ?? 'guessed', {
    as: 'text',
    label: 'Encoding',
    optional: true,
    hint: 'utf-8, windows-1252, utf-16le …',
  });
}

/** Lines that stand in the bytes of the source as they read: characters are bytes, and nothing was taken out. */
export interface LineBytes {
  bytes: Uint8Array;
  starts: Int32Array;
  encoding: string;
}

export interface TextLines {
  lines: string[];
  /** Where each line stands in the source, if every character of it is one byte. */
  inBytes?: LineBytes;
  notices: Notice[];
}

/** @throws ReadFailure for binary files: a workbook given to a reading of text, say */
export function needText(source: Source): void {
  if (source.bytes.length === 0) return;
  const format = sniff(source.bytes, source.name);
  // Web pages, and workbooks that are one file of markup, may be read as text.
  if (format === 'text' || format === 'page' || source.bytes[0] === 60 || source.bytes[0] === 0xef) return;
  throw new ReadFailure(
    source.name,
    `${source.name} is ${format === 'workbook' ? 'a workbook' : 'an archive of files'}, and this step reads text. Choose another reading above the report, or give a text file.`,
  );
}

/**
 * The lines of a text source without their line ends, tabs as blanks up to the next stop, form feeds taken out.
 * @throws ReadFailure when there is no line, or one without end
 */
export function textLines(source: Source, encoding: string | null, tab = 8): TextLines {
  needText(source);
  const encoded = decodeSource(source.bytes, encoding, source.name);
  const text = decoderOf(encoded.now).decode(encoded.bytes);
  const lines = text.replaceAll('\f', '').split(/\r\n|\n|\r/);
  if (lines.at(-1) === '') lines.pop();
  if (lines.length === 0) throw new ReadFailure(source.name, `${source.name} holds no lines.`);
  const endless = lines.findIndex((line) => line.length > MAX_LINE_LENGTH);
  if (endless >= 0) {
    throw new ReadFailure(
      source.name,
      `Line ${endless + 1} of ${source.name} has ${grouped(lines[endless]!.length)} characters, so it is not a text of lines. Read it as delimited or nested text.`,
    );
  }
  const notices = brokenNotices(encoded);
  if (text.includes('\t')) return { lines: lines.map((line) => expandTabs(line, tab)), notices };
  if (text.length !== encoded.bytes.length || text.includes('\f')) return { lines, notices };
  return { lines, notices, inBytes: { bytes: encoded.bytes, starts: lineStarts(lines, text), encoding: encoded.now } };
}

const HEAD_BYTES = 131_072;

/**
 * The first lines of a text as they stand, tabs kept, without what describes the text in front of it; a line that the
 * sample cuts off is left out.
 */
export function headLines(source: Source): string[] {
  const lines = firstLines(source);
  // A comment at the front is the business of who divides the lines.
  return lines
    .find((line) => line.trim() !== '')
    ?.trimStart()
    .startsWith('/*')
    ? lines
    : withoutFront(lines);
}

/** Lines of a description that are looked through for its end. */
const MAX_FRONT = 300;

/** Without YAML between two rules of three hyphens, or a comment between slash-star and star-slash, at the front. */
export function withoutFront(lines: readonly string[]): string[] {
  const first = lines.findIndex((line) => line.trim() !== '');
  const opening = lines[first]?.trim() ?? '';
  const isEnd = opening === '---' ? (line: string) => line.trim() === '---' : (line: string) => line.includes('*/');
  if (opening !== '---' && !opening.startsWith('/*')) return [...lines];
  const from = opening === '---' ? first + 1 : first;
  const front = lines.slice(from, from + MAX_FRONT);
  const closed = front.findIndex(isEnd);
  const end = closed < 0 && opening === '---' ? front.findIndex((line) => line.trim() === '') : closed;
  const rest = lines.slice(from + end + 1);
  return end < 0 || rest.every((line) => line.trim() === '') ? [...lines] : rest;
}

function firstLines(source: Source): string[] {
  const cut = source.bytes.length > HEAD_BYTES;
  const { bytes, now } = decodeSource(source.bytes.subarray(0, HEAD_BYTES), null, source.name);
  const lines = decoderOf(now)
    .decode(bytes)
    .replaceAll('\f', '')
    .split(/\r\n|\n|\r/);
  if (cut && lines.length > 1) lines.pop();
  return lines;
}

function lineStarts(lines: readonly string[], text: string): Int32Array {
  const starts = new Int32Array(lines.length);
  let at = 0;
  lines.forEach((line, k) => {
    starts[k] = at;
    at += line.length;
    at += text.charCodeAt(at) === 13 && text.charCodeAt(at + 1) === 10 ? 2 : 1;
  });
  return starts;
}

export function expandTabs(line: string, tab: number): string {
  if (!line.includes('\t')) return line;
  let out = '';
  for (const character of line) out += character === '\t' ? ' '.repeat(tab - (out.length % tab)) : character;
  return out;
}

const BAR = 124;

/** Cells of one column, one for each line; empty text is blank. */
export function lineColumn(lines: readonly string[], cell: (line: string, index: number) => string): TextColumn {
  const dictionary = new Dictionary();
  const codes = new Int32Array(lines.length);
  lines.forEach((line, r) => {
    const text = cell(line, r);
    codes[r] = text === '' ? -1 : dictionary.code(text);
  });
  return { type: 'text', codes, dictionary: dictionary.texts, distinct: true };
}

/**
 * Cells between two characters of each line, without the blanks around them.
 *
 * @param has whether the line has such a cell
 */
export function cutColumn(text: TextLines, from: number, to: number, has: (index: number) => boolean): TextColumn {
  const { lines, inBytes } = text;
  if (inBytes === undefined) return lineColumn(lines, (line, r) => (has(r) ? cellBetween(line, from, to) : ''));
  const { bytes, starts, encoding } = inBytes;
  const column = new SpanBuilder(lines.length);
  // Where a byte 0xA0 is the no-break blank, as in windows-1252, it is a blank too; in ibm866 it is a letter.
  const noBreak = decoderOf(encoding).decode(Uint8Array.of(0xa0)) === '\u00a0' ? 0xa0 : 32;
  const isBlank = (byte: number) => byte <= 32 || byte === noBreak;
  for (let r = 0; r < lines.length; r++) {
    const length = lines[r]!.length;
    if (from >= length || !has(r)) {
      column.push(0, 0);
      continue;
    }
    let a = starts[r]! + from;
    let b = starts[r]! + Math.min(to, length);
    while (a < b && isBlank(bytes[a]!)) a++;
    if (to <= length && b > a && bytes[b - 1] === BAR) b--;
    while (b > a && isBlank(bytes[b - 1]!)) b--;
    column.push(a, b);
  }
  return column.finish(bytes, NOTHING, encoding);
}

/** A cell of a line; a bar at its end is drawn between it and the next. */
export function cellBetween(line: string, from: number, to: number): string {
  const cell = line.slice(from, to).trim();
  return to <= line.length && line[to - 1] === '|' ? cell.replace(/\s*\|$/, '') : cell;
}

const NOTHING = new Uint8Array();

/**
 * The raw table of a reading in which every line is a row. Columns without a name are named by position.
 * @param text the lines, asked for when somebody looks at them
 */
export function lineTable(
  source: Source,
  columns: readonly { name: string | undefined; column: TextColumn }[],
  rows: number,
  text: () => readonly string[],
  notices: readonly Notice[],
): ReadResult {
  const fields: Field[] = columns.map(({ name, column }, k) => ({
    name: name ?? columnLetters(k),
    nameOrigin: name === undefined ? 'position' : 'named',
    column,
  }));
  const result = gridResult(source, fields, rows, notices, rowNumbers(rows));
  let lines: readonly string[] | undefined;
  const part = {
    ...result.report.parts[0]!,
    get text() {
      lines ??= text();
      return lines;
    },
  };
  return { ...result, report: { ...result.report, parts: [part] } };
}
