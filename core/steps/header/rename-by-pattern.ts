import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText, compilePattern } from '../../kinds/column-set.ts';
import { blank, choiceBlank, shown } from '../../kinds/sentence.ts';
import { type Notice, type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { counted } from '../../values/counted.ts';
import { escapeRegExp } from '../../values/text.ts';
import { idleNotice } from '../result.ts';
import { renameColumns } from './renaming.ts';

const Params = z.object({
  columns: ColumnSet.default({ by: 'all' }),
  find: z.string().min(1).default('_'),
  with: z.string().default(' '),
  how: z
    .enum(['text', 'pattern'])
    .default('text')
    .describe('pattern: ECMAScript regular expression, $1 for its groups'),
});
type Params = z.infer<typeof Params>;

export const renameByPatternWords: StepDescriptor<Params> = {
  kind: 'rename-by-pattern',
  presentation: true,
  drops: true,
  title: 'Rename by pattern',
  summary: 'Replaces text in many column names at once',
  searchTerms: ['find and replace in names', 'rename many', 'prefix', 'suffix', 'regex rename'],
  params: Params,
  headline: ({ find }) => `Replace '${find}' in column names`,
  sentence: (params) => [
    'In the names of ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns to rename' }),
    ' replace ',
    choiceBlank('how', params.how, 'Search for', [
      ['text', 'the text'],
      ['pattern', 'the pattern'],
    ]),
    ' ',
    blank('find', shown(params.find), { as: 'text', label: 'Look for' }),
    ' with ',
    blank('with', shown(params.with), { as: 'text', label: 'Replace with', optional: true, blank: '' }),
  ],
};

export const renameByPattern = /* @__PURE__ */ stepKind<Params>(renameByPatternWords, {
  start: (_, columns) => Params.parse(columns.length === 0 ? {} : { columns: { by: 'names', names: [...columns] } }),
  run(input, params) {
    const pattern = compilePattern(params.how === 'pattern' ? params.find : escapeRegExp(params.find));
    const renamed = new Map<number, string>();
    for (const k of chosenColumns(params.columns, input)) {
      const { name } = input.fields[k]!;
      const next = pattern.replace(name, params.how === 'pattern' ? params.with : () => params.with);
      if (next !== name) renamed.set(k, next.trim() || name);
    }
    const result = renameColumns(input, renamed);
    const told: Notice =
      renamed.size === 0
        ? idleNotice('no name is changed')
        : { severity: 'info', text: `${counted(renamed.size, 'name')} changed` };
    return { ...result, notices: [told, ...result.notices] };
  },
});
