import { z } from 'zod';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, columnBlank } from '../../kinds/sentence.ts';
import { type Notice, needColumn, type Pile, type StepWords, stepKind } from '../../kinds/step.ts';
import { runStarts } from '../../rules/placed.ts';
import { PlainRule, ruleMask, ruleText, withinText } from '../../rules/rules.ts';
import { isBlank } from '../../table/column.ts';
import { invertMask, maskedRows, takeColumn, takeRows } from '../../table/gather.ts';
import { sameColumns, takenRows } from '../../table/origin.ts';
import { uniqueName } from '../../table/table.ts';
import { counted } from '../../values/counted.ts';
import { idleNotice } from '../result.ts';

const Params = z.object({
  from: columnName().describe('Column in which the label stands'),
  rule: PlainRule.describe('Rows that are labels'),
  into: z.string().min(1).default('Label').describe('Name of the new column'),
  within: columnName().optional().describe('The label ends where this column changes'),
});
type Params = z.infer<typeof Params>;

export const carryWords: StepWords<Params> = {
  kind: 'carry',
  drops: true,
  title: 'Carry a label down',
  about: "A label row's text becomes a column on the rows under it, and the label rows are set aside",
  finds: ['group heading', 'section', 'label rows', 'heading to column', 'route', 'parent', 'fill down label'],
  params: Params,
  sentence: (params) => [
    'Carry ',
    blank('into', params.into, { as: 'text', label: 'Name of the new column' }),
    ' down from ',
    columnBlank('from', params.from, 'Column in which the label stands'),
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
    const from = columns[0] ?? table.fields.find((field) => field.standing !== 'beside')?.name ?? '';
    const within = table.fields.find((field) => field.standing === 'beside')?.name;
    return { from, rule: { test: 'only', columns: [from] }, into: 'Label', within };
  },
  run(input, params) {
    const column = needColumn(input, params.from);
    const labels = ruleMask(params.rule, input);
    const source = new Int32Array(input.rows).fill(-1);
    const runs = runStarts(input, params.within);
    let withLabel = 0;
    for (let k = 0; k + 1 < runs.length; k++) {
      let current = -1;
      for (let r = runs[k]!; r < runs[k + 1]!; r++) {
        if (labels[r] === 1 && !isBlank(input.fields[column]!.column, r)) current = r;
        source[r] = current;
      }
    }
    const kept = maskedRows(invertMask(labels));
    const away = maskedRows(labels);
    const labelRows = kept.map((row) => source[row]!);
    const unlabelled: number[] = [];
    labelRows.forEach((row, r) => {
      if (row < 0) unlabelled.push(r);
      else withLabel++;
    });
    const body = takeRows(input, kept);
    const taken = new Set(body.fields.map((field) => field.name));
    const name = uniqueName(params.into, taken);
    // The new column stands before the first column of the report, behind the ones that stand beside it.
    const at = Math.max(
      0,
      input.fields.findIndex((field) => field.standing !== 'beside'),
    );
    const fields = [...body.fields];
    fields.splice(at, 0, { name, standing: 'beside', column: takeColumn(input.fields[column]!.column, labelRows) });
    const origin = [...sameColumns(input.fields.length, takenRows(kept))];
    origin.splice(at, 0, {
      cells: [{ role: 'label', rows: takenRows(labelRows), column }],
      name: [],
    });
    const aside: Pile[] = away.length === 0 ? [] : [{ name: 'labels', mark: 'label', rows: away }];
    const notices: Notice[] = [];
    if (away.length === 0) notices.push(idleNotice('no row follows the rule, so there is no label to carry'));
    else
      notices.push({
        tone: 'told',
        text: `${counted(away.length, 'label')} carried onto ${counted(withLabel, 'row')}`,
      });
    if (away.length > 0 && unlabelled.length > 0) {
      notices.push({
        tone: 'look',
        text: `${counted(unlabelled.length, 'row')} above the first label`,
        rows: { of: 'after', rows: Int32Array.from(unlabelled) },
      });
    }
    if (name !== params.into)
      notices.push({ tone: 'look', text: `named ${name}, as ${params.into} was taken`, column: name });
    return { table: { rows: body.rows, fields }, origin, aside, notices };
  },
});
