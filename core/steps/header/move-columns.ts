import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { columnsPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank, columnBlank } from '../../kinds/sentence.ts';
import { needColumn, type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { chooseColumns } from './choose-columns.ts';

const Params = z.object({
  columns: ColumnSet,
  to: z.enum(['first', 'last', 'before', 'after']).default('first'),
  column: columnName().default('').describe('The column they stand before or after'),
});
type Params = z.infer<typeof Params>;

export const moveColumnsWords: StepDescriptor<Params> = {
  kind: 'move-columns',
  presentation: true,
  rowByRow: true,
  title: 'Move columns',
  summary: 'Moves columns; the others keep their order',
  searchTerms: ['reorder columns', 'column order', 'move left', 'move right', 'to front'],
  params: Params,
  headline: ({ columns, to }) =>
    `Move ${columnsPhrase(columns)} ${to === 'first' || to === 'last' ? to : `${to} another`}`,
  sentence: (params) => [
    'Move ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns to move' }),
    ' to ',
    choiceBlank('to', params.to, 'Where to', [
      ['first', 'the front'],
      ['last', 'the end'],
      ['before', 'before'],
      ['after', 'behind'],
    ]),
    ...(params.to === 'before' || params.to === 'after'
      ? [' ', columnBlank('column', params.column, 'Beside which column')]
      : []),
  ],
};

export const moveColumns = /* @__PURE__ */ stepKind<Params>(moveColumnsWords, {
  start: (_, columns) => ({ columns: { by: 'names', names: [...columns] }, to: 'first', column: '' }),
  run(input, params) {
    const moved = chosenColumns(params.columns, input);
    const others = input.fields.map((_, k) => k).filter((k) => !moved.includes(k));
    let at = params.to === 'first' ? 0 : others.length;
    if (params.to === 'before' || params.to === 'after') {
      const beside = others.indexOf(needColumn(input, params.column));
      // Beside one of the moved themselves they stay together where that one stands.
      at =
        beside < 0
          ? others.filter((k) => k < needColumn(input, params.column)).length
          : beside + (params.to === 'after' ? 1 : 0);
    }
    return chooseColumns(input, [...others.slice(0, at), ...moved, ...others.slice(at)]);
  },
});
