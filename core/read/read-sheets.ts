import { z } from 'zod';
import { compileRegExp } from '../steps/column-set.ts';
import { blank, choiceBlank } from '../steps/sentence.ts';
import { counted, StepFailure } from '../steps/step.ts';
import { constantText, textColumn } from '../table/builder.ts';
import type { Column } from '../table/column.ts';
import { blankColumn, stackColumns, takeColumn } from '../table/gather.ts';
import { columnLetters, type Field, uniqueName } from '../table/table.ts';
import { rowNumbers } from '../table/vectors.ts';
import { mostAlike } from '../values/likeness.ts';
import type { ReadKind, Source } from './read-kind.ts';
import { displayedText, PART_NAME, type Report, type ReportPart } from './report.ts';
import { readWorkbook } from './workbook.ts';

export const SheetSet = z.discriminatedUnion('by', [
  z.object({ by: z.literal('all') }),
  z.object({ by: z.literal('names'), names: z.array(z.string()).min(1) }),
  z.object({ by: z.literal('matches'), pattern: z.string().describe('ECMAScript regular expression') }),
]);
export type SheetSet = z.infer<typeof SheetSet>;

const Params = z.object({
  source: z.string(),
  sheets: SheetSet.default({ by: 'all' }),
  nameColumn: z.string().nullable().default('Sheet').describe("Column that takes the sheet's name; null: none"),
  merged: z.enum(['first', 'all']).default('first').describe('Cells of a merge that hold its value'),
  values: z.enum(['stored', 'displayed']).default('stored'),
});
type Params = z.infer<typeof Params>;

export function workbookReport(source: Source): Report {
  source.report ??= readWorkbook(source.bytes, source.name);
  return source.report;
}

export const readSheets: ReadKind<Params> = {
  kind: 'read-sheets',
  title: 'Read sheets',
  params: Params,
  start: (id, source) => {
    const visible = workbookReport(source).parts.filter((part) => !part.hidden);
    const single = visible.length === 1;
    return Params.parse({
      source: id,
      sheets:
        visible.length === workbookReport(source).parts.length
          ? { by: 'all' }
          : { by: 'names', names: visible.map((part) => part.name) },
      nameColumn: single ? null : 'Sheet',
    });
  },
  sentence: (params, sourceName) => [
    'Read ',
    blank('sheets', sheetsText(params.sheets), { as: 'sheets', label: 'Which sheets' }),
    ` of ${sourceName}, stacked, sheet name in `,
    blank('nameColumn', params.nameColumn ?? 'no column', {
      as: 'text',
      label: "Column for the sheet's name",
      optional: true,
    }),
    ', merged cells in their ',
    choiceBlank('merged', params.merged, 'Cells of a merge that hold its value', [
      ['first', 'first cell'],
      ['all', 'every cell'],
    ]),
    ', ',
    choiceBlank('values', params.values, 'What is read of a cell', [
      ['stored', 'stored values'],
      ['displayed', 'displayed text'],
    ]),
  ],
  read(source, params, context) {
    const report = workbookReport(source);
    const chosen = chosenSheets(params.sheets, report, source.name);
    const width = Math.max(0, ...chosen.map((k) => report.parts[k]!.columns.length));
    const heights = chosen.map((k) => report.parts[k]!.rows);
    const rows = heights.reduce((sum, height) => sum + height, 0);

    const fields: Field[] = [];
    const taken = new Set<string>();
    const columns: number[] = [];
    if (params.nameColumn !== null && params.nameColumn !== '') {
      const names = chosen.map((k, n) => constantText(report.parts[k]!.name, heights[n]!));
      fields.push({ name: uniqueName(params.nameColumn, taken), standing: 'beside', column: stackColumns(names) });
      columns.push(PART_NAME);
    }
    for (let c = 0; c < width; c++) {
      const pieces = chosen.map((k) => partColumn(report.parts[k]!, c, params));
      fields.push({ name: uniqueName(columnLetters(c), taken), standing: 'position', column: stackColumns(pieces) });
      columns.push(c);
      context.progress((c + 1) / width);
    }
    const part = new Int32Array(rows);
    const row = new Int32Array(rows);
    let at = 0;
    chosen.forEach((k, n) => {
      for (let r = 0; r < heights[n]!; r++, at++) {
        part[at] = k;
        row[at] = r;
      }
    });
    const comments = chosen.reduce((sum, k) => sum + report.parts[k]!.comments.length, 0);
    return {
      report,
      table: { rows, fields },
      places: { part, row, columns: Int32Array.from(columns) },
      notices: comments === 0 ? [] : [{ tone: 'told', text: `${counted(comments, 'cell comment')} on the report` }],
    };
  },
};

export function sheetsText(sheets: SheetSet): string {
  if (sheets.by === 'all') return 'all sheets';
  return sheets.by === 'names' ? `sheets ${sheets.names.join(', ')}` : `sheets whose name matches ${sheets.pattern}`;
}

function chosenSheets(sheets: SheetSet, report: Report, file: string): number[] {
  const names = report.parts.map((part) => part.name);
  if (sheets.by === 'all') return names.map((_, k) => k);
  if (sheets.by === 'matches') {
    const pattern = compileRegExp(sheets.pattern);
    const found = names.flatMap((name, k) => (pattern.test(name) ? [k] : []));
    if (found.length === 0)
      throw new StepFailure(`No sheet of ${file} matches ${sheets.pattern}. The sheets are ${names.join(', ')}.`);
    return found;
  }
  return sheets.names.map((name) => {
    const k = names.indexOf(name);
    if (k >= 0) return k;
    const alike = mostAlike(name, names);
    const hint = alike === undefined ? '' : ` The most alike is ${alike}.`;
    throw new StepFailure(`${file} has no sheet ${name}. The sheets are ${names.join(', ')}.${hint}`, undefined, alike);
  });
}

function partColumn(part: ReportPart, c: number, params: Params): Column {
  let column = part.columns[c];
  if (column === undefined) return blankColumn(part.rows);
  if (params.values === 'displayed' && part.displayed[c] !== undefined) {
    column = textColumn(Array.from({ length: part.rows }, (_, r) => displayedText(part, r, c)));
  }
  return params.merged === 'all' ? fillMerges(part, column, c, params) : column;
}

function fillMerges(part: ReportPart, column: Column, c: number, params: Params): Column {
  const covering = part.merges.filter((merge) => c >= merge.column && c < merge.column + merge.columns);
  if (covering.length === 0) return column;
  const own = covering.filter((merge) => merge.column === c);
  const rows = rowNumbers(part.rows);
  for (const merge of own)
    for (let r = merge.row; r < Math.min(part.rows, merge.row + merge.rows); r++) rows[r] = merge.row;
  let filled = takeColumn(column, rows);
  for (const merge of covering) {
    if (merge.column === c) continue;
    // The value stands in another column: lay this column's other cells and the merge's first cell together.
    const from = partColumn({ ...part, merges: [] }, merge.column, { ...params, merged: 'first' });
    const both = stackColumns([filled, from]);
    const at = Int32Array.from({ length: part.rows }, (_, r) =>
      r >= merge.row && r < merge.row + merge.rows ? part.rows + merge.row : r,
    );
    filled = takeColumn(both, at);
  }
  return filled;
}
