import { z } from 'zod';
import { blank, choiceBlank, option } from '../../kinds/sentence.ts';
import type { Notice } from '../../kinds/step.ts';
import { TextBuilder } from '../../table/builder.ts';
import { blankColumn } from '../../table/gather.ts';
import { columnLetters, type Field } from '../../table/table.ts';
import { counted, few } from '../../values/counted.ts';
import { chosenNames, NameSet, nameSetPhrase, nameSetText } from '../name-set.ts';
import type { PageLine } from '../print.ts';
import { ReadFailure } from '../read-failure.ts';
import { type ReadPile, type ReadWords, readKind, type Source } from '../read-kind.ts';
import type { Places, ReportPart } from '../report.ts';
import { openedPages } from './opened-pages.ts';
import { cellsOf, guessPageCuts } from './page-cuts.ts';
import { pageFrames } from './page-frame.ts';
import { linesOf, wordsText } from './page-lines.ts';
import { type PageRow, rowsOfPages } from './page-rows.ts';

const Params = z.object({
  source: z.string(),
  pages: NameSet.default({ by: 'all' }),
  cuts: z
    .array(z.number().positive())
    .default([])
    .describe('Points from the left edge of the page at which columns begin, but for the first'),
  names: z
    .array(z.string())
    .default([])
    .describe('Names of the columns, from the left; those without are named by position'),
  frames: z.boolean().default(true).describe('Lines that stand on most pages in the same place are set aside'),
  join: z.boolean().default(true).describe('A cell that goes on in the next line is one'),
});
export type ReadPdf = z.infer<typeof Params>;

export const readPdfWords: ReadWords<ReadPdf> = {
  kind: 'read-pdf',
  title: 'Read pages',
  page: 'page',
  params: Params,
  headline: ({ pages }) => `Read ${nameSetPhrase(pages, 'pages')}`,
  sentence: (params, sourceName) => [
    'Read ',
    blank('pages', nameSetText(params.pages, 'pages'), { as: 'sheets', label: 'Which pages' }),
    ` of ${sourceName}, cut at `,
    blank('cuts', params.cuts.length === 0 ? 'nothing' : params.cuts.join(', '), {
      as: 'numbers',
      label: 'Points from the left edge',
    }),
    option(
      params.names.every((name) => name === ''),
      ', named ',
      blank('names', columnNames(params).join(', '), { as: 'lines', label: 'Names of the columns, one a line' }),
    ),
    option(
      params.frames,
      ', page heads and feet ',
      choiceBlank('frames', params.frames, 'Page heads and feet', [
        [true, 'set aside'],
        [false, 'kept'],
      ]),
    ),
    option(
      params.join,
      ', cells over several lines ',
      choiceBlank('join', params.join, 'Cells over several lines', [
        [true, 'joined'],
        [false, 'as they stand'],
      ]),
    ),
  ],
};

export const readPdf = /* @__PURE__ */ readKind<ReadPdf>(readPdfWords, {
  start: (id, source) => {
    const lines = openedPages(source).map(linesOf);
    const first = guessPageCuts(lines.flat());
    // What stands around the table on every page says nothing of its columns.
    const frames = pageFrames(lines, first);
    const own = lines.flatMap((page, p) => page.filter((_, k) => !frames[p]![k]));
    return Params.parse({ source: id, cuts: guessPageCuts(own) });
  },
  read(source, params, context) {
    const pages = openedPages(source);
    const names = pages.map((_, k) => `Page ${k + 1}`);
    const chosen = chosenNames(params.pages, names, source.name, 'page');
    const cuts = [...new Set(params.cuts)].sort((a, b) => a - b);
    const lines = chosen.map((k) => linesOf(pages[k]!));
    if (lines.every((page) => page.length === 0)) throw pictures(source, chosen.length);
    const frames = params.frames ? pageFrames(lines, cuts) : lines.map((page) => page.map(() => false));
    const cells = lines.map((page) => page.map((line) => cellsOf(line, cuts).map(textOrBlank)));
    const rows = rowsOfPages(
      lines.map((page, p) => page.map((line, k) => ({ line, cells: cells[p]![k]!, isFrame: frames[p]![k]! }))),
      params.join,
    );
    context.progress(0.8);
    // All pages are one part: a table goes on from page to page, and so do its totals.
    const first = firstLines(lines);
    const whole = cells.flat();
    const part: ReportPart = {
      name: source.name,
      rows: whole.length,
      columns: columnsOf(whole, cuts.length + 1),
      displayed: [],
      merges: [],
      comments: [],
      hidden: false,
      print: {
        cuts,
        pages: chosen.map((k, p) => {
          const { width, height } = pages[k]!;
          return { number: k + 1, width, height, first: first[p]!, lines: lines[p]! };
        }),
      },
    };
    const fields = columnsOf(
      rows.map((row) => joined(cells[row.page]!.slice(row.from, row.to))),
      cuts.length + 1,
    ).map((column, k): Field => {
      const name = params.names[k] ?? '';
      return { name: name || columnLetters(k), nameOrigin: name === '' ? 'position' : 'named', column };
    });
    return {
      report: { format: 'text', parts: [part] },
      table: { rows: rows.length, fields },
      places: placesOf(rows, cells, first, cuts.length + 1),
      notices: notices(pages, chosen, lines, rows),
      aside: asideOf(frames.flat()),
    };
  },
});

