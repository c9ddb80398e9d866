/**
 * How delimited text is written: delimiter, quote and comment lines, guessed from a sample.
 *
 * Rows of equal width and cells of known kinds speak for a dialect (the idea of van den Burg, Nazábal and Sutton,
 * 'Wrangling messy CSV files by detecting row and type patterns', 2019, simplified).
 */
import { timeAt } from '../../values/log-time.ts';

export interface Dialect {
  delimiter: string;
  /** Runs of the delimiter count as one. */
  runs: boolean;
  quote: string | null;
  /** Lines that begin with this are comments. */
  comment: string | null;
  /** The names stand on the last comment line above the first row. */
  commentedHeader: boolean;
}

export interface DialectGuess extends Dialect {
  /** 0 where nothing divides the lines. */
  score: number;
  /** Cells of most rows. */
  width: number;
  /** Share of the rows that have as many cells as most. */
  even: number;
  /** The first row has as many cells as most. */
  headed: boolean;
}

const MAX_LINES = 400;
/** A header among comments stands on one of the last this many above the rows, in names up to a maximum length. */
const NEAR = 3;
const MAX_NAME_LENGTH = 40;
const USUAL = [',', ';', '\t', '|'];
/** A sign that divides cells wherever it is used so. */
export const isUsual = (delimiter: string) => USUAL.includes(delimiter);
/** Signs that stand inside of words, figures, dates and sentences. */
const INSIDE = new Set([...' .-_/"\'()\\?!+%=<>[]{}@&*']);
const RULES: readonly (readonly [string, RegExp])[] = [
  ['+-', /^\s*\+-[-+]*$/],
  ['+=', /^\s*\+=[=+]*$/],
  ['|-', /^\s*\|-[-|+: ]*$/],
];
const COMMENTS = ['#', '%', '//'];
/** A comment of several lines, and the sign that ends it. */
export const BLOCK_COMMENT = '/*';
export const BLOCK_END = '*/';

/** @param text whole lines; a last line that is cut off is the caller's to leave out */
export function guessDialect(text: string): DialectGuess {
  const { comment, commented, sample } = sampleOf(text);
  let best: DialectGuess = { ...none(comment), score: 0, width: 1, even: 0, headed: false };
  for (const quote of quotesOf(sample)) {
    for (const { delimiter, runs, prior } of candidates(sample)) {
      const found = scored(sample, { ...none(comment), delimiter, runs, quote }, prior);
      if (found.score > best.score) best = found;
    }
  }
  return withHeader(best, commented);
}

/** Whether a text is divided by runs of spaces into the same number of cells on every line. */
export function guessRuns(text: string): DialectGuess {
  const { comment, commented, sample } = sampleOf(text);
  const found = quotesOf(sample)
    .map((quote) => scored(sample, { ...none(comment), delimiter: ' ', runs: true, quote }, 1))
    .reduce((a, b) => (b.score > a.score ? b : a));
  return withHeader(found, commented);
}

/** The lines that a guess looks at, without comments. */
function sampleOf(text: string) {
  const { comment, commented, rest } = withoutComments(text.split(/\r\n|\n|\r/));
  return { comment, commented, sample: rest.slice(0, MAX_LINES) };
}

function none(comment: string | null): Dialect {
  return { delimiter: ',', runs: false, quote: '"', comment, commentedHeader: false };
}

