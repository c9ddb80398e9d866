import { z } from 'zod';
import { blank, choiceBlank, option } from '../kinds/sentence.ts';
import { type Notice, StepFailure } from '../kinds/step.ts';
import { constantText, Dictionary, textColumn } from '../table/builder.ts';
import { type Column, columnLength, isBlank, Tag } from '../table/column.ts';
import { blankColumn, stackColumns, takeColumn } from '../table/gather.ts';
import { columnIndex, columnLetters, type Field, uniqueName } from '../table/table.ts';
import { rowNumbers } from '../table/vectors.ts';
import { cellText } from '../values/cell-text.ts';
import { counted, few } from '../values/counted.ts';
import { UnpackBudget } from './archive.ts';
import { EXPECTS, expectsPhrase } from './expected-columns.ts';
import { KeptNumbers } from './kept-numbers.ts';
import { alikeParts, unlikeNotices } from './likeness-of-parts.ts';
import { isMarkdown, readMarkdown } from './markdown.ts';
import { chosenNames, NameSet, nameSetPhrase, nameSetText } from './name-set.ts';
import { MAX_COLUMNS } from './read-failure.ts';
import { type ReadWords, readKind, type Source } from './read-kind.ts';
import { displayedText, PART_NAME, type Report, type ReportPart } from './report.ts';
import { headText, sniff } from './sniff.ts';
import { readWebPage } from './web-page.ts';
import { readWorkbook } from './workbook.ts';

const Params = z.object({
  source: z.string(),
  sheets: NameSet.default({ by: 'all' }),
  nameColumn: z.string().nullable().default('Sheet').describe("Column that takes the sheet's name; null: none"),
  merged: z
    .enum(['first', 'down', 'all'])
    .default('first')
    .describe('Cells of a merge that hold its value; down: those of its first column'),
  values: z.enum(['stored', 'displayed']).default('stored'),
  range: z
    .string()
    .nullable()
    .default(null)
    .describe('Cells to read of each sheet, as A3:H40, A3:H (to the last row) or C:F; null: all'),
  hidden: z.enum(['keep', 'leave']).default('keep').describe('Rows and columns that the report hides'),
  expects: EXPECTS,
  indents: z
    .enum(['leave', 'spaces'])
    .optional()
    .describe("spaces: texts that the cell's style indents get two spaces in front for each step"),
  comments: z.boolean().default(false).describe('Cell comments as a column beside theirs'),
});
type Params = z.infer<typeof Params>;

/**
 * The sheets of a workbook, or the tables of a page.
 * @param progress told of the part done, 0 to 1; may throw to end it
 * @throws ReadFailure
 */
export function sheetsReport(source: Source, progress?: (done: number) => void): Report {
  source.room ??= UnpackBudget.for(source.bytes);
  source.report ??=
    sniff(source.bytes, source.name) === 'page'
      ? readPage(source)
      : readWorkbook(source.bytes, source.name, source.room, progress);
  return source.report;
}

function readPage({ bytes, name }: Source): Report {
  return isMarkdown(headText(bytes, name), name) ? readMarkdown(bytes, name) : readWebPage(bytes, name);
}

