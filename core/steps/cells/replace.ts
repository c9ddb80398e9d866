import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText, compilePattern } from '../../kinds/column-set.ts';
import { columnsPhrase } from '../../kinds/headline.ts';
import { blank, choiceBlank, shown } from '../../kinds/sentence.ts';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { escapeRegExp } from '../../values/text.ts';
import { mapColumns } from './map-columns.ts';

const Params = z.object({
  columns: ColumnSet.default({ by: 'all' }),
  find: z.string().min(1).default('-'),
  with: z.string().default(''),
  how: z
    .enum(['part', 'whole', 'pattern'])
    .default('part')
    .describe('pattern: ECMAScript regular expression, $1 for its groups'),
  exact: z.boolean().default(true).describe('Case matters'),
});
type Params = z.infer<typeof Params>;

export const replaceWords: StepDescriptor<Params> = {
  kind: 'replace',
  rowByRow: true,
  title: 'Replace',
  summary: 'Replaces text, a whole cell or a pattern in any columns, whatever their type; blank where nothing is left',
  searchTerms: ['find and replace', 'substitute', 'change value', 'regex', 'remove text'],
  params: Params,
  headline: ({ columns, find }) => `Replace '${find.length > 12 ? 'a pattern' : find}' in ${columnsPhrase(columns)}`,
  sentence: (params) => [
    'Replace ',
    choiceBlank('how', params.how, 'Search for', [
      ['part', 'the text'],
      ['whole', 'the whole cell'],
      ['pattern', 'the pattern'],
    ]),
    ' ',
    blank('find', shown(params.find), { as: 'text', label: 'Look for' }),
    ' with ',
    blank('with', shown(params.with), { as: 'text', label: 'Replace with', optional: true, blank: '' }),
    ' in ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns to replace in' }),
    ', case ',
    choiceBlank('exact', params.exact, 'Case', [
      [true, 'matters'],
      [false, 'does not matter'],
    ]),
  ],
};

export const replace = /* @__PURE__ */ stepKind<Params>(replaceWords, {
  start: (_, columns) => Params.parse(columns.length === 0 ? {} : { columns: { by: 'names', names: [...columns] } }),
  run(input, params) {
    const source = params.how === 'pattern' ? params.find : escapeRegExp(params.find);
    const pattern = compilePattern(params.how === 'whole' ? `^${source}$` : source, !params.exact);
    const map = (text: string): string | null => {
      const next = pattern.replace(text, params.how === 'pattern' ? params.with : () => params.with);
      return next === '' ? null : next;
    };
    return mapColumns(input, chosenColumns(params.columns, input), map);
  },
});
