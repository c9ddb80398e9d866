import { z } from 'zod';
import { countedColumn, textColumn } from '../../table/builder.ts';
import { blankMask, type Column } from '../../table/column.ts';
import { stackColumns, takeColumn } from '../../table/gather.ts';
import { compilePatterns, readText } from '../../values/convert.ts';
import { NumberForm } from '../../values/number-text.ts';
import { ColumnSet, chosenColumns, columnSetText } from '../column-set.ts';
import { changedInPlace, changedNotice } from '../result.ts';
import { blank } from '../sentence.ts';
import { StepFailure, type StepKind } from '../step.ts';

const Params = z.object({
  columns: ColumnSet,
  with: z.string().default('0').describe('Read as the type of each column'),
});
type Params = z.infer<typeof Params>;

export const fillBlanks: StepKind<Params> = {
  kind: 'fill-blanks',
  title: 'What blanks become',
  about: 'Blank cells take one value',
  finds: ['replace null', 'default value', 'zero for blank', 'missing to zero', 'empty cells'],
  params: Params,
  start: (_, columns) => ({ columns: { by: 'names', names: [...columns] }, with: '0' }),
  sentence: (params) => [
    'Blanks of ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns' }),
    ' become ',
    blank('with', params.with || 'empty text', { as: 'text', label: 'What blanks become', optional: true, blank: '' }),
  ],
  run(input, params) {
    const fields = [...input.fields];
    let filled = 0;
    for (const k of chosenColumns(params.columns, input)) {
      const field = input.fields[k]!;
      const blanks = blankMask(field.column);
      const rows = Int32Array.from(blanks, (bit, r) => (bit === 1 ? input.rows : r));
      const count = blanks.reduce((n, bit) => n + bit, 0);
      filled += count;
      if (count > 0)
        fields[k] = {
          ...field,
          column: takeColumn(stackColumns([field.column, oneCell(field.column, params.with, field.name)]), rows),
        };
    }
    return changedInPlace(input, fields, [changedNotice(filled, 'filled')]);
  },
};

function oneCell(column: Column, text: string, name: string): Column {
  if (column.type === 'text') return textColumn([text]);
  const type = column.type === 'received' ? 'number' : column.type;
  const { value, reason } = readText(text, {
    type,
    number: NumberForm.parse({}),
    patterns: compilePatterns(type, undefined, 'any', 1950),
  });
  if (reason === undefined) return countedColumn(type, [value]);
  if (column.type === 'received') return textColumn([text]);
  throw new StepFailure(`'${text}' cannot stand in ${name}, which holds ${type}: ${reason}.`, name);
}
