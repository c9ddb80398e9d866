import { z } from 'zod';
import { blank, choiceBlank, option, shown } from '../steps/sentence.ts';
import { counted, type Notice } from '../steps/step.ts';
import { columnLetters, type Field } from '../table/table.ts';
import { decoderOf } from '../values/decoder.ts';
import { decodeSource, type Encoded } from './encoding.ts';
import { gridResult } from './grid-result.ts';
import { ReadFailure } from './read-failure.ts';
import type { ReadKind, ReadResult, Source } from './read-kind.ts';
import { ENCODING, encodingBlank } from './text-lines.ts';
import { type Tokenized, tokenizeDelimited } from './tokenize-delimited.ts';

const MOST_COLUMNS = 16_384;

const Params = z.object({
  source: z.string(),
  delimiter: z.string().min(1).default(','),
  runs: z.boolean().default(false).describe('Runs of the delimiter count as one'),
  quote: z.string().length(1).nullable().default('"'),
  brackets: z.string().length(2).nullable().default(null).describe("A pair that encloses a cell, such as '[]'"),
  comment: z.string().nullable().default(null).describe('Lines that begin with this are left out'),
  encoding: ENCODING,
});
type Params = z.infer<typeof Params>;

const DELIMITERS: Record<string, string> = {
  ',': 'comma',
  ';': 'semicolon',
  '\t': 'tab',
  '|': 'upright bar',
  ' ': 'blank',
};

/** Delimited text by RFC 4180, with any delimiter, any of the three line ends and any encoding of the WHATWG list. */
export const readDelimited: ReadKind<Params> = {
  kind: 'read-delimited',
  title: 'Read delimited text',
  params: Params,
  start: (id, source) => {
    const { bytes, now } = decodeSource(source.bytes.subarray(0, 65_536), null, source.name);
    return Params.parse({ source: id, delimiter: guessDelimiter(decoderOf(now).decode(bytes)) });
  },
  sentence: (params, sourceName) => [
    `Read ${sourceName} as delimited text, cells divided by `,
    blank('delimiter', DELIMITERS[params.delimiter] ?? shown(params.delimiter), {
      as: 'text',
      label: 'Delimiter',
      hint: 'One or more characters, such as , or ; or a tab',
    }),
    option(
      !params.runs,
      ', runs of it ',
      choiceBlank('runs', params.runs, 'Runs of the delimiter', [
        [false, 'kept apart'],
        [true, 'as one'],
      ]),
    ),
    option(
      params.quote === '"',
      ', quoted by ',
      blank('quote', params.quote ?? 'nothing', { as: 'text', label: 'Quote', optional: true }),
    ),
    option(
      params.brackets === null,
      ', enclosed by ',
      blank('brackets', params.brackets ?? 'nothing', {
        as: 'text',
        label: 'Pair of brackets',
        optional: true,
        hint: 'Two characters, such as []',
      }),
    ),
    option(
      params.comment === null,
      ', comments after ',
      blank('comment', params.comment ?? 'nothing', {
        as: 'text',
        label: 'Beginning of comment lines',
        optional: true,
      }),
    ),
    option(params.encoding === null, ', encoding ', encodingBlank(params.encoding)),
  ],
  read(source, params, context) {
    const encoded = decodeSource(source.bytes, params.encoding, source.name);
    const tokens = tokenizeDelimited(encoded.bytes, encoded.now, params, context);
    if (tokens.rows === 0) throw new ReadFailure(source.name, `${source.name} holds no lines.`);
    if (tokens.columns.length > MOST_COLUMNS) {
      throw new ReadFailure(
        source.name,
        `${source.name} would have ${counted(tokens.columns.length, 'column')}, by the delimiter '${shown(params.delimiter)}'; at most ${MOST_COLUMNS.toLocaleString('en-GB')} can be read. Check the delimiter.`,
      );
    }
    return result(source, encoded, tokens);
  },
};

function result(source: Source, encoded: Encoded, tokens: Tokenized): ReadResult {
  const { rows, columns, lines } = tokens;
  const fields: Field[] = columns.map((column, k) => ({ name: columnLetters(k), standing: 'position', column }));
  return gridResult(source, fields, rows, notices(encoded, tokens), lines);
}

