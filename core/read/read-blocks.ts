import { z } from 'zod';
import { blank, option } from '../kinds/sentence.ts';
import { type Notice, StepFailure } from '../kinds/step.ts';
import { textColumn } from '../table/builder.ts';
import { type Field, uniqueName } from '../table/table.ts';
import { rowNumbers } from '../table/vectors.ts';
import { counted, few } from '../values/counted.ts';
import { escapeRegExp } from '../values/text.ts';
import { EXPECTS, expectsPhrase } from './expected-columns.ts';
import { type ReadResult, type ReadWords, readKind, type Source } from './read-kind.ts';
import { ENCODING, encodingBlank, textLines } from './text-lines.ts';

const Params = z.object({
  source: z.string(),
  divider: z.string().min(1).default(':').describe('Stands between name and value'),
  begins: z
    .string()
    .nullable()
    .default(null)
    .describe('Name of the line that begins a record; null: a record ends at a blank line'),
  rest: z.string().min(1).default('Other lines').describe('Column for lines that are neither pairs nor go on with one'),
  expects: EXPECTS,
  encoding: ENCODING,
});
type Params = z.infer<typeof Params>;

const DIVIDERS = [':', '='];

/** Names longer than this are sentences with a colon in them. */
const MAX_NAME_LENGTH = 40;

interface Pair {
  name: string;
  value: string;
}

/** Blocks of lines 'name: value', each block a row. A line may hold several pairs, divided by two blanks or more. */
export const readBlocksWords: ReadWords<Params> = {
  kind: 'read-blocks',
  title: 'Read blocks of lines',
  tab: 'blocks of lines',
  page: 'lines',
  params: Params,
  headline: () => 'Read blocks of names and values',
  sentence: (params, sourceName) => [
    `Read ${sourceName} in blocks of lines, names and values divided by `,
    blank('divider', params.divider, { as: 'text', label: 'Between name and value' }),
    ', a record begins ',
    blank(
      'begins',
      params.begins === null || params.begins === '' ? 'after a blank line' : `at each ${params.begins}`,
      {
        as: 'text',
        label: 'Name that begins a record',
        optional: true,
        hint: 'Left blank: a record ends at a blank line',
      },
    ),
    option(
      params.rest === 'Other lines',
      ', other lines in ',
      blank('rest', params.rest, { as: 'text', label: 'Column for other lines' }),
    ),
    option(params.encoding === null, ', encoding ', encodingBlank(params.encoding)),
    expectsPhrase(params.expects),
  ],
};

export const readBlocks = /* @__PURE__ */ readKind<Params>(readBlocksWords, {
  start: (id, source) => {
    const { lines } = textLines(source, null);
    const divider = DIVIDERS.find((one) => isInBlocks(lines, one)) ?? ':';
    return Params.parse({ source: id, divider, begins: guessBeginning(lines, divider) });
  },
  read(source, params, context) {
    const { lines, notices } = textLines(source, params.encoding);
    const records = recordsOf(lines, params);
    context.progress(0.6);
    if (!records.some((record) => record.cells.size > 0))
      throw new StepFailure(
        `No line of ${source.name} has a name and a value divided by '${params.divider}'. Change what divides them, or read the lines in another way.`,
      );
    return blocksResult(source, lines, records, params, notices);
  },
});

interface BlockRecord {
  first: number;
  lines: number;
  /** By name: the value and the line it begins on. */
  cells: Map<string, { text: string; line: number }>;
  other: { text: string; line: number }[];
}

function recordsOf(lines: readonly string[], params: Params): BlockRecord[] {
  const pairs = pairsOf(params.divider);
  const begins = params.begins === null || params.begins === '' ? undefined : params.begins;
  const records: BlockRecord[] = [];
  let record: BlockRecord | undefined;
  let last: string | undefined;
  const begin = (line: number) => {
    record = { first: line, lines: 1, cells: new Map(), other: [] };
    records.push(record);
    last = undefined;
    return record;
  };
  lines.forEach((line, k) => {
    if (line.trim() === '') {
      last = undefined;
      if (begins === undefined) record = undefined;
      return;
    }
    const found = pairs(line);
    if (found.length === 0) {
      // Set in behind a pair, a line without a name goes on with its value.
      if (record !== undefined && last !== undefined && /^\s/.test(line)) {
        const cell = record.cells.get(last)!;
        cell.text = `${cell.text} ${line.trim()}`.trim();
      } else {
        const text = undecorated(line);
        // A drawn line alone belongs to no record.
        if (text !== '') (record ?? begin(k)).other.push({ text, line: k });
      }
    }
    for (const { name, value } of found) {
      // A name that comes again begins a record too: no value is ever written over.
      if (record === undefined || name === begins || record.cells.has(name)) begin(k);
      record!.cells.set(name, { text: value, line: k });
      last = name;
    }
    if (record !== undefined) record.lines = k - record.first + 1;
  });
  return records;
}

