import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { expressionText } from '../../kinds/param-marks.ts';
import { blank } from '../../kinds/sentence.ts';
import { type Notice, type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { formulaOf } from '../../rules/expression.ts';
import { type Column, countUnreadable, unreadableAt } from '../../table/column.ts';
import { nameOf } from '../../table/origin.ts';
import { counted, few } from '../../values/counted.ts';
import { fromColumns, lookAt, withColumns } from '../result.ts';

const Params = z.object({
  into: z.string().min(1).default('Result').describe('A new column, or one that is there'),
  text: expressionText().describe('A SQL scalar expression over the columns of a row'),
});
type Params = z.infer<typeof Params>;

export const expressionWords: StepDescriptor<Params> = {
  kind: 'expression',
  rowByRow: true,
  drops: true,
  title: 'Expression',
  summary: 'Computes a column from the others by a SQL expression',
  searchTerms: [
    'formula',
    'calculate',
    'compute',
    'difference',
    'ratio',
    'if',
    'case when',
    'new column',
    'variance',
    'sql',
  ],
  params: Params,
  headline: ({ into }) => `Calculate ${namesPhrase([into])}`,
  sentence: (params) => [
    'Compute ',
    blank('into', params.into, { as: 'text', label: 'Column for the result' }),
    ' as ',
    blank('text', params.text || 'an expression', { as: 'expression', label: 'Expression' }),
  ],
};

export const expression = /* @__PURE__ */ stepKind<Params>(expressionWords, {
  start: (table, columns) => {
    const name = (columns[0] ?? table.fields[0]?.name ?? '').replaceAll('"', '""');
    return { into: 'Result', text: `"${name}"` };
  },
  run(input, params) {
    const compiled = formulaOf(params.text, input);
    const column = compiled.column();
    const origin = fromColumns(compiled.reads);
    const notices = unreadableNotices(column, params.into);
    const at = input.fields.findIndex((field) => field.name === params.into);
    if (at < 0)
      return withColumns(
        input,
        input.fields.length - 1,
        [{ field: { name: params.into, nameOrigin: 'named', column }, origin }],
        undefined,
        notices,
      );
    const result = withColumns(input, input.fields.length - 1, [], undefined, notices);
    return {
      ...result,
      table: { rows: input.rows, fields: input.fields.map((field, k) => (k === at ? { ...field, column } : field)) },
      origin: result.origin.map((of, k) => (k === at ? { ...origin, name: nameOf(at) } : of)),
    };
  },
});

function unreadableNotices(column: Column, name: string): Notice[] {
  if (countUnreadable(column) === 0) return [];
  const rows: number[] = [];
  const reasons = new Set<string>();
  const n = column.type === 'text' ? 0 : column.values.length;
  for (let r = 0; r < n; r++) {
    const cell = unreadableAt(column, r);
    if (cell === undefined) continue;
    rows.push(r);
    reasons.add(cell.reason);
  }
  return lookAt(
    rows,
    'after',
    `${counted(rows.length, 'cell')} of ${name} could not be computed: ${few([...reasons])}`,
    name,
  );
}
