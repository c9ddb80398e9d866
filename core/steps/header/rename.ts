import { z } from 'zod';
import { fromColumn } from '../../table/origin.ts';
import { uniqueName } from '../../table/table.ts';
import { blank } from '../sentence.ts';
import { counted, few, needColumn, type StepKind } from '../step.ts';

const Params = z.object({
  names: z.array(z.object({ from: z.string(), to: z.string().min(1) })).describe('Old and new names'),
});
type Params = z.infer<typeof Params>;

export const rename: StepKind<Params> = {
  kind: 'rename',
  title: 'Rename columns',
  about: 'Gives columns other names',
  finds: ['change name', 'column name', 'title of column'],
  params: Params,
  start: (table, columns) => ({
    names: (columns.length > 0 ? columns : table.fields.slice(0, 1).map((field) => field.name)).map((name) => ({
      from: name,
      to: name,
    })),
  }),
  sentence: (params) => [
    'Rename ',
    blank('names', params.names.map(({ from, to }) => `${from} to ${to}`).join(', ') || 'no column yet', {
      as: 'renames',
      label: 'Old and new names',
    }),
  ],
  run(input, params) {
    const names = input.fields.map((field) => field.name);
    const renamed = new Map(params.names.map(({ from, to }) => [needColumn(input, from), to.trim() || from]));
    const taken = new Set(names.filter((_, k) => !renamed.has(k)));
    const numbered: string[] = [];
    const fields = input.fields.map((field, k) => {
      const to = renamed.get(k);
      if (to === undefined) return field;
      const name = uniqueName(to, taken);
      if (name !== to) numbered.push(name);
      return { ...field, name, standing: field.standing === 'position' ? ('named' as const) : field.standing };
    });
    return {
      table: { rows: input.rows, fields },
      origin: input.fields.map((_, k) => (renamed.has(k) ? { ...fromColumn(k), name: [] } : fromColumn(k))),
      aside: [],
      notices:
        numbered.length === 0
          ? []
          : [{ tone: 'look', text: `${counted(numbered.length, 'name')} made unique: ${few(numbered)}` }],
    };
  },
};
