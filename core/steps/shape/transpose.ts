import { z } from 'zod';
import { columnName } from '../../kinds/param-marks.ts';
import { blank } from '../../kinds/sentence.ts';
import { needColumn, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { textColumn } from '../../table/builder.ts';
import { stackColumns, takeColumn } from '../../table/gather.ts';
import { type ColumnOrigin, NAME } from '../../table/origin.ts';
import { columnLetters, type Field, uniqueName } from '../../table/table.ts';
import { cellText } from '../../values/cell-text.ts';
import { counted, grouped } from '../../values/counted.ts';

const MAX_ROWS = 16_384;

const Params = z.object({
  names: columnName()
    .nullable()
    .default(null)
    .describe('Column whose values name the new columns; null: named by position'),
  into: z.string().min(1).default('Name').describe('Column that takes the old names'),
});
type Params = z.infer<typeof Params>;

export const transposeWords: StepDescriptor<Params> = {
  kind: 'transpose',
  drops: true,
  title: 'Transpose',
  summary: 'Rows become columns and columns rows',
  searchTerms: ['swap rows and columns', 'flip', 'turn', 'rotate'],
  params: Params,
  headline: () => 'Turn columns into rows',
  sentence: (params) => [
    'Transpose, new columns named by ',
    blank('names', params.names ?? 'position', {
      as: 'column',
      label: 'Column that names the new columns',
      optional: true,
    }),
    ', old names in ',
    blank('into', params.into, { as: 'text', label: 'Column for the old names' }),
  ],
};

export const transpose = /* @__PURE__ */ stepKind<Params>(transposeWords, {
  start: (_, columns) => ({ names: columns[0] ?? null, into: 'Name' }),
  run(input, params) {
    if (input.rows > MAX_ROWS) {
      throw new StepFailure(
        `${counted(input.rows, 'row')} would become as many columns; at most ${grouped(MAX_ROWS)} fit in a table.`,
      );
    }
    const naming = params.names === null || params.names === '' ? -1 : needColumn(input, params.names);
    const turned = input.fields.map((_, k) => k).filter((k) => k !== naming);
    const stacked = stackColumns(turned.map((k) => input.fields[k]!.column));
    const columns = Int32Array.from(turned);
    const taken = new Set<string>();
    const fields: Field[] = [
      {
        name: uniqueName(params.into, taken),
        nameOrigin: 'named',
        column: textColumn(turned.map((k) => input.fields[k]!.name)),
      },
    ];
    const origin: ColumnOrigin[] = [
      { cells: [{ role: 'name', rows: { kind: 'at', rows: [NAME] }, column: { kind: 'take', columns } }], name: [] },
    ];
    for (let r = 0; r < input.rows; r++) {
      const own = naming < 0 ? null : cellText(input.fields[naming]!.column, r);
      fields.push({
        name: uniqueName(own ?? columnLetters(r), taken),
        nameOrigin: own === null ? 'position' : 'named',
        column: takeColumn(
          stacked,
          Int32Array.from(turned, (_, c) => c * input.rows + r),
        ),
      });
      origin.push({
        cells: [{ role: 'value', rows: { kind: 'at', rows: [r] }, column: { kind: 'take', columns } }],
        name: naming < 0 ? [] : [{ role: 'name', rows: { kind: 'at', rows: [r] }, column: naming }],
      });
    }
    return { table: { rows: turned.length, fields }, origin, aside: [], notices: [] };
  },
});
