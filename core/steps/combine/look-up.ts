import { z } from 'zod';
import { namesPhrase } from '../../kinds/headline.ts';
import { standsFor, tableId } from '../../kinds/param-marks.ts';
import { blank, choiceBlank } from '../../kinds/sentence.ts';
import { type Notice, needColumn, type StepDescriptor, stepKind } from '../../kinds/step.ts';
import { UnreadableBuilder } from '../../table/builder.ts';
import { type Column, type ReceivedColumn, Tag } from '../../table/column.ts';
import { takeColumn } from '../../table/gather.ts';
import { type CellSource, nameOf, takenRows } from '../../table/origin.ts';
import { textView } from '../../values/cell-text.ts';
import { counted, few, grouped } from '../../values/counted.ts';
import { type AddedColumn, lookAt, withColumns } from '../result.ts';
import { comparedBlank, keyTexts, MatchKeys, matchKeysBlank, matchTables } from './match.ts';

const Params = z.object({
  table: tableId().describe('Id of the other table'),
  keys: MatchKeys,
  forgiving: z.boolean().default(false).describe('Blanks, case and accents do not matter'),
  columns: z.array(standsFor('other column', z.string())).describe('Columns of the other table that are brought'),
  several: z
    .enum(['unreadable', 'first'])
    .default('unreadable')
    .describe('A key that meets several rows with different values: unreadable, or the first of them'),
});
type Params = z.infer<typeof Params>;

export const lookUpWords: StepDescriptor<Params> = {
  kind: 'look-up',
  otherTableVerb: 'looks up in it',
  drops: true,
  title: 'Look up',
  summary: 'Adds columns of another table by key; never adds or loses rows',
  searchTerms: [
    'find value in another table',
    'reference',
    'code to name',
    'crosswalk table',
    'match',
    'add column by key',
  ],
  params: Params,
  headline: ({ columns }) => (columns.length === 0 ? 'Look up columns' : `Look up ${namesPhrase(columns)}`),
  sentence: (params, names) => [
    'Look up ',
    blank('columns', params.columns.join(', ') || 'no column yet', { as: 'lines', label: 'Columns to bring' }),
    ' in ',
    blank('table', (names?.(params.table) ?? params.table) || 'no table yet', {
      as: 'table',
      label: 'The other table',
    }),
    ' where ',
    matchKeysBlank(params.keys),
    ', ',
    comparedBlank(params.forgiving),
    '; several values ',
    choiceBlank('several', params.several, 'Where a key meets several values', [
      ['unreadable', 'stay unreadable'],
      ['first', 'give the first'],
    ]),
  ],
};

export const lookUp = /* @__PURE__ */ stepKind<Params>(lookUpWords, {
  start: (table, columns) => {
    const name = columns[0] ?? table.fields[0]?.name ?? '';
    return { table: '', keys: [{ left: name, right: name }], forgiving: false, columns: [], several: 'unreadable' };
  },
  run(input, params, context) {
    const other = context.other(params.table);
    const { left, matching } = matchTables(input, other.table, params);
    const first = matching.left.map((code) => (code < 0 ? -1 : matching.right.items[matching.right.starts[code]!]!));
    const rows = takenRows(first);
    const notices: Notice[] = [
      {
        severity: 'info',
        text: `${grouped(input.rows - matching.unmatchedLeft.length)} of ${counted(input.rows, 'row')} found`,
      },
      ...lookAt(
        [...matching.unmatchedLeft],
        'before',
        `${counted(matching.unmatchedLeft.length, 'row')} not found in ${other.name}: ${few(keyTexts(input, left, matching.unmatchedLeft))}`,
        params.keys[0]?.left,
      ),
    ];
    const added = params.columns.map((name): AddedColumn => {
      const k = needColumn(other.table, name);
      const field = other.table.fields[k]!;
      const differing = keysThatDiffer(matching.right, field.column);
      const wrong: number[] = [];
      matching.left.forEach((code, r) => {
        if (code >= 0 && differing[code] === 1) wrong.push(r);
      });
      let column = takeColumn(field.column, first);
      if (wrong.length > 0 && params.several === 'unreadable') column = unreadableAt(column, wrong, name);
      notices.push(
        ...lookAt(
          wrong,
          'before',
          `${counted(wrong.length, 'row')} meet several values of ${name}: ${few(keyTexts(input, left, Int32Array.from(wrong)))}`,
          params.keys[0]?.left,
        ),
      );
      const cells: CellSource[] = [{ role: 'value', input: 1, rows, column: k }];
      left.forEach((own) => {
        cells.push({ role: 'key', rows: { kind: 'same' }, column: own });
      });
      return {
        field: { name, nameOrigin: 'named', column },
        origin: { cells, name: nameOf(k).map((one) => ({ ...one, input: 1 })) },
      };
    });
    return withColumns(input, input.fields.length - 1, added, undefined, notices);
  },
});

/** 1 for each key whose rows do not all hold the same value. */
function keysThatDiffer(members: { starts: Int32Array; items: Int32Array }, column: Column): Uint8Array {
  const { codes, texts } = textView(column);
  const keys = members.starts.length - 1;
  const differs = new Uint8Array(keys);
  for (let key = 0; key < keys; key++) {
    const from = members.starts[key]!;
    const a = codes[members.items[from] ?? 0] ?? -1;
    for (let k = from + 1; k < members.starts[key + 1]!; k++) {
      const b = codes[members.items[k]!]!;
      if (a !== b && (a < 0 || b < 0 || texts[a] !== texts[b])) differs[key] = 1;
    }
  }
  return differs;
}

/** The column with these cells unreadable; a text column becomes one that mixes kinds. */
function unreadableAt(column: Column, rows: readonly number[], name: string): Column {
  const unreadable = { text: 'several values', reason: `several values of ${name} for this key` };
  if (column.type === 'text' || column.type === 'received') {
    const mixed: ReceivedColumn =
      column.type === 'received'
        ? { ...column, tags: column.tags.slice(), values: column.values.slice() }
        : {
            type: 'received',
            tags: Uint8Array.from(column.codes, (code) => (code < 0 ? Tag.blank : Tag.text)),
            values: Float64Array.from(column.codes),
            dictionary: column.dictionary,
            cells: [],
          };
    const cells = [...mixed.cells, unreadable];
    for (const row of rows) {
      mixed.tags[row] = Tag.unreadable;
      mixed.values[row] = cells.length - 1;
    }
    return { ...mixed, cells };
  }
  const cells = new UnreadableBuilder(column.values.length);
  const values = column.values.slice();
  for (const row of rows) {
    values[row] = Number.NaN;
    cells.set(row, unreadable.text, unreadable.reason);
  }
  return cells.attach(column.type, values);
}
