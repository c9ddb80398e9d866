import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { FilterParams, filterRows, filterSentence } from './filter.ts';

export const keepRowsWords: StepDescriptor<FilterParams> = {
  kind: 'keep-rows',
  rowByRow: true,
  drops: true,
  title: 'Keep rows',
  summary: 'Keeps rows that match a rule, by condition or position, and drops the others',
  searchTerms: [
    'filter',
    'only rows',
    'where',
    'first rows',
    'last rows',
    'top',
    'every other row',
    'range of rows',
    'between',
    'date in',
  ],
  params: FilterParams,
  headline: () => 'Keep rows that match',
  sentence: (params) => filterSentence('Keep', params),
};

export const keepRows = /* @__PURE__ */ stepKind<FilterParams>(keepRowsWords, {
  start: (_, columns) => ({
    rules:
      columns.length === 0
        ? [{ test: 'place', which: 'first', from: 1, count: 100 }]
        : [{ test: 'filled', columns: { by: 'names', names: [columns[0]!] } }],
    match: 'all',
  }),
  run: (input, params) => filterRows(input, params, true),
});
