import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { columnsPhrase } from '../../kinds/headline.ts';
import { blank, choiceBlank, option } from '../../kinds/sentence.ts';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { type Column, columnLength } from '../../table/column.ts';
import { takeColumn } from '../../table/gather.ts';
import { flags, intVector } from '../../table/vectors.ts';
import { textView } from '../../values/cell-text.ts';
import { changedInPlace, changedNotice } from '../result.ts';

export const BLANK_TEXTS = ['-', '–', 'n/a', 'N/A', '#N/A', '..', '...', 'nil', 'null', 'none'];
const MEAN_BLANK = new Set(BLANK_TEXTS.map((text) => text.toLowerCase()));

const Params = z.object({
  columns: ColumnSet.default({ by: 'all' }),
  texts: z.array(z.string()).default(['-', 'n/a', '..']).describe('A cell that reads like one of these becomes blank'),
  exact: z.boolean().default(true).describe('Case matters'),
});
type Params = z.infer<typeof Params>;

export const blankTextsWords: StepDescriptor<Params> = {
  kind: 'blank-texts',
  rowByRow: true,
  title: 'Texts that mean blank',
  summary: "Cells that read '-', 'n/a' or '..' become blank; the column keeps its type",
  searchTerms: ['null', 'missing values', 'n/a', 'dash to blank', 'empty', 'no data'],
  params: Params,
  headline: ({ columns }) => `Blank placeholders in ${columnsPhrase(columns)}`,
  sentence: (params) => [
    'In ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns' }),
    ' the texts ',
    blank('texts', params.texts.join(' ') || 'none', { as: 'lines', label: 'Texts that mean blank' }),
    ' mean blank',
    option(
      params.exact,
      ', case ',
      choiceBlank('exact', params.exact, 'Case', [
        [true, 'matters'],
        [false, 'does not matter'],
      ]),
    ),
  ],
};

export const blankTexts = /* @__PURE__ */ stepKind<Params>(blankTextsWords, {
  start: (table, columns) => {
    const names = columns.length === 0 ? table.fields.map((field) => field.name) : columns;
    const found = new Set<string>();
    for (const field of table.fields) {
      if (!names.includes(field.name)) continue;
      for (const text of textView(field.column).texts)
        if (MEAN_BLANK.has(text.trim().toLowerCase())) found.add(text.trim());
    }
    return Params.parse({
      ...(columns.length === 0 ? {} : { columns: { by: 'names', names: [...columns] } }),
      ...(found.size === 0 ? {} : { texts: [...found] }),
      exact: false,
    });
  },
  run(input, params) {
    const plain = (text: string) => (params.exact ? text.trim() : text.trim().toLowerCase());
    const wanted = new Set(params.texts.map(plain));
    const fields = [...input.fields];
    let changed = 0;
    for (const k of chosenColumns(params.columns, input)) {
      const { column, count } = blanked(input.fields[k]!.column, (text) => wanted.has(plain(text)));
      fields[k] = { ...input.fields[k]!, column };
      changed += count;
    }
    return changedInPlace(input, fields, [changedNotice(changed, 'made blank')]);
  },
});

function blanked(column: Column, isWanted: (text: string) => boolean): { column: Column; count: number } {
  const { codes, texts } = textView(column);
  const hit = flags(texts, isWanted);
  const rows = intVector(columnLength(column), (r) => {
    const code = codes[r]!;
    return code >= 0 && hit[code] === 1 ? -1 : r;
  });
  const count = rows.reduce((n, row) => (row < 0 ? n + 1 : n), 0);
  return { column: count === 0 ? column : takeColumn(column, rows), count };
}
