import { fitsCuts, guessCuts } from './cuts.ts';
import { looksLikeBlocks, readBlocks } from './read-blocks.ts';
import { guessDelimiter, readDelimited } from './read-delimited.ts';
import { readFiles } from './read-files.ts';
import { readFixedWidth } from './read-fixed-width.ts';
import type { AnyReadKind, ReadKind, Source } from './read-kind.ts';
import { readNested } from './read-nested.ts';
import { guessTemplate, readPattern } from './read-pattern.ts';
import { readSheets } from './read-sheets.ts';
import { headText, type SourceFormat, sniff } from './sniff.ts';
import { textLines } from './text-lines.ts';

function listed<P extends { source: string }>(kind: ReadKind<P>): AnyReadKind {
  return kind as unknown as AnyReadKind;
}

export const READINGS: ReadonlyMap<string, AnyReadKind> = new Map(
  [
    listed(readSheets),
    listed(readDelimited),
    listed(readFixedWidth),
    listed(readPattern),
    listed(readBlocks),
    listed(readNested),
    listed(readFiles({ guess: guessReading, get: (kind) => READINGS.get(kind) })),
  ].map((kind) => [kind.kind, kind]),
);

/** Readings that a source of each format may have, the most likely first. */
export const READINGS_OF_FORMAT: Record<SourceFormat, readonly string[]> = {
  workbook: ['read-sheets'],
  text: ['read-delimited', 'read-fixed-width', 'read-pattern', 'read-blocks', 'read-nested'],
  page: ['read-sheets'],
  files: ['read-files'],
};

/** An object or a list at the front; a bracket alone may also begin a log. */
function looksNested(source: Source): boolean {
  const text = headText(source.bytes, source.name).trimStart();
  if (/^<(?:\?xml|!DOCTYPE|!--|[\p{L}_])/u.test(text)) return true;
  return /^\{\s*(?:"|\})/.test(text) || /^\[\s*(?:[[{"\]]|-?\d+(?:\.\d+)?\s*,|(?:true|false|null)\b)/.test(text);
}

/** What a file is taken for, and why. */
interface Likely {
  kind: string;
  why: string;
}

/** Text without delimiters whose lines share blanks stands in fixed columns; text with a time in front is a log. */
function likelyText(source: Source): Likely {
  if (looksNested(source)) return { kind: 'read-nested', why: 'nested text: it begins with a bracket or a tag' };
  const { lines } = textLines({ ...source, bytes: source.bytes.subarray(0, 65_536) }, null);
  const filled = lines.filter((line) => line.trim() !== '').slice(0, 200);
  const delimiter = guessDelimiter(filled.join('\n'));
  const divided = filled.filter((line) => line.includes(delimiter)).length;
  const share = (count: number) => `${Math.round((count / Math.max(1, filled.length)) * 100)}% of its lines`;
  if (/^\W*\d|^\S+ \S+ \S+ \[/.test(filled[0] ?? '') && /^\[|^\{Host\}/.test(guessTemplate(filled)))
    return { kind: 'read-pattern', why: 'a log: its lines have a time in brackets in the same place' };
  if (looksLikeBlocks(lines.slice(0, 600)))
    return { kind: 'read-blocks', why: 'blocks of lines: names and values, the same names again and again' };
  const sign = delimiter === '\t' ? 'a tab' : `'${delimiter}'`;
  const byDelimiter = { kind: 'read-delimited', why: `delimited text: ${sign} stands in ${share(divided)}` };
  // Blanks divide delimited text too, but far more often they lay out columns.
  if (delimiter !== ' ' && divided >= filled.length * 0.6) return byDelimiter;
  const cuts = guessCuts(filled);
  const fitting = filled.filter((line) => fitsCuts(line, cuts) && cuts.some((cut) => cut < line.length)).length;
  if (cuts.length >= 2 && fitting >= filled.length * 0.5)
    return { kind: 'read-fixed-width', why: `fixed columns: ${share(fitting)} have blanks at the same characters` };
  return divided > 0 ? byDelimiter : { kind: 'read-delimited', why: 'lines of text: nothing in them divides columns' };
}

const WHY: Record<Exclude<SourceFormat, 'text'>, string> = {
  workbook: 'a workbook',
  page: 'a web page with tables',
  files: 'an archive of several files, read one like the other',
};

/**
 * The reading that suits a source, with its params guessed, and what the source is taken for and why.
 * @throws ReadFailure
 */
export function guessReading(
  sourceId: string,
  source: Source,
): { kind: string; params: { source: string }; why: string } {
  const format = sniff(source.bytes, source.name);
  const { kind, why } =
    format === 'text' ? likelyText(source) : { kind: READINGS_OF_FORMAT[format][0]!, why: WHY[format] };
  return { kind, params: READINGS.get(kind)!.start(sourceId, source), why };
}
