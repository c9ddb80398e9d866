import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { blank, choiceBlank, option } from '../../kinds/sentence.ts';
import { type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { anyRuleMask, Rule, rulesText } from '../../rules/rules.ts';
import { unseenMask } from '../../table/column.ts';
import { stackColumns, takeColumn } from '../../table/gather.ts';
import { type ColumnOrigin, fromColumn, nameOf } from '../../table/origin.ts';
import { counted } from '../../values/counted.ts';
import { idleNotice, lookAt } from '../result.ts';

const Params = z.object({
  columns: ColumnSet.default({ by: 'all' }),
  direction: z.enum(['left', 'right']).default('left'),
  front: z.boolean().default(false).describe('Only the blanks in front of the first filled cell, or behind the last'),
  rules: z.array(Rule).default([]).describe('Only in rows that follow any of these; none: in every row'),
});
type Params = z.infer<typeof Params>;

export const closeGapsWords: StepDescriptor<Params> = {
  kind: 'close-gaps',
  title: 'Close gaps',
  summary: 'Moves cells left or right over gaps in shifted rows',
  searchTerms: ['shift left', 'slipped cells', 'pdf table', 'move cells', 'misaligned', 'compact'],
  params: Params,
  headline: ({ direction }) => `Move cells ${direction} over gaps`,
  sentence: (params) => [
    'Close gaps to the ',
    choiceBlank('direction', params.direction, 'Direction', [
      ['left', 'left'],
      ['right', 'right'],
    ]),
    ' in ',
    blank('columns', columnSetText(params.columns), { as: 'columns', label: 'Columns in which cells move' }),
    option(
      !params.front,
      ', ',
      choiceBlank('front', params.front, 'Which gaps', [
        [false, 'every gap'],
        [true, params.direction === 'left' ? 'only those in front' : 'only those at the end'],
      ]),
    ),
    ', in ',
    blank('rules', params.rules.length === 0 ? 'every row' : `rows where ${rulesText(params.rules)}`, {
      as: 'rules',
      label: 'Rows that slipped',
    }),
  ],
};

export const closeGaps = /* @__PURE__ */ stepKind<Params>(closeGapsWords, {
  start: (table, columns) => ({
    columns:
      columns.length > 1
        ? { by: 'names', names: [...columns] }
        : { by: 'all-but', names: table.fields.filter((f) => f.nameOrigin === 'beside').map((f) => f.name) },
    direction: 'left',
    front: false,
    rules: [],
  }),
  run(input, params) {
    const chosen = chosenColumns(params.columns, input);
    const slipped = params.rules.length === 0 ? new Uint8Array(input.rows).fill(1) : anyRuleMask(params.rules, input);
    const n = input.rows;
    // For each chosen column the input column that its cell now comes from, or -1.
    const from = chosen.map((k) => new Int32Array(n).fill(k));
    const unseen = new Map(chosen.map((k) => [k, unseenMask(input.fields[k]!.column)]));
    const seen = (k: number, r: number) => unseen.get(k)![r] === 0;
    const moved: number[] = [];
    for (let r = 0; r < n; r++) {
      if (slipped[r] === 0) continue;
      const filled = params.front ? stretch(chosen, (k) => !seen(k, r)) : chosen.filter((k) => seen(k, r));
      const offset = params.direction === 'left' ? 0 : chosen.length - filled.length;
      let changed = false;
      chosen.forEach((k, c) => {
        const source = filled[c - offset] ?? -1;
        from[c]![r] = source;
        if (source !== k && source >= 0) changed = true;
      });
      if (changed) moved.push(r);
    }
    const fields = [...input.fields];
    const origin: ColumnOrigin[] = input.fields.map((_, k) => fromColumn(k));
    if (moved.length > 0) {
      const stacked = stackColumns(chosen.map((k) => input.fields[k]!.column));
      const place = new Map(chosen.map((k, c) => [k, c]));
      chosen.forEach((k, c) => {
        const own = from[c]!;
        if (own.every((source) => source === k)) return;
        const rows = own.map((source, r) => (source < 0 ? -1 : place.get(source)! * n + r));
        fields[k] = { ...input.fields[k]!, column: takeColumn(stacked, rows) };
        origin[k] = {
          cells: [{ role: 'value', rows: { kind: 'same' }, column: { kind: 'take', columns: own } }],
          name: nameOf(k),
        };
      });
    }
    const text = `cells moved in ${counted(moved.length, 'row')}`;
    return {
      table: { rows: n, fields },
      origin,
      aside: [],
      notices: moved.length === 0 ? [idleNotice('no cell had a gap before it')] : lookAt(moved, 'after', text),
    };
  },
});

/** The columns from the first to the last in which something stands, with the gaps between. */
function stretch(columns: readonly number[], isBlank: (column: number) => boolean): number[] {
  const first = columns.findIndex((k) => !isBlank(k));
  return first < 0 ? [] : columns.slice(first, columns.findLastIndex((k) => !isBlank(k)) + 1);
}
