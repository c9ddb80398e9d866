import { z } from 'zod';
import { ColumnSet, chosenColumns, columnSetText } from '../../kinds/column-set.ts';
import { namesPhrase } from '../../kinds/headline.ts';
import { standsFor, tableId } from '../../kinds/param-marks.ts';
import { blank, choiceBlank } from '../../kinds/sentence.ts';
import { type Notice, needColumn, type StepDescriptor, StepFailure, stepKind } from '../../kinds/step.ts';
import { stackColumns, takeColumn } from '../../table/gather.ts';
import { type CellSource, type ColumnOrigin, nameOf, type RowMap, takenRows } from '../../table/origin.ts';
import { type Field, type Table, uniqueName } from '../../table/table.ts';
import { isEveryRow } from '../../table/vectors.ts';
import { counted, few, grouped } from '../../values/counted.ts';
import { comparedBlank, keyTexts, type Matching, MatchKeys, matchKeysBlank, matchTables } from './match.ts';

const MAX_ROWS = 100_000_000;

const Params = z.object({
  table: tableId().describe('Id of the other table'),
  how: z.enum(['left', 'inner', 'full', 'unmatched']).default('left').describe('unmatched: only rows without a match'),
  keys: MatchKeys,
  forgiving: z.boolean().default(false).describe('Blanks, case and accents do not matter'),
  bring: standsFor('other column', ColumnSet.default({ by: 'all' })).describe(
    'Columns of the other table that come along, beside its keys',
  ),
});
type Params = z.infer<typeof Params>;

export const joinWords: StepDescriptor<Params> = {
  kind: 'join',
  otherTableVerb: 'joins it',
  drops: true,
  title: 'Join a table',
  summary: 'Adds columns of another table where keys agree, and lists unmatched rows',
  searchTerms: [
    'merge',
    'vlookup',
    'lookup table',
    'match',
    'combine tables by key',
    'left join',
    'inner join',
    'anti join',
  ],
  params: Params,
  headline: ({ keys }) => `Join a table by ${namesPhrase(keys.map(({ left }) => left))}`,
  sentence: (params, names) => [
    'Join ',
    blank('table', (names?.(params.table) ?? params.table) || 'no table yet', {
      as: 'table',
      label: 'The other table',
    }),
    ' where ',
    matchKeysBlank(params.keys),
    ', ',
    comparedBlank(params.forgiving),
    '; keep ',
    choiceBlank('how', params.how, 'Which rows stay', [
      ['left', 'all rows here'],
      ['inner', 'rows that match'],
      ['full', 'all rows of both'],
      ['unmatched', 'only rows here without a match'],
    ]),
    ...(params.how === 'unmatched'
      ? []
      : [
          ', bring ',
          blank('bring', columnSetText(params.bring), { as: 'columns' as const, label: 'Columns of the other table' }),
        ]),
  ],
};

export const join = /* @__PURE__ */ stepKind<Params>(joinWords, {
  start: (table, columns) => ({
    table: '',
    how: 'left',
    keys: [{ left: columns[0] ?? table.fields[0]?.name ?? '', right: columns[0] ?? table.fields[0]?.name ?? '' }],
    forgiving: false,
    bring: { by: 'all' },
  }),
  run(input, params, context) {
    const other = context.other(params.table);
    const { left, right, matching } = matchTables(input, other.table, params);
    context.progress(0.5);
    const rows = joinedRows(matching, params.how, input.rows);
    const bring =
      params.how === 'unmatched' ? [] : chosenColumns(params.bring, other.table).filter((k) => !right.includes(k));
    return {
      ...joinedTable(input, other.table, rows, left, right, bring),
      aside: [],
      notices: joinNotices(matching, params, input, other),
    };
  },
});

interface JoinedRows {
  left: Int32Array;
  right: Int32Array;
}

/** Row pairs in order of the left rows, their matches in order of the right ones; in a full join the rest behind. */
function joinedRows(matching: Matching, how: Params['how'], leftRows: number): JoinedRows {
  const { left, right, unmatchedLeft, unmatchedRight } = matching;
  if (how === 'unmatched') return { left: unmatchedLeft, right: new Int32Array(unmatchedLeft.length).fill(-1) };
  let total = how === 'full' ? unmatchedRight.length : 0;
  for (let r = 0; r < leftRows; r++) {
    const code = left[r]!;
    total += code < 0 ? (how === 'inner' ? 0 : 1) : right.starts[code + 1]! - right.starts[code]!;
  }
  if (total > MAX_ROWS) {
    throw new StepFailure(
      `The join would make ${counted(total, 'row')}: the keys do not tell rows apart. Choose keys that do, or group the other table first.`,
    );
  }
  const out = { left: new Int32Array(total), right: new Int32Array(total) };
  let at = 0;
  for (let r = 0; r < leftRows; r++) {
    const code = left[r]!;
    if (code < 0) {
      if (how === 'inner') continue;
      out.left[at] = r;
      out.right[at++] = -1;
      continue;
    }
    for (let k = right.starts[code]!; k < right.starts[code + 1]!; k++) {
      out.left[at] = r;
      out.right[at++] = right.items[k]!;
    }
  }
  if (how === 'full') {
    for (const row of unmatchedRight) {
      out.left[at] = -1;
      out.right[at++] = row;
    }
  }
  return out;
}

