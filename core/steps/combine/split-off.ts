import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { columnName } from '../../kinds/param-marks.ts';
import { blank, choiceBlank } from '../../kinds/sentence.ts';
import { type Notice, needColumn, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { groupRows } from '../../rows/keys.ts';
import { takeRows } from '../../table/gather.ts';
import { GroupedRows } from '../../table/grouped-rows.ts';
import { sameColumns } from '../../table/origin.ts';
import { textView } from '../../values/cell-text.ts';
import { counted, few } from '../../values/counted.ts';
import { chooseColumns } from '../header/choose-columns.ts';
import { lookAt } from '../result.ts';

const Params = z.object({
  key: z.array(columnName()).min(1).describe('Columns that decide the others'),
  columns: z.array(columnName()).describe('Columns that repeat with the key'),
  give: z
    .enum(['split-off', 'rest'])
    .default('split-off')
    .describe('split-off: one row for each key with its columns; rest: the table without them'),
});
type Params = z.infer<typeof Params>;

export const splitOffWords: StepDescriptor<Params> = {
  kind: 'split-off',
  drops: true,
  title: 'Split off columns',
  summary: 'Moves columns that repeat with a key into a separate table, or returns the table without them',
  searchTerms: ['normalise', 'reference table', 'dimension', 'lookup table', 'master data', 'repeating columns'],
  params: Params,
  headline: ({ key }) => `Split off columns of ${namesPhrase(key)}`,
  sentence: (params) => [
    'Split off ',
    blank('columns', params.columns.join(', ') || 'no columns yet', { as: 'names', label: 'Columns that repeat' }),
    ' with ',
    blank('key', params.key.join(', ') || 'no key yet', { as: 'names', label: 'Key that decides them' }),
    '; this table takes ',
    choiceBlank('give', params.give, 'What this table takes', [
      ['split-off', 'what is split off'],
      ['rest', 'the rest'],
    ]),
  ],
};

export const splitOff = /* @__PURE__ */ stepKind<Params>(splitOffWords, {
  start: (table, columns) => ({
    key: [columns[0] ?? table.fields[0]?.name ?? ''],
    columns: columns.length > 1 ? columns.slice(1) : table.fields.slice(1, 2).map((field) => field.name),
    give: 'split-off',
  }),
  run(input, params) {
    const key = params.key.map((name) => needColumn(input, name));
    const columns = params.columns.map((name) => needColumn(input, name)).filter((k) => !key.includes(k));
    if (key.length === 0) throw new StepFailure('Choose the key that decides the columns.');
    const groups = groupRows(
      key.map((k) => input.fields[k]!.column),
      input.rows,
    );
    const notices = columns.flatMap((k): Notice[] => {
      const { codes, texts } = textView(input.fields[k]!.column);
      const rows: number[] = [];
      const keys = new Set<number>();
      groups.of.forEach((group, r) => {
        const first = groups.first[group]!;
        const same =
          codes[r] === codes[first] ||
          (codes[r]! >= 0 && codes[first]! >= 0 && texts[codes[r]!] === texts[codes[first]!]);
        if (same) return;
        rows.push(r);
        keys.add(first);
      });
      const examples = [...keys]
        .slice(0, 4)
        .map((row) => params.key.map((_, n) => textOf(input.fields[key[n]!]!.column, row)).join(' · '));
      return lookAt(
        rows,
        'before',
        `${params.key.join(', ')} does not decide ${input.fields[k]!.name} in ${counted(rows.length, 'row')}, of ${few(examples)}; the first value is taken`,
        input.fields[k]!.name,
      );
    });
    if (params.give === 'rest') {
      return {
        ...chooseColumns(
          input,
          input.fields.map((_, k) => k).filter((k) => !columns.includes(k)),
        ),
        notices,
      };
    }
    const chosen = chooseColumns(input, [...key, ...columns]);
    return {
      table: takeRows(chosen.table, groups.first),
      origin: sameColumns(chosen.table.fields.length, {
        kind: 'groups',
        rows: new GroupedRows(groups.of, groups.count),
      }).map((of, c) => ({
        name: chosen.origin[c]!.name,
        cells: of.cells.map((cell) => ({ ...cell, column: chosen.origin[c]!.cells[0]!.column })),
      })),
      aside: [],
      notices: [{ severity: 'info', text: `${counted(groups.count, 'key')}` }, ...notices],
    };
  },
});

function textOf(column: Parameters<typeof textView>[0], row: number): string {
  const { codes, texts } = textView(column);
  return codes[row]! < 0 ? 'blank' : texts[codes[row]!]!;
}