function notices(encoded: Encoded, tokens: Tokenized): Notice[] {
  const told: Notice[] = [];
  if (encoded.brokenAt !== undefined) {
    told.push({
      tone: 'look',
      text: `no valid UTF-8 from byte ${(encoded.brokenAt + 1).toLocaleString('en-GB')} on (line ${lineOf(encoded.bytes, encoded.brokenAt)}): read as Windows-1252`,
    });
  } else if (encoded.encoding !== 'utf-8') told.push({ tone: 'told', text: `read as ${encoded.encoding}` });
  if (tokens.unclosed >= 0) {
    told.push({
      tone: 'look',
      text: `a quote that opens in line ${tokens.lines[tokens.unclosed]! + 1} is never closed`,
      rows: { of: 'after', rows: Int32Array.of(tokens.unclosed) },
    });
  }
  if (tokens.comments > 0) told.push({ tone: 'told', text: `${counted(tokens.comments, 'comment line')} left out` });
  if (tokens.ragged.length > 0) {
    told.push({
      tone: 'look',
      text: `${counted(tokens.ragged.length, 'row')} with another number of cells than the first`,
      rows: { of: 'after', rows: Int32Array.from(tokens.ragged) },
    });
  }
  return told;
}

function lineOf(bytes: Uint8Array, at: number): number {
  let line = 1;
  for (let k = 0; k < at; k++) if (bytes[k] === 10 || (bytes[k] === 13 && bytes[k + 1] !== 10)) line++;
  return line;
}

const USUAL = new Set([',', ';', '\t', '|']);
/** Signs that stand inside of words, figures, dates and sentences. */
const INSIDE = new Set([
  ' ',
  '.',
  '-',
  '_',
  '/',
  '"',
  "'",
  '(',
  ')',
  '\\',
  '?',
  '!',
  '+',
  '%',
  '=',
  '<',
  '>',
  '[',
  ']',
  '{',
  '}',
]);

/** Signs that may divide the cells of these lines: the usual ones, and any other that most lines have. */
function candidates(lines: readonly string[]): Set<string> {
  const found = new Set(USUAL);
  const most = (sign: string) => lines.filter((line) => line.includes(sign)).length >= lines.length * 0.7;
  // Titles may stand in front: a line from the middle shows what divides.
  for (const sign of lines[lines.length >> 1]?.match(/[^\p{L}\p{N}]/gu) ?? []) {
    if (INSIDE.has(sign) && sign !== ' ') continue;
    if (most(sign)) found.add(sign);
  }
  for (const sign of [...found, '-', '=', '_']) {
    const doubled = sign + sign;
    if (doubled.trim() === '' || !most(doubled)) continue;
    found.add(doubled);
    // Where it only ever stands doubled, it is the pair that divides.
    if (!lines.some((line) => line.replaceAll(doubled, '').includes(sign))) found.delete(sign);
  }
  return found;
}

/** The delimiter that stands equally often on most of the first lines, the first among them. */
export function guessDelimiter(text: string): string {
  const lines = text
    .split(/\r\n|\n|\r/)
    .filter((line) => line !== '')
    .slice(0, 50);
  let best = ',';
  let bestScore = 0;
  // Neither quoted text nor the colons of times divide anything.
  const bare = lines.map((line) => line.replace(/"(?:[^"]|"")*"/g, '').replace(/(\d):(?=\d)/g, '$1'));
  for (const delimiter of candidates(bare)) {
    const counts = bare.map((line) => line.split(delimiter).length - 1);
    const usual = counts.toSorted((a, b) => a - b)[Math.floor(counts.length / 2)] ?? 0;
    if (usual === 0) continue;
    const equal = counts.filter((count) => count === usual).length;
    const near = counts.filter((count) => Math.abs(count - usual) === 1).length;
    const even = (equal + near / 2) / counts.length;
    // A header without it, and signs that mostly stand in words, speak against it; a doubled sign is no accident.
    const header = counts[0] === 0 ? 0.5 : 1;
    const prior = USUAL.has(delimiter) || delimiter.length > 1 ? 1 : delimiter === ' ' ? 0.2 : 0.6;
    const score = even * even * header * prior * Math.log2(1 + usual) * (delimiter.length > 1 ? 1.1 : 1);
    if (score > bestScore) [best, bestScore] = [delimiter, score];
  }
  return best;
}