export const readSheetsWords: ReadWords<Params> = {
  kind: 'read-sheets',
  title: 'Read sheets',
  page: 'sheet',
  params: Params,
  headline: ({ sheets }) => `Read ${nameSetPhrase(sheets, 'sheets')}`,
  sentence: (params, sourceName) => [
    'Read ',
    blank('sheets', nameSetText(params.sheets, 'sheets'), { as: 'sheets', label: 'Which sheets' }),
    ` of ${sourceName}, stacked, sheet name in `,
    blank('nameColumn', params.nameColumn ?? 'no column', {
      as: 'text',
      label: "Column for the sheet's name",
      optional: true,
    }),
    option(
      params.merged === 'first',
      ', merged cells in their ',
      choiceBlank('merged', params.merged, 'Cells of a merge that hold its value', [
        ['first', 'first cell'],
        ['down', 'first column'],
        ['all', 'every cell'],
      ]),
    ),
    option(
      params.values === 'stored',
      ', read as ',
      choiceBlank('values', params.values, 'What is read of a cell', [
        ['stored', 'stored values'],
        ['displayed', 'displayed text'],
      ]),
    ),
    option(
      params.range === null,
      ', cells ',
      blank('range', params.range ?? 'all', {
        as: 'text',
        label: 'Range of cells',
        optional: true,
        hint: 'A3:H40, A3:H to the last row, or C:F',
      }),
    ),
    option(
      params.hidden === 'keep',
      ', what is hidden ',
      choiceBlank('hidden', params.hidden, 'Hidden rows and columns', [
        ['keep', 'kept'],
        ['leave', 'left out'],
      ]),
    ),
    option(
      params.indents !== 'spaces',
      ', indents of cells ',
      choiceBlank('indents', params.indents ?? 'leave', 'Indents of cells', [
        ['leave', 'left out'],
        ['spaces', 'as spaces'],
      ]),
    ),
    option(
      !params.comments,
      ', comments ',
      choiceBlank('comments', params.comments, 'Cell comments', [
        [false, 'on the report alone'],
        [true, 'as columns beside theirs'],
      ]),
    ),
    expectsPhrase(params.expects),
  ],
};

export const readSheets = /* @__PURE__ */ readKind<Params>(readSheetsWords, {
  start: (id, source) => {
    const { parts } = sheetsReport(source);
    const shown = parts.filter((part) => !part.hidden && part.rows > 0);
    const visible = alikeParts(shown).map((k) => shown[k]!);
    if (visible.length === 0) return Params.parse({ source: id });
    const single = visible.length === 1;
    return Params.parse({
      source: id,
      sheets:
        visible.length === parts.length ? { by: 'all' } : { by: 'names', names: visible.map((part) => part.name) },
      nameColumn: single ? null : 'Sheet',
    });
  },
  read(source, params, context) {
    const report = sheetsReport(source, context.progress);
    const chosen = chosenNames(
      params.sheets,
      report.parts.map((part) => part.name),
      source.name,
      'sheet',
    );
    const cut = cutOf(params);
    const pieces = chosen.map((k) => ({ k, part: report.parts[k]!, rows: rowsOf(report.parts[k]!, cut, params) }));
    const rows = pieces.reduce((sum, piece) => sum + piece.rows.length, 0);
    const width = Math.max(0, ...pieces.map(({ part }) => part.columns.length));
    const hidden = hiddenEverywhere(
      pieces.map(({ part }) => part),
      width,
    );

    const fields: Field[] = [];
    const taken = new Set<string>();
    const columns: number[] = [];
    if (params.nameColumn !== null && params.nameColumn !== '') {
      const names = pieces.map(({ part, rows: own }) => constantText(part.name, own.length));
      fields.push({ name: uniqueName(params.nameColumn, taken), nameOrigin: 'beside', column: stackColumns(names) });
      columns.push(PART_NAME);
    }
    for (let c = cut.fromColumn; c < Math.min(width, cut.toColumn); c++) {
      if (params.hidden === 'leave' && hidden.has(c)) continue;
      const cells = pieces.map(({ part, rows: own }) => takeRowsOf(partColumn(part, c, params), own));
      fields.push({ name: uniqueName(columnLetters(c), taken), nameOrigin: 'position', column: stackColumns(cells) });
      columns.push(c);
      if (params.comments && pieces.some(({ part }) => part.comments.some((one) => one.column === c))) {
        const texts = pieces.map(({ part, rows: own }) => takeRowsOf(commentColumn(part, c), own));
        fields.push({
          name: uniqueName(`Comment ${columnLetters(c)}`, taken),
          nameOrigin: 'beside',
          column: stackColumns(texts),
        });
        columns.push(c);
      }
      context.progress((c + 1) / width);
    }
    const part = new Int32Array(rows);
    const row = new Int32Array(rows);
    let at = 0;
    for (const piece of pieces) {
      part.fill(piece.k, at, at + piece.rows.length);
      row.set(piece.rows, at);
      at += piece.rows.length;
    }
    return {
      report,
      table: { rows, fields },
      places: { part, row, columns: Int32Array.from(columns) },
      notices: [
        ...sheetNotices(report, chosen, params),
        ...unlikeNotices(
          pieces.map(({ part }) => part),
          params.nameColumn !== null && params.nameColumn !== '',
        ),
      ],
    };
  },
});