/** Lines that begin with a sign that no other line begins with a cell of are comments. */
function withoutComments(lines: readonly string[]): { comment: string | null; commented: string[]; rest: string[] } {
  const filled = lines.filter((line) => line.trim() !== '');
  // The rules of a box or of a table drawn with bars are no rows.
  for (const [comment, rule] of RULES) {
    const ruled = filled.filter((line) => rule.test(line));
    const rest = filled.filter((line) => !rule.test(line));
    if (ruled.length > 0 && rest.length > 1 && rest.every((line) => !line.trimStart().startsWith(comment)))
      return { comment, commented: [], rest };
  }
  if (filled[0]?.trimStart().startsWith(BLOCK_COMMENT)) {
    const end = filled.findIndex((line) => line.includes(BLOCK_END));
    const rest = filled.slice(end + 1);
    if (end >= 0 && !rest.some((line) => line.trimStart().startsWith(BLOCK_COMMENT)))
      return { comment: BLOCK_COMMENT, commented: [], rest };
  }
  for (const comment of COMMENTS) {
    const commented = filled.filter((line) => line.trimStart().startsWith(comment));
    const rest = filled.filter((line) => !line.trimStart().startsWith(comment));
    // '#,Name' is a header whose first name is the sign; a sign between the rows and never in front may be a value.
    const named = commented.some((line) => USUAL.includes(line.trimStart()[comment.length] ?? ''));
    const first = filled[0]?.trimStart().startsWith(comment) ?? false;
    if (commented.length === 0 || rest.length === 0 || named || (!first && commented.length > rest.length)) continue;
    return { comment, commented: commented.filter((line) => filled.indexOf(line) < filled.indexOf(rest[0]!)), rest };
  }
  return { comment: null, commented: [], rest: filled };
}

/** The names follow the comment sign where the last comment above divides as the rows do, and no row above data does. */
function withHeader(guess: DialectGuess, commented: readonly string[]): DialectGuess {
  if (guess.score === 0 || guess.comment === null) return guess;
  const bare = commented.slice(-NEAR).map((line) => line.trimStart().slice(guess.comment!.length).trim());
  const commentedHeader = bare.some((line) => {
    const cells = (rowsOf([line], guess)[0] ?? []).map((cell) => cell.trim());
    // A directive, as in '@missing: 0000', says something of the rows.
    if (/^@\w/.test(line)) return false;
    if (cells.length !== guess.width || new Set(cells).size < cells.length) return false;
    return cells.every((cell) => cell.length > 0 && cell.length <= MAX_NAME_LENGTH && !/^[\d.,\s-]+$/.test(cell));
  });
  return { ...guess, commentedHeader };
}

