import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, type Phrase } from '../../kinds/sentence.ts';
import { needColumn, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { sampleTexts, textView } from '../../values/cell-text.ts';
import { counted } from '../../values/counted.ts';
import { lookAt } from '../result.ts';
import { Cutting, cutText, cuttingPhrases, guessDelimiterIn } from './cutting.ts';
import { type ItemsOf, itemsToRows } from './list-rows.ts';

const Params = z.object({
  columns: z.array(columnName()).min(1).describe('Several go down together, item by item'),
  cut: Cutting.default(Cutting.parse({})),
  numbering: z.string().nullable().default(null).describe('New column that counts the items of each row'),
});
type Params = z.infer<typeof Params>;

export const splitToRowsWords: StepDescriptor<Params> = {
  kind: 'split-to-rows',
  rowByRow: true,
  drops: true,
  title: 'Split to rows',
  summary: 'Splits each cell into rows; several columns can be split together',
  searchTerms: ['explode', 'list to rows', 'one row each', 'lockstep', 'packed cells', 'multiple values in a cell'],
  params: Params,
  headline: ({ columns }) => `Split ${namesPhrase(columns)} into rows`,
  sentence: (params): Phrase[] => [
    'Split ',
    blank('columns', params.columns.join(', ') || 'no column yet', { as: 'names', label: 'Columns to split' }),
    ' ',
    ...cuttingPhrases(params.cut, 'cut'),
    params.columns.length > 1 ? ', in lockstep, to rows' : ' to rows',
    ', items counted in ',
    blank('numbering', params.numbering ?? 'no column', {
      as: 'text',
      label: 'Column that counts the items',
      optional: true,
    }),
  ],
};

export const splitToRows = /* @__PURE__ */ stepKind<Params>(splitToRowsWords, {
  start: (table, columns) => {
    const names = columns.length > 0 ? [...columns] : [table.fields[0]?.name ?? ''];
    const field = table.fields.find((one) => one.name === names[0]);
    return {
      columns: names,
      cut: Cutting.parse({
        delimiters: [guessDelimiterIn(field === undefined ? [] : sampleTexts(field.column, 500))],
      }),
      numbering: null,
    };
  },
  run(input, params) {
    const lists = new Map<number, ItemsOf>();
    for (const name of params.columns) {
      const k = needColumn(input, name);
      const { codes, texts } = textView(input.fields[k]!.column);
      const cuts = texts.map((text) => cutText(text, params.cut));
      const none: (string | null)[] = [];
      lists.set(k, (r) => (codes[r]! < 0 ? none : cuts[codes[r]!]!));
    }
    if (lists.size === 0) throw new StepFailure('Choose a column to split.');
    const uneven: number[] = [];
    if (lists.size > 1) {
      for (let r = 0; r < input.rows; r++) {
        const lengths = [...lists.values()].map((items) => items(r).length);
        if (new Set(lengths).size > 1) uneven.push(r);
      }
    }
    return itemsToRows(
      input,
      lists,
      params.numbering,
      lookAt(
        uneven,
        'before',
        `${counted(uneven.length, 'row')} with lists of uneven length, the shorter filled with blanks`,
      ),
    );
  },
});
