import { decoderOf } from '../table/decoder.ts';
import { timeAt } from '../values/log-time.ts';
import { cutsOfRule, fitsCuts, GLUED, guessCuts, RULE, SHARE_OF_GLUED } from './cuts.ts';
import { BLOCK_COMMENT, isUsual, rowsOf } from './delimited/dialect.ts';
import { CLEAR, delimitedGuess, readDelimited } from './delimited/read-delimited.ts';
import { decodeSource } from './encoding.ts';
import { LOG_SHARE, logShare } from './log-forms.ts';
import { isYaml, looksLikeIni, readYaml } from './nested-text.ts';
import { packedTemplate } from './packed-lines.ts';
import { readPdf } from './pdf/read-pdf.ts';
import { looksLikeBlocks, readBlocks } from './read-blocks.ts';
import { ReadFailure } from './read-failure.ts';
import { readFiles } from './read-files.ts';
import { readFixedWidth } from './read-fixed-width.ts';
import type { AnyReadKind, ReadKind, Source } from './read-kind.ts';
import { readNested } from './read-nested.ts';
import { readPattern } from './read-pattern.ts';
import { readSheets } from './read-sheets.ts';
import { headText, type SourceFormat, sniff } from './sniff.ts';
import { readTables } from './tables/read-tables.ts';
import { expandTabs, headLines, withoutFront } from './text-lines.ts';
import { unwrapped } from './unwrap.ts';
import { READINGS_OF_FORMAT } from './words.ts';

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
    listed(readPdf),
    listed(readTables),
    listed(readFiles({ guess: guessReading, get: (kind) => READINGS.get(kind) })),
  ].map((kind) => [kind.kind, kind]),
);

/** An object or a list at the front; a bracket alone may also begin a log. */
function looksNested(source: Source): boolean {
  const text = headText(source.bytes, source.name).trimStart();
  if (looksLikeIni(text) || (isYaml(text, source.name) && (/\.ya?ml$/i.test(source.name) || isWholeYaml(source))))
    return true;
  if (/^<(?:\?xml|!DOCTYPE|!--|[\p{L}_])/u.test(text)) return true;
  return /^\{\s*(?:"|\})/.test(text) || /^\[\s*(?:[[{"\]]|-?\d+(?:\.\d+)?\s*,|(?:true|false|null)\b)/.test(text);
}

/** Text that only looks like YAML is read in another way. A large one is trusted. */
function isWholeYaml({ bytes, name }: Source): boolean {
  if (bytes.length > MAX_TRIED) return true;
  const { bytes: own, now } = decodeSource(bytes, null, name);
  try {
    readYaml(decoderOf(now).decode(own), name);
    return true;
  } catch (error) {
    if (error instanceof ReadFailure) return false;
    throw error;
  }
}

const MAX_TRIED = 2_000_000;

/** What a file is taken for, and why. */
interface Likely {
  kind: string;
  why: string;
  /** It divides nearly all lines alike, so that no other reading needs to be tried. */
  isCertain?: boolean;
}

