import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { columnsPhrase, namesPhrase } from '../../kinds/headline.ts';
import { blank, choiceBlank, shown } from '../../kinds/sentence.ts';
import { type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { TextBuilder } from '../../table/builder.ts';
import { cellText } from '../../values/cell-text.ts';
import { fromColumns, withColumns } from '../result.ts';

const Params = z.object({
  columns: ColumnSet,
  with: z.string().default(' '),
  into: z.string().min(1).default('Text'),
  keep: z.boolean().default(true).describe('The joined columns stay'),
});
type Params = z.infer<typeof Params>;

export const joinTextWords: StepDescriptor<Params> = {
  kind: 'join-text',
  rowByRow: true,
  drops: true,
  title: 'Join text',
  summary: 'Joins the text of columns into one and skips blanks',
  searchTerms: ['concatenate', 'combine columns', 'merge columns', 'glue', 'paste'],
  params: Params,
  headline: ({ columns, into }) => `Join ${columnsPhrase(columns)} into ${namesPhrase([into])}`,
  sentence: (params) => [
    'Join ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns to join' }),
    ' with ',
    blank('with', shown(params.with), { as: 'text', label: 'What stands between', optional: true, blank: '' }),
    ' into ',
    blank('into', params.into, { as: 'text', label: 'Name of the new column' }),
    ', the joined columns ',
    choiceBlank('keep', params.keep, 'The joined columns', [
      [true, 'kept'],
      [false, 'dropped'],
    ]),
  ],
};

export const joinText = /* @__PURE__ */ stepKind<Params>(joinTextWords, {
  start: (_, columns) => Params.parse({ columns: { by: 'names', names: [...columns] } }),
  run(input, params) {
    const chosen = chosenColumns(params.columns, input);
    if (chosen.length === 0) throw new StepFailure('Choose the columns to join.');
    const builder = new TextBuilder(Math.max(1, input.rows));
    for (let r = 0; r < input.rows; r++) {
      const texts = chosen.flatMap((k) => cellText(input.fields[k]!.column, r) ?? []);
      builder.push(texts.length === 0 ? null : texts.join(params.with));
    }
    return withColumns(
      input,
      Math.max(...chosen),
      [{ field: { name: params.into, nameOrigin: 'named', column: builder.finish() }, origin: fromColumns(chosen) }],
      params.keep ? undefined : new Set(chosen),
    );
  },
});
