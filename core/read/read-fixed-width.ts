import { z } from 'zod';
import { KERNEL_BYTES } from '../kernels/window.ts';
import { blank, choiceBlank, option } from '../kinds/sentence.ts';
import type { Notice } from '../kinds/step.ts';
import { spansOf } from '../table/spanned-column.ts';
import { columnLetters } from '../table/table.ts';
import { rowNumbers } from '../table/vectors.ts';
import { counted, few } from '../values/counted.ts';
import { fitsCuts, guessCuts } from './cuts.ts';
import { brokenNotices, decodeSource } from './encoding.ts';
import { fixedByKernel } from './fixed-width-kernel.ts';
import { headingSpans } from './headings.ts';
import type { LineSpan } from './line-reader.ts';
import { type ReadResult, type ReadWords, readKind, type Source } from './read-kind.ts';
import {
  cellBetween,
  cutColumn,
  ENCODING,
  encodingBlank,
  lineColumn,
  lineTable,
  needText,
  textLines,
  withoutFront,
} from './text-lines.ts';

const Cuts = z
  .array(z.number().int().min(1))
  .default([])
  .describe('Characters, from 0, at which columns begin, but for the first');
const Names = z
  .array(z.string())
  .default([])
  .describe('Names of the columns, from the left; those without are named by position');

export const RecordKinds = z.object({
  at: z.number().int().min(0).describe('Character, from 0, at which the text stands that tells records apart'),
  length: z.number().int().min(1).describe('Characters of that text'),
  kinds: z.array(z.object({ text: z.string(), cuts: Cuts, names: Names })).default([]),
});
export type RecordKinds = z.infer<typeof RecordKinds>;

const Params = z.object({
  source: z.string(),
  cuts: Cuts,
  names: Names,
  records: RecordKinds.nullable()
    .default(null)
    .describe('Records of several kinds in one file, each with its own cuts; other lines by the cuts above'),
  rest: z
    .string()
    .nullable()
    .default(null)
    .describe('Column that takes lines with words cut in two, whole; null: they are cut like the others'),
  across: z
    .enum(['cut', 'whole'])
    .default('cut')
    .describe('Texts that run across a cut: cut in two, or whole in the column in which they begin, as headings are'),
  tab: z.number().int().min(1).max(64).default(8).describe('Characters from one tab stop to the next'),
  encoding: ENCODING,
});
export type FixedWidth = z.infer<typeof Params>;

const GUESS_LINES = 2000;
/** Share of the lines that may be headings. */
const MAX_HEADINGS = 0.4;
/** Share of the other lines that hold figures. */
const MIN_FIGURES = 0.6;

interface Layout {
  cuts: readonly number[];
  /** Index of its first column. */
  first: number;
}

export const readFixedWidthWords: ReadWords<FixedWidth> = {
  kind: 'read-fixed-width',
  title: 'Read fixed columns',
  tab: 'fixed columns',
  page: 'ruler',
  params: Params,
  headline: ({ cuts }) => `Read ${cuts.length + 1} fixed columns`,
  lineSpans: fixedSpans,
  sentence: (params, sourceName) => [
    `Read ${sourceName} in fixed columns, cut before characters `,
    blank('cuts', params.cuts.map((cut) => cut + 1).join(', ') || 'none', {
      as: 'cuts',
      label: 'Columns begin at characters',
    }),
    ', named ',
    blank('names', namesText(params.names), {
      as: 'lines',
      label: 'Names of the columns, from the left',
    }),
    option(
      params.records === null,
      ', kinds of record by ',
      blank('records', recordsText(params.records), { as: 'records', label: 'Kinds of record' }),
    ),
    option(
      params.rest === null,
      ', lines that do not fit ',
      blank('rest', params.rest === null || params.rest === '' ? 'cut like the others' : `whole in ${params.rest}`, {
        as: 'text',
        label: 'Column for lines that do not fit',
        optional: true,
        hint: 'Page heads and the like stand whole in it, and can be set aside',
      }),
    ),
    option(
      params.across === 'cut',
      ', texts across a cut ',
      choiceBlank('across', params.across, 'Texts that run across a cut', [
        ['cut', 'cut in two'],
        ['whole', 'whole where they begin'],
      ]),
    ),
    option(
      params.tab === 8,
      ', tab stops every ',
      blank('tab', String(params.tab), {
        as: 'count',
        label: 'Characters from tab stop to tab stop',
        least: 1,
        most: 64,
      }),
    ),
    option(params.encoding === null, ', encoding ', encodingBlank(params.encoding)),
  ],
};