/** The most telling first: a log by its fronts, blocks by their names, cells by a sign, columns by their gaps. */
function likelyText(source: Source): Likely {
  if (looksNested(source) && !/^\s*<[A-Z]{1,3}>\d/.test(headText(source.bytes, source.name)))
    return { kind: 'read-nested', why: 'nested text: brackets, tags, or names and values within others' };
  const head = headLines(source);
  const { guess, spaced } = delimitedGuess(head);
  const raw = withoutFront(head);
  const share = (part: number) => `${Math.round(part * 100)}% of its lines`;
  const sign = guess.delimiter === '\t' ? 'a tab' : guess.runs ? 'runs of spaces' : `'${guess.delimiter}'`;
  const byDelimiter = {
    kind: 'read-delimited',
    why: `delimited text: ${sign} ${guess.runs ? 'divide' : 'divides'} ${share(guess.even)} into ${guess.width} cells`,
    isCertain: isUsual(guess.delimiter) && guess.score >= CLEAR && guess.even >= CERTAIN,
  };
  const clear = guess.score > 0 && guess.even >= 0.9 && guess.width > 2;
  if (clear && guess.delimiter === '\t') return byDelimiter;
  if (packedTemplate(raw) !== undefined)
    return { kind: 'read-pattern', why: 'packed lines: names divided by tabs, values below by other signs' };
  const filled = raw.filter((line) => line.trim() !== '').slice(0, 400);
  const divides = (guess.score >= 0.3 && guess.even >= 0.55) || (guess.score >= 0.15 && guess.even >= 0.97);
  const signs = !guess.runs && guess.delimiter !== ' ' && divides;
  const log = logShare(raw);
  if (log >= LOG_SHARE && !isDivided(raw) && !standsInColumns(filled))
    return { kind: 'read-pattern', why: `a log: ${share(log)} begin like lines of a log` };
  if (looksLikeBlocks(raw.slice(0, 600)) && !(clear && guess.headed && !guess.runs))
    return { kind: 'read-blocks', why: 'blocks of lines: names and values, the same names again and again' };
  if (signs) return byDelimiter;
  const lines = filled.map((line) => expandTabs(line, 8));
  const cuts = guessCuts(lines);
  // A rule under the header states the columns, whatever runs of spaces would divide.
  const ruled = lines.some((line) => RULE.test(line)) && cutsOfRule(lines) !== undefined;
  const glued = lines.filter((line) => GLUED.test(line)).length >= lines.length * SHARE_OF_GLUED;
  const fits = (line: string) =>
    fitsCuts(line, glued ? cuts.filter((cut) => line[cut] !== '-') : cuts) && cuts.some((cut) => cut < line.length);
  const fitting = lines.filter(fits).length;
  // Behind a comment of several lines stands what it did not say, such as the first period.
  const behindComment = spaced.comment === BLOCK_COMMENT && spaced.even >= 0.95;
  const even = !ruled && !glued && spaced.score > 0 && ((spaced.even >= 0.98 && spaced.headed) || behindComment);
  if (even && (cuts.length < spaced.width || spaced.width > 1)) return byDelimiter;
  if (cuts.length >= 1 && fitting >= lines.length * 0.5)
    return {
      kind: 'read-fixed-width',
      why: `fixed columns: ${share(fitting / lines.length)} have spaces at the same characters`,
      isCertain: cuts.length > 2 && fitting >= lines.length * CERTAIN,
    };
  if (guess.score > 0) return byDelimiter;
  return { kind: 'read-delimited', why: 'lines of text: nothing in them divides columns' };
}

/** Share of the lines that are divided alike by what is no accident. */
const CERTAIN = 0.98;

/** A usual sign divides the lines, other than the one before the fractions of seconds. */
function isDivided(lines: readonly string[]): boolean {
  const { guess } = delimitedGuess(lines.map((line) => line.replace(/(:\d\d)[.,]\d{1,9}(?=\s)/g, '$1')));
  if (!isUsual(guess.delimiter) || guess.score < 0.15 || guess.even < 0.9) return false;
  // A time with more behind it in one cell is the front of a log, and the sign belongs to the message.
  const fronts = rowsOf(lines.slice(0, 200), guess).map((row) => row[0]!);
  const going = fronts.filter((front) =>
    /\s\S/.test(front.slice(Math.max(0, timeAt(front, front[0] === '[' ? 1 : 0)))),
  );
  return going.length < fronts.length * 0.5;
}

/** Most lines have wide gaps at the same characters, whatever stands in front of them. */
function standsInColumns(lines: readonly string[]): boolean {
  // Headings between them have no gaps.
  const gaps = lines.filter((line) => (line.trim().match(/\S {2,}(?=\S)/g)?.length ?? 0) >= 2);
  if (gaps.length < lines.length * 0.6) return false;
  const cuts = guessCuts(gaps);
  return cuts.length >= 2 && gaps.filter((line) => fitsCuts(line, cuts)).length >= lines.length * 0.75;
}

const WHY: Record<Exclude<SourceFormat, 'text'>, string> = {
  workbook: 'a workbook',
  page: 'a web page with tables',
  pages: 'printed pages (PDF)',
  tables: 'tables with their own names and types',
  files: 'an archive of several files, read one like the other',
};

/**
 * The reading that suits a source, with its params guessed, and what the source is taken for and why.
 * @throws ReadFailure
 */
export function guessReading(
  sourceId: string,
  given: Source,
): { kind: string; params: { source: string }; why: string; isCertain: boolean } {
  const source = unwrapped(given);
  const format = sniff(source.bytes, source.name);
  const { kind, why, isCertain } =
    format === 'text'
      ? likelyText(source)
      : { kind: READINGS_OF_FORMAT[format][0]!, why: WHY[format], isCertain: false };
  return { kind, params: READINGS.get(kind)!.start(sourceId, source), why, isCertain: isCertain ?? false };
}