/** Without the signs that underline or frame a heading. */
function undecorated(line: string): string {
  return line
    .trim()
    .replace(/^[#=*~_-]{1,}\s+|\s+[#=*~_-]{1,}$|^[#=*~_-]{3,}$/g, '')
    .trim();
}

/** The pairs of a line, none when it does not begin with one. */
function pairsOf(divider: string): (line: string) => Pair[] {
  const sign = escapeRegExp(divider);
  // A name has no two blanks in a row.
  const name = `\\S(?:(?!\\s{2}).){0,${MAX_NAME_LENGTH - 1}}?`;
  const pair = new RegExp(`^\\s*(${name})\\s*${sign}(?:\\s+|$)(.*)$`, 'u');
  const begins = new RegExp(`${name}${sign}(?:\\s|$)`, 'uy');
  return (line) => {
    const found: Pair[] = [];
    const pieces: string[] = [];
    let from = 0;
    for (const gap of line.matchAll(/\s{2,}/g)) {
      begins.lastIndex = gap.index + gap[0].length;
      if (gap.index === 0 || !begins.test(line)) continue;
      pieces.push(line.slice(from, gap.index));
      from = gap.index + gap[0].length;
    }
    pieces.push(line.slice(from));
    for (const piece of pieces) {
      const match = pair.exec(piece);
      if (match !== null) found.push({ name: match[1]!, value: match[2]!.trim() });
      else if (found.length > 0) found.at(-1)!.value += `  ${piece.trim()}`;
      else return [];
    }
    return found;
  };
}

function blocksResult(
  source: Source,
  lines: readonly string[],
  records: readonly BlockRecord[],
  params: Params,
  notices: readonly Notice[],
): ReadResult {
  const names = [...new Set(records.flatMap((record) => [...record.cells.keys()]))];
  const taken = new Set<string>();
  const cellRows: Int32Array[] = [];
  const fields: Field[] = names.map((name) => {
    cellRows.push(Int32Array.from(records, (record) => record.cells.get(name)?.line ?? -1));
    return {
      name: uniqueName(name, taken),
      nameOrigin: 'named',
      column: textColumn(records.map((record) => record.cells.get(name)?.text || null)),
    };
  });
  const other = records.flatMap((record, r) => (record.other.length > 0 ? [r] : []));
  const told = [...notices];
  told.push({ severity: 'info', text: `${counted(records.length, 'record')} of ${counted(lines.length, 'line')}` });
  if (other.length > 0) {
    cellRows.push(Int32Array.from(records, (record) => record.other[0]?.line ?? -1));
    fields.push({
      name: uniqueName(params.rest, taken),
      nameOrigin: 'named',
      column: textColumn(records.map((record) => record.other.map(({ text }) => text).join(' ') || null)),
    });
    const examples = other.slice(0, 3).map((r) => records[r]!.other[0]!.text.slice(0, 40));
    told.push({
      severity: 'warning',
      text: `${counted(other.length, 'record')} with lines that are no pairs: ${few(examples, 3)}`,
      column: fields.at(-1)!.name,
      rows: { of: 'after', rows: Int32Array.from(other) },
    });
  }
  const width = fields.length;
  return {
    report: {
      format: 'text',
      parts: [
        {
          name: source.name,
          rows: lines.length,
          columns: [textColumn(lines.map((line) => (line.trim() === '' ? null : line.trim())))],
          displayed: [],
          merges: [],
          comments: [],
          hidden: false,
          lines: rowNumbers(lines.length),
          text: lines,
        },
      ],
    },
    table: { rows: records.length, fields },
    places: {
      part: new Int32Array(records.length),
      row: Int32Array.from(records, (record) => record.first),
      columns: new Int32Array(width),
      cellRows,
      height: Int32Array.from(records, (record) => record.lines),
    },
    notices: told,
  };
}

export function looksLikeBlocks(lines: readonly string[]): boolean {
  return DIVIDERS.some((divider) => isInBlocks(lines, divider));
}

/** Most lines are pairs, and a few names come again and again. */
function isInBlocks(lines: readonly string[], divider: string): boolean {
  const pairs = pairsOf(divider);
  // Lines that are set in and are no pairs go on with the one above.
  const filled = lines.filter((line) => /^\S/.test(line) || pairs(line).length > 0).slice(0, 400);
  const names = new Map<string, number>();
  let paired = 0;
  for (const line of filled) {
    const found = pairs(line);
    if (found.length > 0) paired++;
    for (const { name } of found) names.set(name, (names.get(name) ?? 0) + 1);
  }
  const again = [...names.values()].filter((count) => count > 1).length;
  const all = [...names.values()].reduce((sum, count) => sum + count, 0);
  return paired >= filled.length * 0.6 && paired >= 4 && again >= 2 && names.size <= all / 1.5;
}

/** Blank lines end records where each block begins alike; else the first name that comes again begins one. */
function guessBeginning(lines: readonly string[], divider: string): string | null {
  const pairs = pairsOf(divider);
  const starts: string[] = [];
  let fresh = true;
  let first: string | undefined;
  for (const line of lines) {
    if (line.trim() === '') {
      fresh = true;
      continue;
    }
    const name = pairs(line)[0]?.name;
    if (name === undefined) continue;
    first ??= name;
    if (fresh) starts.push(name);
    fresh = false;
  }
  const usual = starts.filter((name) => name === starts.at(-1)).length;
  if (starts.length >= 2 && usual >= starts.length * 0.8) return null;
  const counts = new Map<string, number>();
  for (const line of lines) {
    for (const { name } of pairs(line)) counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  return [...counts].find(([, count]) => count > 1)?.[0] ?? first ?? null;
}