/** The double quote always; the single one where cells begin and end with it. */
function quotesOf(lines: readonly string[]): string[] {
  let single = 0;
  let double = 0;
  for (const line of lines) {
    single += line.match(/(?:^|[,;\t|]) *'[^']*' *(?=$|[,;\t|])/g)?.length ?? 0;
    double += line.match(/(?:^|[,;\t| ])"/g)?.length ?? 0;
  }
  return single >= 2 && single > double ? ["'", '"'] : ['"'];
}

/** Signs that may divide the cells of these lines: the usual ones, and any other that most lines have. */
function candidates(lines: readonly string[]): { delimiter: string; runs: boolean; prior: number }[] {
  const found = new Map<string, { delimiter: string; runs: boolean; prior: number }>();
  const add = (delimiter: string, prior: number) => found.set(delimiter, { delimiter, runs: false, prior });
  for (const sign of USUAL) add(sign, sign === '\t' ? 1.1 : 1);
  const bare = lines.map((line) => withoutTimes(line.replace(/"(?:[^"]|"")*"/g, 'q')));
  const most = (sign: string) => bare.filter((line) => line.includes(sign)).length >= bare.length * 0.7;
  // Titles may stand in front: a line from the middle shows what divides.
  for (const sign of new Set(bare[bare.length >> 1]?.match(/[^\p{L}\p{N}]/gu))) {
    if (!INSIDE.has(sign) && !found.has(sign) && most(sign)) add(sign, 0.6);
  }
  for (const sign of [...found.keys(), '-', '=', '_']) {
    const doubled = sign + sign;
    // Where the sign ever stands alone it is not the pair that divides.
    if (!most(doubled) || bare.some((line) => line.replaceAll(doubled, '').includes(sign))) continue;
    found.delete(sign);
    add(doubled, 1);
  }
  if (most(' ')) add(' ', 0.25);
  return [...found.values()];
}

/** Colons and commas of times divide nothing. */
function withoutTimes(line: string): string {
  const end = timeAt(line, line[0] === '[' ? 1 : 0);
  return (end < 0 ? line : line.slice(end)).replace(/(\d):(?=\d)/g, '$1');
}

function scored(lines: readonly string[], dialect: Dialect, prior: number): DialectGuess {
  const rows = rowsOf(lines, dialect);
  const nothing = { ...dialect, score: 0, width: 1, even: 0, headed: false };
  if (rows.length === 0) return nothing;
  const counts = new Map<number, number>();
  for (const row of rows) counts.set(row.length, (counts.get(row.length) ?? 0) + 1);
  // The width of most rows that are divided at all, the wider of two.
  const width = [...counts]
    .filter(([cells]) => cells > 1)
    .sort((a, b) => b[1] * b[0] ** 0.5 - a[1] * a[0] ** 0.5)[0]?.[0];
  if (width === undefined) return nothing;
  const equal = counts.get(width)!;
  const near = (counts.get(width - 1) ?? 0) * Number(width > 2) + (counts.get(width + 1) ?? 0);
  // Rows that stop early, and titles of one cell, speak less against a dialect than rows that are too long.
  const short = rows.filter((row) => row.length < width - 1).length;
  const even = (equal + near * 0.5 + short * 0.25) / rows.length;
  const known = knownShare(rows.filter((row) => row.length > 1));
  const score = even ** 2 * known ** 2 * prior * ((width - 1) / width) ** 0.5 * Math.log2(1 + width) ** 0.25;
  return { ...dialect, score, width, even: equal / rows.length, headed: rows[0]!.length === width };
}

/** What is longer is text whatever stands in it. */
const LONG_TEXT = 200;
const FIGURE = /^[-+(]?[$€£]?\s*\d[\d\s.,:/'-]*\s*(?:%|[eE][+-]?\d+|[A-Za-z€$£]{1,3})?\)?$/;
const PLAIN = /^[\p{L}\p{N}\p{M}#][\p{L}\p{N}\p{M} ._\-/&'’()@:+#*%!?=°"“”–<>€$£]*$/u;

/** Signs that stand twice in a row divide, rather than belong to a text. */
const DOUBLED = /([:|;,~^])\1/;
/** A wide gap inside of a cell is the gap between two columns of a print-out. */
const GAP = /\S\s{2,}\S/;

/** Share of the cells that hold what cells hold: figures, dates, plain text or nothing. */
function knownShare(rows: readonly (readonly string[])[]): number {
  let known = 0;
  let cells = 0;
  for (const row of rows) {
    for (const cell of row) {
      cells++;
      const text = cell.trim();
      if (text === '' || text.startsWith('\u0000')) known++;
      else if (
        !DOUBLED.test(text) &&
        !GAP.test(text) &&
        (text.length > LONG_TEXT || FIGURE.test(text) || PLAIN.test(text))
      )
        known++;
    }
  }
  return cells === 0 ? 0 : known / cells;
}

/** Rows of the sample, quotes over several lines read as one cell; a quoted cell begins with NUL. */
export function rowsOf(lines: readonly string[], dialect: Dialect): string[][] {
  const { delimiter, runs, quote } = dialect;
  const rows: string[][] = [];
  for (let k = 0; k < lines.length; k++) {
    let line = runs ? lines[k]!.trim() : lines[k]!;
    if (line.trim() === '') continue;
    const cells: string[] = [];
    for (let at = 0; at <= line.length; ) {
      if (quote !== null && line[at] === quote) {
        let end = closing(line, at, quote);
        // A quote that is open at the end of the line goes on, but not through the whole file.
        for (let more = 1; end < 0 && more <= 40 && k + 1 < lines.length; more++) {
          line += `\n${lines[++k]}`;
          end = closing(line, at, quote);
        }
        if (end < 0) end = line.length;
        const next = line.indexOf(delimiter, end);
        cells.push(`\u0000${line.slice(at + 1, end - 1)}`);
        at = next < 0 ? line.length + 1 : next + delimiter.length;
      } else {
        const next = line.indexOf(delimiter, at);
        cells.push(line.slice(at, next < 0 ? line.length : next));
        at = next < 0 ? line.length + 1 : next + delimiter.length;
      }
      if (runs) while (at <= line.length && line.startsWith(delimiter, at)) at += delimiter.length;
    }
    rows.push(cells);
  }
  return rows;
}

/** Behind the quote that closes the one at a character, or -1. */
function closing(line: string, open: number, quote: string): number {
  for (let at = open + 1; ; at += 2) {
    at = line.indexOf(quote, at);
    if (at < 0) return -1;
    if (line[at + 1] !== quote) return at + 1;
  }
}
