import { z } from 'zod';
import { blank, choiceBlank, option, shown } from '../../kinds/sentence.ts';
import type { Notice } from '../../kinds/step.ts';
import { columnLetters, type Field } from '../../table/table.ts';
import { counted } from '../../values/counted.ts';
import {
  brokenNotices,
  decodeOpen,
  decodeSource,
  type Encoded,
  encodeText,
  type Stretch,
  settled,
} from '../encoding.ts';
import { gridResult } from '../grid-result.ts';
import { ReadFailure } from '../read-failure.ts';
import { type ReadResult, type ReadWords, readKind, type Source } from '../read-kind.ts';
import { ENCODING, encodingBlank, headLines, needText } from '../text-lines.ts';
import { type DialectGuess, guessDialect, guessRuns } from './dialect.ts';
import { type Tokenized, tokenizeDelimited } from './tokenize.ts';

const Params = z.object({
  source: z.string(),
  delimiter: z.string().min(1).default(','),
  runs: z.boolean().default(false).describe('Runs of the delimiter count as one'),
  quote: z.string().length(1).nullable().default('"'),
  brackets: z.string().length(2).nullable().default(null).describe("A pair that encloses a cell, such as '[]'"),
  comment: z
    .string()
    .nullable()
    .default(null)
    .describe(
      "Lines that begin with this, past spaces, are set aside as comments; '/*' begins a comment that goes on to '*/'",
    ),
  commentedHeader: z
    .boolean()
    .default(false)
    .describe('The last comment above the first row that has as many cells as it is a row, without its sign'),
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
export const readDelimitedWords: ReadWords<Params> = {
  kind: 'read-delimited',
  title: 'Read delimited text',
  tab: 'delimited',
  page: 'delimited',
  params: Params,
  headline: ({ delimiter }) => `Read text divided by ${DELIMITERS[delimiter] ?? `'${delimiter}'`}`,
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
    option(
      !params.commentedHeader,
      ', names ',
      choiceBlank('commentedHeader', params.commentedHeader, 'Where the names stand', [
        [false, 'not among the comments'],
        [true, 'on the last comment above the rows'],
      ]),
    ),
    option(params.encoding === null, ', encoding ', encodingBlank(params.encoding)),
  ],
};

export const readDelimited = /* @__PURE__ */ readKind<Params>(readDelimitedWords, {
  start: (id, source) => {
    const { guess } = delimitedGuess(headLines(source));
    const { delimiter, runs, quote, comment, commentedHeader } = guess;
    return Params.parse({ source: id, delimiter, runs, quote, comment, commentedHeader });
  },
  read(source, params, context) {
    needText(source);
    const { delimiter, quote, comment } = params;
    // Where the signs are ASCII, all cells are found before it matters what the others are in.
    const decode = /^[ -~\t]*$/.test(`${delimiter}${quote ?? ''}${comment ?? ''}`) ? decodeOpen : decodeSource;
    let encoded = decode(source.bytes, params.encoding, source.name);
    if (quote !== null && encodeText(quote, encoded.now).length > 1) {
      throw new ReadFailure(
        source.name,
        `The quote ${quote} takes several bytes in ${encoded.now}, and only quotes of one byte are found. Use " or ', or no quote.`,
      );
    }
    const settle = (ascii: Stretch) => {
      encoded = settled(encoded, ascii);
      return encoded.now;
    };
    const how = encoded.isOpen ? settle : encoded.now;
    const tokens = tokenizeDelimited(source.name, encoded.bytes, how, params, context);
    if (tokens.rows === 0) throw new ReadFailure(source.name, `${source.name} holds no lines.`);
    const made = result(source, encoded, tokens);
    // An unquoted comma divides cells, so it is no decimal mark.
    return delimiter === ',' ? { ...made, table: { ...made.table, decimal: '.' } } : made;
  },
});

function result(source: Source, encoded: Encoded, tokens: Tokenized): ReadResult {
  const { rows, columns, lines } = tokens;
  const fields: Field[] = columns.map((column, k) => ({ name: columnLetters(k), nameOrigin: 'position', column }));
  return gridResult(source, fields, rows, notices(encoded, tokens), lines, tokens.comments);
}

function notices(encoded: Encoded, tokens: Tokenized): Notice[] {
  const told: Notice[] = [];
  // Rows as the table counts them, without the comments between.
  const inTable = (row: number) => row - countBelow(tokens.comments, row);
  const { brokenAt } = encoded;
  told.push(...brokenNotices(encoded, brokenAt === undefined ? '' : ` (line ${lineOf(encoded.bytes, brokenAt)})`));
  if (brokenAt === undefined && encoded.encoding !== 'utf-8')
    told.push({ severity: 'info', text: `read as ${encoded.encoding}` });
  if (tokens.unclosed >= 0) {
    told.push({
      severity: 'warning',
      text: `a quote that opens in line ${tokens.lines[tokens.unclosed]! + 1} is never closed`,
      rows: { of: 'after', rows: Int32Array.of(inTable(tokens.unclosed)) },
    });
  }
  if (tokens.comments.length > 0)
    told.push({ severity: 'info', text: `${counted(tokens.comments.length, 'comment line')} set aside` });
  if (tokens.ragged.length > 0) {
    told.push({
      severity: 'warning',
      text: `${counted(tokens.ragged.length, 'row')} with another number of cells than the first`,
      rows: { of: 'after', rows: Int32Array.from(tokens.ragged, inTable) },
    });
  }
  return told;
}

/** How many of some ascending numbers are below another. */
function countBelow(numbers: readonly number[], limit: number): number {
  let [low, high] = [0, numbers.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (numbers[middle]! < limit) low = middle + 1;
    else high = middle;
  }
  return low;
}

function lineOf(bytes: Uint8Array, at: number): number {
  let line = 1;
  for (let k = 0; k < at; k++) if (bytes[k] === 10 || (bytes[k] === 13 && bytes[k + 1] !== 10)) line++;
  return line;
}

/** The dialect of a text, and whether spaces divide it. */
export function delimitedGuess(lines: readonly string[]): { guess: DialectGuess; spaced: DialectGuess } {
  const text = lines.join('\n');
  const signs = guessDialect(text);
  const spaced = guessRuns(text);
  const bySpaces = spaced.score > 0 && spaced.even >= EVEN_RUNS && signs.score < CLEAR && spaced.score > signs.score;
  return { guess: bySpaces || signs.score === 0 ? (spaced.even >= EVEN_RUNS ? spaced : signs) : signs, spaced };
}

/** Share of lines that runs of spaces must divide alike. */
const EVEN_RUNS = 0.95;
/** Score from which a sign divides for certain. */
export const CLEAR = 0.55;