interface Cut {
  fromRow: number;
  toRow: number;
  fromColumn: number;
  toColumn: number;
}

/** @throws StepFailure when the range cannot be read */
function cutOf(params: Params): Cut {
  const range = params.range?.trim() ?? '';
  if (range === '') return { fromRow: 0, toRow: Number.POSITIVE_INFINITY, fromColumn: 0, toColumn: MAX_COLUMNS };
  const match = /^\$?([A-Z]{1,3})\$?(\d*):\$?([A-Z]{1,3})\$?(\d*)$/i.exec(range);
  if (match === null) throw new StepFailure(`The range ${range} cannot be read: write it as A3:H40, A3:H or C:F.`);
  const [, left, top, right, bottom] = match;
  const [a, b] = [columnIndex(left!), columnIndex(right!)].sort((x, y) => x - y);
  const from = top === '' ? 0 : Number(top) - 1;
  return {
    fromRow: from,
    toRow: bottom === '' ? Number.POSITIVE_INFINITY : Math.max(Number(bottom), from),
    fromColumn: a!,
    toColumn: b! + 1,
  };
}

function rowsOf(part: ReportPart, cut: Cut, params: Params): Int32Array {
  const left = params.hidden === 'leave' ? new Set(part.hiddenRows) : undefined;
  const all = rowNumbers(part.rows).subarray(Math.min(cut.fromRow, part.rows), Math.min(cut.toRow, part.rows));
  return left === undefined || left.size === 0 ? all : all.filter((row) => !left.has(row));
}

function takeRowsOf(column: Column, rows: Int32Array): Column {
  return rows.length === columnLength(column) ? column : takeColumn(column, rows);
}

/** Columns that are hidden on every sheet read: on some only, they stay, since the others need them. */
function hiddenEverywhere(parts: readonly ReportPart[], width: number): Set<number> {
  const reaching = new Int32Array(width);
  const hiding = new Int32Array(width);
  for (const part of parts) {
    for (let c = 0; c < Math.min(width, part.columns.length); c++) reaching[c]!++;
    for (const c of new Set(part.hiddenColumns)) if (c < width) hiding[c]!++;
  }
  return new Set([...reaching.keys()].filter((c) => reaching[c]! > 0 && hiding[c] === reaching[c]));
}

function commentColumn(part: ReportPart, c: number): Column {
  const texts: (string | null)[] = new Array(part.rows).fill(null);
  for (const one of part.comments) {
    if (one.column === c && one.row < part.rows)
      texts[one.row] = [texts[one.row], one.text].filter((text) => text !== null).join('; ');
  }
  return textColumn(texts);
}

