import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank, columnBlank, option } from '../../kinds/sentence.ts';
import { type Notice, needColumn, type Pile, type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { runStarts } from '../../rules/placed.ts';
import { Rule, ruleMask, ruleText, withinText } from '../../rules/rules.ts';
import { isBlank, unseenMask } from '../../table/column.ts';
import { invertMask, maskedRows, takeColumn, takeRows } from '../../table/gather.ts';
import { numberAt } from '../../table/numbers.ts';
import { sameColumns, takenRows } from '../../table/origin.ts';
import { type Table, uniqueName } from '../../table/table.ts';
import { counted } from '../../values/counted.ts';
import { idleNotice } from '../result.ts';

const Params = z.object({
  from: columnName().describe('Column in which the label stands'),
  rule: Rule.describe('Rows that are labels'),
  into: z.string().min(1).default('Label').describe('Name of the new column'),
  outer: z
    .array(z.string().min(1))
    .optional()
    .describe(
      'Names of columns for the levels above, the outermost first: of labels right under each other the last is the innermost',
    ),
  also: z
    .array(z.object({ from: columnName(), into: z.string().min(1) }))
    .optional()
    .describe('Other cells of the innermost label rows, each with the name of its new column'),
  up: z.boolean().optional().describe('Labels stand below their rows, as the names of sums do'),
  within: columnName().optional().describe('The label ends where this column changes'),
});
type Params = z.infer<typeof Params>;

export const carryWords: StepDescriptor<Params> = {
  kind: 'carry',
  drops: true,
  title: 'Carry a label',
  summary: "A label row's text becomes a column on the rows below or above it, and the label rows are set aside",
  searchTerms: [
    'group heading',
    'section',
    'label rows',
    'heading to column',
    'route',
    'parent',
    'fill down label',
    'name of a subtotal',
  ],
  params: Params,
  headline: ({ into }) => `Carry ${namesPhrase([into])} onto its rows`,
  sentence: (params) => [
    'Carry ',
    blank('into', params.into, { as: 'text', label: 'Name of the new column' }),
    option(
      params.outer === undefined || params.outer.length === 0,
      ', inside of ',
      blank('outer', params.outer?.join(', ') || 'no level above', {
        as: 'lines',
        label: 'Levels above, the outermost first',
      }),
    ),
    ' ',
    choiceBlank('up', params.up === true, 'Direction', [
      [false, 'down'],
      [true, 'up'],
    ]),
    ' from ',
    columnBlank('from', params.from, 'Column in which the label stands'),
    option(
      params.also === undefined || params.also.length === 0,
      ', with ',
      blank('also', params.also?.map(({ from, into }) => `${into} from ${from}`).join(', ') || 'nothing else', {
        as: 'items',
        label: 'Other cells of the label rows',
        fresh: { from: '', into: '' },
        fields: [
          { key: 'from', edit: { as: 'column', label: 'Column' } },
          { key: 'into', edit: { as: 'text', label: 'Name of its new column' } },
        ],
      }),
    ),
    ' on rows where ',
    blank('rule', ruleText(params.rule), { as: 'rule', label: 'Label rows' }),
    blank('within', withinText(params.within) || ' through all rows', {
      as: 'column',
      label: 'The label ends where this changes',
      optional: true,
    }),
  ],
};

export const carry = /* @__PURE__ */ stepKind<Params>(carryWords, {
  start: (table, columns) => {
    const from = columns[0] ?? table.fields.find((field) => field.nameOrigin !== 'beside')?.name ?? '';
    const within = table.fields.find((field) => field.nameOrigin === 'beside')?.name;
    return { from, rule: { test: 'only', columns: [from] }, into: 'Label', within };
  },
  run(input, params) {
    const column = needColumn(input, params.from);
    const also = (params.also ?? []).map(({ from, into }) => ({ column: needColumn(input, from), into }));
    const carried = [column, ...also.map((one) => one.column)];
    const labels = ruleMask(params.rule, input);
    const names = [...(params.outer ?? []), params.into];
    const sources = labelsOf(input, carried, labels, runStarts(input, params.within), names.length, params.up === true);
    const kept = maskedRows(invertMask(labels));
    const away = maskedRows(labels);
    const body = takeRows(input, kept);
    const taken = new Set(body.fields.map((field) => field.name));
    // The new columns stand before the first column of the report, behind the ones that stand beside it.
    const at = Math.max(
      0,
      input.fields.findIndex((field) => field.nameOrigin !== 'beside'),
    );
    const fields = [...body.fields];
    const origin = [...sameColumns(input.fields.length, takenRows(kept))];
    const notices: Notice[] = [];
    const made = [
      ...names.map((wanted, level) => ({ wanted, level, column })),
      ...also.map((one) => ({ wanted: one.into, level: names.length - 1, column: one.column })),
    ];
    made.forEach(({ wanted, level, column: from }, n) => {
      const name = uniqueName(wanted, taken);
      const rows = kept.map((row) => sources[level]![row]!);
      fields.splice(at + n, 0, { name, nameOrigin: 'beside', column: takeColumn(input.fields[from]!.column, rows) });
      origin.splice(at + n, 0, { cells: [{ role: 'label', rows: takenRows(rows), column: from }], name: [] });
      if (name !== wanted)
        notices.push({ severity: 'warning', text: `named ${name}, as ${wanted} was taken`, column: name });
    });
    const innermost = kept.map((row) => sources.at(-1)![row]!);
    const unlabelled = [...innermost.keys()].filter((r) => innermost[r]! < 0);
    // A label row with its own figures is a total too, and the tally looks at it as one.
    const isSum = (row: number) => otherFilled(input, carried, row, params.up === true);
    const figured = away.filter(isSum);
    const plain = away.filter((row) => !isSum(row));
    const aside: Pile[] = [];
    if (plain.length > 0) aside.push({ name: 'labels', mark: 'label', rows: plain });
    if (figured.length > 0) aside.push({ name: 'totals', mark: 'total', rows: figured });
    if (away.length === 0) notices.unshift(idleNotice('no row follows the rule, so there is no label to carry'));
    else {
      notices.unshift({
        severity: 'info',
        text: `${counted(away.length, 'label')} carried onto ${counted(kept.length - unlabelled.length, 'row')}`,
      });
      if (unlabelled.length > 0)
        notices.splice(1, 0, {
          severity: 'warning',
          text: `${counted(unlabelled.length, 'row')} ${params.up === true ? 'below the last' : 'above the first'} label`,
          rows: { of: 'after', rows: Int32Array.from(unlabelled) },
        });
    }
    return { table: { rows: body.rows, fields }, origin, aside, notices };
  },
});

/** Whether a cell of the row other than those that are carried holds a number; of names of sums, whether one is filled. */
function otherFilled(input: Table, carried: readonly number[], row: number, isName: boolean): boolean {
  return input.fields.some(
    (field, k) =>
      !carried.includes(k) &&
      field.nameOrigin !== 'beside' &&
      (isName ? !isBlank(field.column, row) : !Number.isNaN(numberAt(field.column, row))),
  );
}

/**
 * By level, the outermost first, for each row the row of its label or -1. A stretch of labels with nothing but blank rows
 * between them fills the innermost levels, and what stood on them before ends.
 */
function labelsOf(
  input: Table,
  carried: readonly number[],
  labels: Uint8Array,
  runs: readonly number[],
  levels: number,
  up: boolean,
): Int32Array[] {
  const found = Array.from({ length: levels }, () => new Int32Array(input.rows).fill(-1));
  const cells = carried.map((k) => input.fields[k]!.column);
  const filled = new Uint8Array(input.rows);
  if (levels > 1)
    for (const field of input.fields) {
      if (field.nameOrigin === 'beside') continue;
      const unseen = unseenMask(field.column);
      for (let r = 0; r < input.rows; r++) if (unseen[r] === 0) filled[r] = 1;
    }
  for (let k = 0; k + 1 < runs.length; k++) {
    const current = new Array<number>(levels).fill(-1);
    let stretch: number[] = [];
    const [from, to] = [runs[k]!, runs[k + 1]!];
    for (let n = from; n < to; n++) {
      const r = up ? from + to - 1 - n : n;
      if (labels[r] === 1 && cells.some((column) => !isBlank(column, r))) {
        stretch.push(r);
        const last = stretch.slice(-levels);
        last.forEach((row, n) => {
          current[levels - last.length + n] = row;
        });
      } else if (levels === 1 || filled[r] === 1) stretch = [];
      found.forEach((rows, level) => {
        rows[r] = current[level]!;
      });
    }
  }
  return found;
}
