import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { FilterParams, filterRows, filterSentence } from './filter.ts';

export const dropRowsWords: StepDescriptor<FilterParams> = {
  kind: 'drop-rows',
  rowByRow: true,
  drops: true,
  title: 'Drop rows',
  summary: 'Drops rows that match a rule, by condition or position, and keeps them on the pile dropped',
  searchTerms: ['filter out', 'remove rows', 'delete rows', 'exclude', 'skip rows', 'blank rows'],
  params: FilterParams,
  headline: (_, { aside }) => `Drop ${aside ?? 'rows'}${aside === undefined ? '' : aside === 1 ? ' row' : ' rows'}`,
  sentence: (params) => filterSentence('Drop', params),
};

export const dropRows = /* @__PURE__ */ stepKind<FilterParams>(dropRowsWords, {
  start: (_, columns) => ({
    rules:
      columns.length === 0 ? [{ test: 'empty' }] : [{ test: 'blank', columns: { by: 'names', names: [columns[0]!] } }],
    match: 'all',
  }),
  run: (input, params) => filterRows(input, params, false),
});
