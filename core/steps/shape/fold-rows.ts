import { z } from 'zod';
import { blank } from '../../kinds/sentence.ts';
import { type Pile, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { Rule, ruleMask, ruleText } from '../../rules/rules.ts';
import { unseenMask } from '../../table/column.ts';
import { takeColumn } from '../../table/gather.ts';
import { type ColumnOrigin, fromColumn, type RowMap, takenRows } from '../../table/origin.ts';
import { type Field, uniqueName } from '../../table/table.ts';
import { textView } from '../../values/cell-text.ts';
import { counted } from '../../values/counted.ts';
import { gatherCells } from '../gathered.ts';
import { idleNotice } from '../result.ts';

/** Rows that one record may stand over. */
const MAX_LINES = 20;

/** What a column of a record's line is called, lines counted from 0; those of the first keep their names. */
export const nameOfLine = (name: string, line: number): string => `${name} of line ${line + 1}`;

const Params = z.object({
  first: Rule.describe('Rows that begin a record; the rows below, up to the next, belong to it'),
});
type Params = z.infer<typeof Params>;

export const foldRowsWords: StepDescriptor<Params> = {
  kind: 'fold-rows',
  title: 'Fold rows',
  summary: 'A record that spans several rows becomes one row',
  searchTerms: [
    'multi-line record',
    'two rows per record',
    'record over several rows',
    'wrapped rows',
    'continuation lines',
  ],
  params: Params,
  headline: () => 'Fold lines into records',
  sentence: (params) => [
    'Fold rows: a record begins where ',
    blank('first', ruleText(params.first), { as: 'rule', label: 'Rows that begin a record' }),
  ],
};

export const foldRows = /* @__PURE__ */ stepKind<Params>(foldRowsWords, {
  start: (table, columns) => {
    const column = columns[0] ?? table.fields.find((field) => field.nameOrigin !== 'beside')?.name ?? '';
    return { first: { test: 'filled', columns: { by: 'names', names: [column] } } };
  },
  run(input, params) {
    const first = ruleMask(params.first, input);
    const own = input.fields.flatMap((field, k) => (field.nameOrigin === 'beside' ? [] : [k]));
    const unseen = own.map((k) => unseenMask(input.fields[k]!.column));
    const blankRow = (r: number) => unseen.every((mask) => mask[r] === 1);
    const records: number[][] = [];
    const blanks: number[] = [];
    let most = 0;
    const beside = input.fields.flatMap((field) => (field.nameOrigin === 'beside' ? [textView(field.column)] : []));
    const isBesideOther = (r: number) => beside.some(({ codes }) => codes[r] !== codes[records.at(-1)!.at(-1)!]);
    for (let r = 0; r < input.rows; r++) {
      if (blankRow(r)) blanks.push(r);
      // What stands above the first record is its own row.
      else if (first[r] === 1 || records.length === 0 || most === 0 || isBesideOther(r)) {
        records.push([r]);
        if (first[r] === 1) most = Math.max(most, 1);
      } else {
        const record = records.at(-1)!;
        record.push(r);
        most = Math.max(most, record.length);
      }
    }
    if (most > MAX_LINES)
      throw new StepFailure(
        `A record would span ${counted(most, 'row')}, but at most ${MAX_LINES} are folded: choose a rule that more rows follow.`,
      );
    const lead = Int32Array.from(records, ([r]) => r!);
    const lines: RowMap = {
      kind: 'lists',
      starts: startsOf(records),
      items: Int32Array.from(records.flat()),
    };
    const taken = new Set<string>();
    const fields: Field[] = [];
    const origin: ColumnOrigin[] = [];
    input.fields.forEach((field, k) => {
      if (field.nameOrigin !== 'beside') return;
      fields.push({ ...field, name: uniqueName(field.name, taken), column: takeColumn(field.column, lead) });
      origin.push(fromColumn(k, lines));
    });
    for (let line = 0; line < Math.max(1, most); line++) {
      const rows = Int32Array.from(records, (record) => record[line] ?? -1);
      own.forEach((k, n) => {
        if (line > 0 && rows.every((r) => r < 0 || unseen[n]![r] === 1)) return;
        const field = input.fields[k]!;
        const made = gatherCells(input, new Int32Array(rows.length).fill(k), rows);
        const name = line === 0 ? field.name : nameOfLine(field.name, line);
        fields.push({ name: uniqueName(name, taken), nameOrigin: field.nameOrigin, column: made.column });
        origin.push(line === 0 ? fromColumn(k, takenRows(rows)) : made.origin);
      });
    }
    const aside: Pile[] = blanks.length === 0 ? [] : [{ name: 'blanks', mark: 'blank', rows: Int32Array.from(blanks) }];
    const folded = records.filter((record) => record.length > 1).length;
    return {
      table: { rows: records.length, fields },
      origin,
      aside,
      notices: [
        folded === 0
          ? idleNotice('every row begins a record')
          : { severity: 'info', text: `${counted(folded, 'record')} over up to ${counted(most, 'row')} folded` },
      ],
    };
  },
});

/** Where the rows of each record begin in all of them one after the other, and their number at the end. */
function startsOf(records: readonly (readonly number[])[]): Int32Array {
  const starts = new Int32Array(records.length + 1);
  records.forEach((record, n) => {
    starts[n + 1] = starts[n]! + record.length;
  });
  return starts;
}
