import { z } from 'zod';
import { type Blank, blank } from '../steps/sentence.ts';
import type { Notice } from '../steps/step.ts';
import { Dictionary } from '../table/builder.ts';
import type { TextColumn } from '../table/column.ts';
import { columnLetters, type Field } from '../table/table.ts';
import { rowNumbers } from '../table/vectors.ts';
import { decoderOf } from '../values/decoder.ts';
import { decodeSource } from './encoding.ts';
import { gridResult } from './grid-result.ts';
import { ReadFailure } from './read-failure.ts';
import type { ReadResult, Source } from './read-kind.ts';

/** Longest line that is taken for a line of a report. */
const LONGEST_LINE = 1_000_000;

export const ENCODING = z.string().nullable().default(null).describe('WHATWG label; null: guessed');

export function encodingBlank(encoding: string | null): Blank {
  return blank('encoding', encoding ?? 'guessed', {
    as: 'text',
    label: 'Encoding',
    optional: true,
    hint: 'utf-8, windows-1252, utf-16le …',
  });
}

/** Where on a line a cell of the raw table stands. */
export interface LineSpan {
  from: number;
  to: number;
  column: number;
}

export interface TextLines {
  lines: string[];
  notices: Notice[];
}

/**
 * The lines of a text source without their line ends, tabs as blanks up to the next stop, form feeds taken out.
 * @throws ReadFailure when there is no line, or one without end
 */
export function textLines(source: Source, encoding: string | null, tab = 8): TextLines {
  const encoded = decodeSource(source.bytes, encoding, source.name);
  const text = decoderOf(encoded.now).decode(encoded.bytes);
  const lines = text.replaceAll('\f', '').split(/\r\n|\n|\r/);
  if (lines.at(-1) === '') lines.pop();
  if (lines.length === 0) throw new ReadFailure(source.name, `${source.name} holds no lines.`);
  const endless = lines.findIndex((line) => line.length > LONGEST_LINE);
  if (endless >= 0) {
    throw new ReadFailure(
      source.name,
      `Line ${endless + 1} of ${source.name} has ${lines[endless]!.length.toLocaleString('en-GB')} characters: this is no text of lines. Read it as delimited or nested text.`,
    );
  }
  const notices: Notice[] =
    encoded.brokenAt === undefined
      ? []
      : [
          {
            tone: 'look',
            text: `no valid UTF-8 from byte ${(encoded.brokenAt + 1).toLocaleString('en-GB')} on: read as Windows-1252`,
          },
        ];
  return { lines: lines.map((line) => expandTabs(line, tab)), notices };
}

export function expandTabs(line: string, tab: number): string {
  if (!line.includes('\t')) return line;
  let out = '';
  for (const character of line) out += character === '\t' ? ' '.repeat(tab - (out.length % tab)) : character;
  return out;
}

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

/** The raw table of a reading in which every line is a row. Columns without a name are named by position. */
export function lineTable(
  source: Source,
  columns: readonly { name: string | undefined; column: TextColumn }[],
  lines: readonly string[],
  notices: readonly Notice[],
): ReadResult {
  const fields: Field[] = columns.map(({ name, column }, k) => ({
    name: name ?? columnLetters(k),
    standing: name === undefined ? 'position' : 'named',
    column,
  }));
  const result = gridResult(source, fields, lines.length, notices, rowNumbers(lines.length));
  return { ...result, report: { ...result.report, parts: [{ ...result.report.parts[0]!, text: lines }] } };
}