export const readFixedWidth = /* @__PURE__ */ readKind<FixedWidth>(readFixedWidthWords, {
  start: (id, source) => {
    const { lines } = textLines(source, null);
    const cuts = guessCuts(withoutFront(lines.slice(0, GUESS_LINES)));
    const filled = lines.slice(0, GUESS_LINES).filter((line) => line.trim() !== '');
    const rows = filled.filter((line) => headingSpans(line, cuts) === undefined);
    const across = filled.length - rows.length;
    // Among rows of words nothing tells a heading.
    const isTold = rows.filter((line) => /\d/.test(line)).length >= rows.length * MIN_FIGURES;
    const isWhole = across > 0 && across <= filled.length * MAX_HEADINGS && isTold;
    return Params.parse({ source: id, cuts, across: isWhole ? 'whole' : 'cut' });
  },
  read(source, params, context) {
    const fast = source.bytes.length < KERNEL_BYTES ? undefined : readByKernel(source, params, context.progress);
    return fast ?? readByLines(source, params, context.progress);
  },
});

const NOTHING = new Uint8Array();

/** The same as by lines, for lines of printable ASCII that are all cut alike; undefined for others. */
export function readByKernel(
  source: Source,
  params: FixedWidth,
  progress: (done: number) => void,
): ReadResult | undefined {
  if (params.records !== null || params.across === 'whole') return undefined;
  needText(source);
  const encoded = decodeSource(source.bytes, params.encoding, source.name);
  const rest = params.rest === null || params.rest === '' ? undefined : params.rest;
  const layouts = layoutsOf(params);
  const { bytes, now } = encoded;
  const found = fixedByKernel(bytes, layouts.get(null)!.cuts, rest !== undefined, progress);
  if (found === undefined) return undefined;
  const names = columnNames(params, layouts);
  const made = found.columns.map((column) => column.finish(bytes, NOTHING, now));
  const lines = spansOf(made.pop()!)!;
  const columns = made.map((column, k) => ({ name: k < names.length ? names[k] : rest, column }));
  const lineOf = (row: number) => lines.text(row) ?? '';
  const text = () => Array.from({ length: found.rows }, (_, row) => lineOf(row));
  const notices = [...brokenNotices(encoded), ...misfitNotices(found.misfits, lineOf, rest)];
  return lineTable(source, columns, found.rows, text, notices);
}

export function readByLines(source: Source, params: FixedWidth, progress: (done: number) => void): ReadResult {
  const text = textLines(source, params.encoding, params.tab);
  const { lines, notices } = text;
  const layouts = layoutsOf(params);
  const ofLine = lines.map((line) => layoutOf(layouts, params, line));
  const rest = params.rest === null || params.rest === '' ? undefined : params.rest;
  const isWhole = keepsWhole(params);
  const headings = lines.map((line, r) =>
    isWhole && ofLine[r] !== undefined ? wholeCells(line, ofLine[r]) : undefined,
  );
  const misfits = lines.map(
    (line, r) => ofLine[r] === undefined || (headings[r] === undefined && !fitsCuts(line, ofLine[r].cuts)),
  );
  const names = columnNames(params, layouts);
  const columns: Parameters<typeof lineTable>[1][number][] = [];
  if (params.records !== null) {
    const { at, length } = params.records;
    columns.push({ name: 'Record', column: lineColumn(lines, (line) => line.slice(at, at + length).trim()) });
  }
  for (const layout of layouts.values()) {
    for (let k = 0; k <= layout.cuts.length; k++) {
      const [from, to] = [k === 0 ? 0 : layout.cuts[k - 1]!, layout.cuts[k] ?? Number.POSITIVE_INFINITY];
      const has = (r: number) => ofLine[r] === layout && !(misfits[r] && rest !== undefined);
      const at = columns.length;
      const column = isWhole
        ? lineColumn(
            lines,
            (line, r) =>
              headings[r]?.get(at) ?? (headings[r] === undefined && has(r) ? cellBetween(line, from, to) : ''),
          )
        : cutColumn(text, from, to, has);
      columns.push({ name: names[at], column });
      progress(columns.length / (names.length + 1));
    }
  }
  if (rest !== undefined)
    columns.push({ name: rest, column: lineColumn(lines, (line, r) => (misfits[r] ? line.trim() : '')) });
  const cut = rowNumbers(lines.length).filter((r) => misfits[r] && lines[r]!.trim() !== '');
  const told = misfitNotices([...cut], (row) => lines[row]!, rest);
  return lineTable(source, columns, lines.length, () => lines, [...notices, ...told]);
}