function sheetNotices(report: Report, chosen: readonly number[], params: Params): Notice[] {
  const parts = chosen.map((k) => report.parts[k]!);
  const told: Notice[] = [];
  const comments = parts.reduce((sum, part) => sum + part.comments.length, 0);
  if (comments > 0 && !params.comments)
    told.push({ severity: 'info', text: `${counted(comments, 'cell comment')} on the report` });
  const empty = parts.reduce((sum, part) => sum + (part.emptyFormulas ?? 0), 0);
  if (empty > 0)
    told.push({
      severity: 'warning',
      text: `${counted(empty, 'formula')} with no stored value, or an empty one, read as blank: if figures are missing, open the workbook in a spreadsheet program and save it`,
    });
  const kept = new KeptNumbers();
  for (const part of parts) if (part.keptNumbers !== undefined) kept.addAll(part.keptNumbers);
  told.push(...kept.notices());
  const missing = report.parts.filter((part) => part.missing);
  if (missing.length > 0)
    told.push({
      severity: 'warning',
      text: `${counted(missing.length, 'sheet')} named in the workbook but not in it: ${few(missing.map((part) => part.name))}`,
    });
  const odd = parts.filter((part) => part.odd);
  if (odd.length > 0)
    told.push({
      severity: 'info',
      text: `${counted(odd.length, 'sheet')} read by the slower of two ways, since cells are written in an uncommon form: ${few(odd.map((part) => part.name))}`,
    });
  const what = params.hidden === 'keep' ? 'kept' : 'left out';
  for (const [name, of] of [
    ['row', 'hiddenRows'],
    ['column', 'hiddenColumns'],
  ] as const) {
    const hidden = parts.reduce((sum, part) => sum + (part[of]?.length ?? 0), 0);
    if (hidden > 0)
      told.push({
        severity: params.hidden === 'keep' ? 'warning' : 'info',
        text: `${counted(hidden, `hidden ${name}`)} ${what}`,
      });
  }
  const sheets = parts.filter((part) => part.hidden);
  if (sheets.length > 0)
    told.push({
      severity: 'warning',
      text: `${counted(sheets.length, 'hidden sheet')} read: ${few(sheets.map((part) => part.name))}`,
    });
  const unread = report.parts.filter((part, k) => part.hidden && !chosen.includes(k));
  if (unread.length > 0)
    told.push({
      severity: 'info',
      text: `${counted(unread.length, 'hidden sheet')} left out: ${few(unread.map((part) => part.name))}`,
    });
  const others = report.parts.filter((part, k) => !part.hidden && part.rows > 0 && !chosen.includes(k));
  if (others.length > 0)
    told.push({
      severity: 'info',
      text: `${counted(others.length, 'sheet')} not read here: ${few(others.map((part) => part.name))}`,
    });
  return told;
}

function partColumn(part: ReportPart, c: number, params: Params): Column {
  let column = part.columns[c];
  if (column === undefined) return blankColumn(part.rows);
  if (params.values === 'displayed' && part.displayed[c] !== undefined) {
    column = textColumn(Array.from({ length: part.rows }, (_, r) => displayedText(part, r, c)));
  }
  if (params.indents === 'spaces') column = indented(part, column, c);
  return params.merged === 'first' ? column : fillMerges(part, column, c, params);
}

/** Texts with two spaces in front for each step by which their cell stands in. */
function indented(part: ReportPart, column: Column, c: number): Column {
  const sheet = part.styles?.();
  const codes = sheet?.columns[c];
  if (sheet === undefined || codes === undefined || (column.type !== 'text' && column.type !== 'received'))
    return column;
  const steps = sheet.styles.map((style) => style.indent);
  if (!codes.some((code) => code >= 0 && steps[code]! > 0)) return column;
  const widths = Array.from(codes, (code, r) =>
    code < 0 || (column.type === 'received' && column.tags[r] !== Tag.text) || isBlank(column, r) ? 0 : steps[code]!,
  );
  const texts = new Dictionary();
  const take = (r: number) => texts.code(' '.repeat(2 * widths[r]!) + cellText(column, r));
  if (column.type === 'text')
    return textColumn(
      widths.map((width, r) => (width === 0 ? cellText(column, r) : ' '.repeat(2 * width) + cellText(column, r))),
    );
  const values = column.values.map((value, r) => (column.tags[r] === Tag.text ? take(r) : value));
  return { ...column, values, dictionary: texts.texts };
}

function fillMerges(part: ReportPart, column: Column, c: number, params: Params): Column {
  const covering = part.merges.filter(
    (merge) => c === merge.column || (params.merged === 'all' && c > merge.column && c < merge.column + merge.columns),
  );
  if (covering.length === 0) return column;
  // Columns whose first cell of a merge reaches into this one, each laid below the column itself once.
  const sources = [...new Set(covering.map((merge) => merge.column))].filter((source) => source !== c);
  const laid = sources.map((source) => partColumn({ ...part, merges: [] }, source, { ...params, merged: 'first' }));
  const offsets = new Map([[c, 0], ...sources.map((source, k): [number, number] => [source, (k + 1) * part.rows])]);
  const rows = rowNumbers(part.rows);
  for (const merge of covering) {
    const first = offsets.get(merge.column)! + merge.row;
    for (let r = merge.row; r < Math.min(part.rows, merge.row + merge.rows); r++) rows[r] = first;
  }
  return takeColumn(sources.length === 0 ? column : stackColumns([column, ...laid]), rows);
}