function columnNames({ cuts, names }: ReadPdf): string[] {
  return Array.from({ length: cuts.length + 1 }, (_, k) => names[k] || columnLetters(k));
}

function textOrBlank(words: PageLine['words']): string | null {
  return words.length === 0 ? null : wordsText(words);
}

function columnsOf(rows: readonly (readonly (string | null)[])[], width: number) {
  if (rows.length === 0) return Array.from({ length: width }, () => blankColumn(0));
  return Array.from({ length: width }, (_, c) => {
    const builder = new TextBuilder(rows.length);
    for (const row of rows) builder.push(row[c] ?? null);
    return builder.finish();
  });
}

/** The cells of several lines as those of one row. */
function joined(lines: readonly (readonly (string | null)[])[]): (string | null)[] {
  if (lines.length === 1) return [...lines[0]!];
  return lines[0]!.map((_, c) => {
    const texts = lines.flatMap((line) => line[c] ?? []);
    if (texts.length === 0) return null;
    // A hyphen between small letters at the end of a line divides a word.
    return texts.reduce((whole, text) =>
      /\p{Ll}-$/u.test(whole) && /^\p{Ll}/u.test(text) ? whole.slice(0, -1) + text : `${whole} ${text}`,
    );
  });
}

/** The line of all pages that each page begins with. */
function firstLines(pages: readonly (readonly unknown[])[]): number[] {
  let at = 0;
  return pages.map((page) => {
    const first = at;
    at += page.length;
    return first;
  });
}

function asideOf(frames: readonly boolean[]): ReadPile[] {
  const rows = frames.flatMap((is, k) => (is ? [k] : []));
  return rows.length === 0 ? [] : [{ part: 0, name: 'page heads and feet', mark: 'note', rows: Int32Array.from(rows) }];
}

function placesOf(
  rows: readonly PageRow[],
  cells: readonly (readonly (readonly (string | null)[])[])[],
  first: readonly number[],
  width: number,
): Places {
  const part = new Int32Array(rows.length);
  const row = Int32Array.from(rows, ({ page, from }) => first[page]! + from);
  const columns = Int32Array.from({ length: width }, (_, k) => k);
  if (rows.every(({ from, to }) => to === from + 1)) return { part, row, columns };
  // A cell stands in the first line that fills it.
  const cellRows = Array.from({ length: width }, (_, c) =>
    Int32Array.from(rows, ({ page, from, to }) => {
      for (let k = from; k < to; k++) if (cells[page]![k]![c] !== null) return first[page]! + k;
      return first[page]! + from;
    }),
  );
  return { part, row, columns, height: Int32Array.from(rows, ({ from, to }) => to - from), cellRows };
}

function notices(
  pages: ReturnType<typeof openedPages>,
  chosen: readonly number[],
  lines: readonly (readonly PageLine[])[],
  rows: readonly PageRow[],
): Notice[] {
  const told: Notice[] = [{ severity: 'info', text: `${counted(chosen.length, 'page')} read` }];
  const bare = chosen.filter((_, p) => lines[p]!.length === 0).map((k) => String(k + 1));
  if (bare.length > 0)
    told.push({
      severity: 'warning',
      text: `no text on ${bare.length === 1 ? 'page' : 'pages'} ${few(bare, 5)}: ${bare.length === 1 ? 'it is' : 'they are'} blank, or a picture`,
    });
  const aslant = chosen.reduce((sum, k) => sum + pages[k]!.aslant, 0);
  if (aslant > 0)
    told.push({ severity: 'warning', text: `${counted(aslant, 'word')} that stand in another direction left out` });
  const over = rows.flatMap(({ from, to }, r) => (to - from > 1 ? [r] : []));
  if (over.length > 0)
    told.push({
      severity: 'info',
      text: `${counted(over.length, 'row')} of several lines, joined`,
      rows: { of: 'after', rows: Int32Array.from(over) },
    });
  return told;
}

function pictures(source: Source, pages: number): ReadFailure {
  return new ReadFailure(
    source.name,
    `${source.name} holds no text: ${pages === 1 ? 'its page is a picture' : 'its pages are pictures'}, as a scanner makes them. Ask for it as it was printed from a program, or have its text recognised first.`,
  );
}