/** Texts that run across a cut stay whole, unless lines that do not fit have their own column. */
const keepsWhole = ({ across, rest }: FixedWidth) => across === 'whole' && (rest === null || rest === '');

/** The cells of a line whose texts run across the cuts, by column; undefined for one that is cut. */
function wholeCells(line: string, { cuts, first }: Layout): Map<number, string> | undefined {
  const spans = headingSpans(line, cuts);
  return spans && new Map(spans.map(({ from, to, column }) => [first + column, line.slice(from, to)]));
}

/** The layout of lines of no kind stands under the text null; there is none when only kinds are distinguished. */
function layoutsOf(params: FixedWidth): Map<string | null, Layout> {
  const layouts = new Map<string | null, Layout>();
  const first = params.records === null ? 0 : 1;
  let next = first;
  const add = (text: string | null, cuts: readonly number[]) => {
    const sorted = [...new Set(cuts)].sort((a, b) => a - b);
    layouts.set(text, { cuts: sorted, first: next });
    next += sorted.length + 1;
  };
  if (params.records === null || params.records.kinds.length === 0 || params.cuts.length > 0) add(null, params.cuts);
  for (const kind of params.records?.kinds ?? []) if (!layouts.has(kind.text)) add(kind.text, kind.cuts);
  return layouts;
}

function layoutOf(layouts: ReadonlyMap<string | null, Layout>, params: FixedWidth, line: string): Layout | undefined {
  if (params.records === null) return layouts.get(null);
  const { at, length } = params.records;
  return layouts.get(line.slice(at, at + length).trim()) ?? layouts.get(null);
}

function columnNames(params: FixedWidth, layouts: ReadonlyMap<string | null, Layout>): (string | undefined)[] {
  const names: (string | undefined)[] = params.records === null ? [] : ['Record'];
  for (const [text, { cuts }] of layouts) {
    const given = text === null ? params.names : params.records!.kinds.find((kind) => kind.text === text)!.names;
    for (let k = 0; k <= cuts.length; k++) {
      const own = given[k] === '' ? undefined : given[k];
      names.push(own ?? (text === null ? undefined : `${text} ${columnLetters(k)}`));
    }
  }
  return names;
}

/** Where on a line its cells stand. */
export function fixedSpans(params: FixedWidth): (line: string) => { spans: LineSpan[]; fits: boolean } {
  const layouts = layoutsOf(params);
  const restColumn = Math.max(0, ...[...layouts.values()].map(({ first, cuts }) => first + cuts.length + 1));
  return (line) => {
    const layout = layoutOf(layouts, params, line);
    const fits = layout !== undefined && fitsCuts(line, layout.cuts);
    if (layout === undefined || (!fits && params.rest)) {
      return { spans: [{ from: 0, to: line.length, column: restColumn }], fits };
    }
    const heading = keepsWhole(params) ? headingSpans(line, layout.cuts) : undefined;
    if (heading !== undefined)
      return { spans: heading.map((span) => ({ ...span, column: layout.first + span.column })), fits: true };
    const spans = [0, ...layout.cuts].map((from, k) => ({
      from,
      to: Math.min(line.length, layout.cuts[k] ?? line.length),
      column: layout.first + k,
    }));
    return { spans: spans.filter((span) => span.from < span.to), fits };
  };
}

function namesText(names: readonly string[]): string {
  return names.every((name) => name === '')
    ? 'by position'
    : names.map((name, k) => name || columnLetters(k)).join(', ');
}

function recordsText(records: RecordKinds | null): string {
  if (records === null) return 'nothing';
  const kinds = records.kinds.map((kind) => kind.text);
  return `characters ${records.at + 1} to ${records.at + records.length} (${kinds.join(', ') || 'no kinds yet'})`;
}

/** Lines with a word across a cut: page heads and the like, or a cut in the wrong place. */
function misfitNotices(rows: readonly number[], lineOf: (row: number) => string, rest: string | undefined): Notice[] {
  if (rows.length === 0) return [];
  const examples = few(
    rows.slice(0, 3).map((r) => lineOf(r).trim().replace(/\s+/g, ' ').slice(0, 40)),
    3,
  );
  return [
    {
      severity: rest === undefined ? 'warning' : 'info',
      text: `${counted(rows.length, 'line')} with words cut in two${rest === undefined ? '' : `, whole in ${rest}`}: ${examples}`,
      rows: { of: 'after', rows: Int32Array.from(rows) },
    },
  ];
}
