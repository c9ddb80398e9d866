import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank } from '../../kinds/sentence.ts';
import { needColumn, type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { renameColumns } from './renaming.ts';

const Params = z.object({
  names: z.array(z.object({ from: columnName(), to: z.string().min(1) })).describe('Old and new names'),
});
type Params = z.infer<typeof Params>;

export const renameWords: StepDescriptor<Params> = {
  kind: 'rename',
  presentation: true,
  rowByRow: true,
  drops: true,
  title: 'Rename columns',
  summary: 'Renames columns',
  searchTerms: ['change name', 'column name', 'title of column'],
  params: Params,
  headline: ({ names }) =>
    names.length === 1 && names[0]!.from !== ''
      ? `Rename ${namesPhrase([names[0]!.from])} to ${namesPhrase([names[0]!.to])}`
      : `Rename ${namesPhrase(names.map(({ from }) => from))}`,
  sentence: (params) => [
    'Rename ',
    blank('names', params.names.map(({ from, to }) => `${from} to ${to}`).join(', ') || 'no column yet', {
      as: 'renames',
      label: 'Old and new names',
    }),
  ],
};

export const rename = /* @__PURE__ */ stepKind<Params>(renameWords, {
  start: (table, columns) => ({
    names: (columns.length > 0 ? columns : table.fields.slice(0, 1).map((field) => field.name)).map((name) => ({
      from: name,
      to: name,
    })),
  }),
  run: (input, params) =>
    renameColumns(input, new Map(params.names.map(({ from, to }) => [needColumn(input, from), to.trim() || from]))),
});