function joinedTable(
  input: Table,
  other: Table,
  rows: JoinedRows,
  left: readonly number[],
  right: readonly number[],
  bring: readonly number[],
) {
  const taken = new Set<string>();
  const fields: Field[] = [];
  const origin: ColumnOrigin[] = [];
  // Where each row here met at most one there, its own cells stay as they are.
  const unmoved = isEveryRow(rows.left, input.rows);
  const fromLeft: RowMap = unmoved ? { kind: 'same' } : takenRows(rows.left);
  const fromRight = takenRows(rows.right);
  const onlyRight = rows.left.some((row) => row < 0);
  input.fields.forEach((field, k) => {
    const key = left.indexOf(k);
    const cells: CellSource[] = [{ role: 'value', rows: fromLeft, column: k }];
    let column = unmoved ? field.column : takeColumn(field.column, rows.left);
    if (key >= 0) cells.push({ role: 'key', input: 1, rows: fromRight, column: right[key]! });
    if (key >= 0 && onlyRight) {
      // Rows of the other table alone have their key from there.
      const both = stackColumns([field.column, other.fields[right[key]!]!.column]);
      column = takeColumn(
        both,
        rows.left.map((row, r) => (row >= 0 ? row : input.rows + rows.right[r]!)),
      );
    }
    fields.push({ ...field, name: uniqueName(field.name, taken), column });
    origin.push({ cells, name: nameOf(k) });
  });
  for (const k of bring) {
    const field = other.fields[k]!;
    fields.push({
      name: uniqueName(field.name, taken),
      nameOrigin: 'named',
      column: takeColumn(field.column, rows.right),
    });
    origin.push({
      cells: [{ role: 'value', input: 1, rows: fromRight, column: k }],
      name: nameOf(k).map((one) => ({ ...one, input: 1 })),
    });
  }
  return { table: { rows: rows.left.length, fields }, origin };
}

function joinNotices(
  matching: Matching,
  params: Params,
  input: Table,
  other: { name: string; table: Table },
): Notice[] {
  const matched = input.rows - matching.unmatchedLeft.length;
  const matchedRight = other.table.rows - matching.unmatchedRight.length;
  const notices: Notice[] = [
    {
      severity: 'info',
      text: `${grouped(matched)} of ${counted(input.rows, 'row')} match, ${grouped(matchedRight)} of ${counted(other.table.rows, 'row')} of ${other.name}`,
    },
  ];
  const columns = (table: Table, side: 'left' | 'right') => params.keys.map((key) => needColumn(table, key[side]));
  const keysOf = (table: Table, side: 'left' | 'right', rows: Int32Array) =>
    few(keyTexts(table, columns(table, side), rows));
  if (matching.unmatchedLeft.length > 0) {
    notices.push({
      severity: 'warning',
      text: `${counted(matching.unmatchedLeft.length, 'row')} here without a match: ${keysOf(
        input,
        'left',
        matching.unmatchedLeft,
      )}`,
      rows: { of: 'before', rows: matching.unmatchedLeft },
      column: params.keys[0]!.left,
    });
  }
  if (matching.unmatchedRight.length > 0) {
    notices.push({
      severity: 'warning',
      text: `${counted(matching.unmatchedRight.length, 'row')} of ${other.name} without a match: ${keysOf(
        other.table,
        'right',
        matching.unmatchedRight,
      )}`,
    });
  }
  if (matching.multiplied.length > 0 && params.how !== 'unmatched') {
    notices.push({
      severity: 'warning',
      text: `${counted(matching.multiplied.length, 'row')} matched several of ${other.name} and were duplicated: ${keysOf(
        input,
        'left',
        matching.multiplied,
      )}`,
      rows: { of: 'before', rows: matching.multiplied },
      column: params.keys[0]!.left,
    });
  }
  return notices;
}
