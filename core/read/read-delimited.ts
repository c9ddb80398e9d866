import { z } from 'zod';
import { blank, shown } from '../steps/sentence.ts';
import { type Context, counted, type Notice } from '../steps/step.ts';
import { TextBuilder } from '../table/builder.ts';
import { columnLetters, type Field } from '../table/table.ts';
import { rowNumbers } from '../table/vectors.ts';
import { ReadFailure } from './read-failure.ts';
import type { ReadKind } from './read-kind.ts';

const Params = z.object({
  source: z.string(),
  delimiter: z.string().min(1).default(','),
  quote: z.string().length(1).nullable().default('"'),
});
type Params = z.infer<typeof Params>;

const DELIMITERS: Record<string, string> = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'upright bar' };

/** Delimited text by RFC 4180, with any delimiter and any of the three line ends. */
export const readDelimited: ReadKind<Params> = {
  kind: 'read-delimited',
  title: 'Read delimited text',
  params: Params,
  start: (id, source) =>
    Params.parse({ source: id, delimiter: guessDelimiter(decode(source.bytes.subarray(0, 65_536))) }),
  sentence: (params, sourceName) => [
    `Read ${sourceName} as delimited text, cells divided by `,
    blank('delimiter', DELIMITERS[params.delimiter] ?? shown(params.delimiter), {
      as: 'choice',
      label: 'Delimiter',
      choices: Object.entries(DELIMITERS).map(([value, label]) => ({ value, label })),
    }),
  ],
  read(source, params, context) {
    const text = decode(source.bytes);
    const { builders, rows, ragged } = tokenize(text, params, context);
    if (rows === 0) throw new ReadFailure(source.name, `${source.name} holds no lines.`);
    const fields: Field[] = builders.map((builder, k) => {
      builder.padTo(rows);
      return { name: columnLetters(k), standing: 'position', column: builder.finish() };
    });
    const table = { rows, fields };
    const notices: Notice[] =
      ragged.length === 0
        ? []
        : [
            {
              tone: 'look',
              text: `${counted(ragged.length, 'row')} with another number of cells than the first`,
              rows: { of: 'after', rows: Int32Array.from(ragged) },
            },
          ];
    const row = rowNumbers(rows);
    return {
      report: {
        format: 'text',
        parts: [
          {
            name: source.name,
            rows,
            columns: fields.map((field) => field.column),
            displayed: [],
            merges: [],
            comments: [],
            hidden: false,
          },
        ],
      },
      table,
      places: { part: new Int32Array(rows), row, columns: Int32Array.from(fields, (_, k) => k) },
      notices,
    };
  },
};

function decode(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** The delimiter that stands equally often, and more than once, on most of the first lines. */
export function guessDelimiter(text: string): string {
  const lines = text
    .split(/\r\n|\n|\r/)
    .filter((line) => line !== '')
    .slice(0, 50);
  let best = ',';
  let bestScore = 0;
  for (const delimiter of Object.keys(DELIMITERS)) {
    const counts = lines.map((line) => line.replace(/"(?:[^"]|"")*"/g, '').split(delimiter).length - 1);
    const usual = counts.toSorted((a, b) => a - b)[Math.floor(counts.length / 2)] ?? 0;
    const score = usual === 0 ? 0 : counts.filter((count) => count === usual).length * (1 + Math.min(usual, 20) / 100);
    if (score > bestScore) [best, bestScore] = [delimiter, score];
  }
  return best;
}

function tokenize(text: string, params: Params, context: Context) {
  const { delimiter, quote } = params;
  const builders: TextBuilder[] = [];
  const ragged: number[] = [];
  const n = text.length;
  let rows = 0;
  let width = -1;
  let cell = 0;
  const put = (value: string) => {
    let builder = builders[cell];
    if (builder === undefined) {
      builder = new TextBuilder();
      builders.push(builder);
    }
    builder.padTo(rows);
    builder.push(value === '' ? null : value);
    cell++;
  };
  const endRow = () => {
    if (width < 0) width = cell;
    else if (cell !== width) ragged.push(rows);
    rows++;
    cell = 0;
    if ((rows & 0xfff) === 0) context.progress(at / n);
  };
  let at = 0;
  while (at < n) {
    if (quote !== null && text[at] === quote) {
      let value = '';
      let from = at + 1;
      for (;;) {
        const end = text.indexOf(quote, from);
        if (end < 0) {
          value += text.slice(from);
          at = n;
          break;
        }
        value += text.slice(from, end);
        if (text[end + 1] === quote) {
          value += quote;
          from = end + 2;
          continue;
        }
        at = end + 1;
        break;
      }
      const rest = at;
      while (at < n && !text.startsWith(delimiter, at) && text[at] !== '\n' && text[at] !== '\r') at++;
      put(value + text.slice(rest, at));
    } else {
      const from = at;
      const lead = delimiter.charCodeAt(0);
      for (; at < n; at++) {
        const code = text.charCodeAt(at);
        if (code === 10 || code === 13) break;
        if (code === lead && (delimiter.length === 1 || text.startsWith(delimiter, at))) break;
      }
      put(text.slice(from, at));
    }
    if (at >= n) {
      endRow();
      break;
    }
    if (text[at] === '\r' || text[at] === '\n') {
      at += text[at] === '\r' && text[at + 1] === '\n' ? 2 : 1;
      endRow();
    } else {
      at += delimiter.length;
      if (at >= n) {
        put('');
        endRow();
      } else if (text[at] === '\r' || text[at] === '\n') {
        put('');
        at += text[at] === '\r' && text[at + 1] === '\n' ? 2 : 1;
        endRow();
      }
    }
  }
  return { builders, rows, ragged };
}
