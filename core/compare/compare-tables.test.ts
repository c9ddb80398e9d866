/** Two tables row against row, beside the same question asked of DuckDB. */
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compareTables, countedColumn, makeTable, type Table, textColumn } from '../index.ts';
import { openDuck } from '../test-duck.ts';

const q2 = makeTable({
  Quay: textColumn(['Hask', 'Hask', 'Ullin', 'Tarve']),
  Month: textColumn(['April', 'May', 'April', 'April']),
  Foot: countedColumn('whole', [5, 7, 9, null]),
});
const q3 = makeTable({
  Quay: textColumn(['Ullin', 'Hask', 'Hask', 'Brannoch']),
  Month: textColumn(['April', 'May', 'April', 'April']),
  Foot: countedColumn('whole', [9, 8, 5, 1]),
  Cars: countedColumn('whole', [1, 1, 1, 1]),
});

test('rows meet by a key that is found: the same, changed, added, gone; sums beside each other', () => {
  expect(compareTables(q2, q3)).toEqual({
    key: ['Quay', 'Month'],
    addedColumns: ['Cars'],
    goneColumns: [],
    added: [3],
    gone: [3],
    changed: [{ before: 1, after: 1, columns: ['Foot'] }],
    same: 2,
    repeated: 0,
    sums: [{ column: 'Foot', before: 21, after: 23 }],
  });
});

test('without a key rows are the same when all their cells are', () => {
  const twice = makeTable({ Quay: textColumn(['Hask', 'Hask']) });
  const once = makeTable({ Quay: textColumn(['Hask', 'Ullin']) });
  expect(compareTables(twice, once, [])).toMatchObject({
    key: [],
    added: [1],
    gone: [1],
    changed: [],
    same: 1,
    repeated: 1,
  });
});

test('rows that repeat a key are paired in their order and counted', () => {
  const before = makeTable({ K: textColumn(['a', 'a', 'b']), V: textColumn(['1', '2', '3']) });
  const after = makeTable({ K: textColumn(['a', 'a', 'a']), V: textColumn(['1', '5', '6']) });
  expect(compareTables(before, after, ['K'])).toMatchObject({
    added: [2],
    gone: [2],
    changed: [{ before: 1, after: 1, columns: ['V'] }],
    same: 1,
    repeated: 2,
  });
});

test('a blank in a key is not an empty text, and texts do not run together', () => {
  const before = makeTable({ A: textColumn(['', 'x']), B: textColumn(['x', null]) });
  const after = makeTable({ A: textColumn([null, 'x']), B: textColumn(['x', '']) });
  expect(compareTables(before, after, ['A', 'B'])).toMatchObject({ same: 0, added: [0, 1], gone: [0, 1] });
});

const keyed = fc
  .uniqueArray(fc.tuple(fc.integer({ min: 0, max: 12 }), fc.integer({ min: 0, max: 3 })), { selector: ([key]) => key })
  .map((rows) =>
    makeTable({
      K: textColumn(rows.map(([key]) => `k${key}`)),
      V: countedColumn(
        'whole',
        rows.map(([, value]) => value),
      ),
    }),
  );

test('law: every row of both is reported once, and DuckDB finds the same rows by full outer join', async () => {
  const duck = await openDuck();
  await fc.assert(
    fc.asyncProperty(keyed, keyed, async (a, b) => {
      const found = compareTables(a, b, ['K']);
      const met = found.same + found.changed.length;
      expect(met + found.added.length).toBe(b.rows);
      expect(met + found.gone.length).toBe(a.rows);
      const values = (table: Table, name: string) => {
        const rows = Array.from({ length: table.rows }, (_, r) => `('${text(table, r)}', ${number(table, r)})`);
        return `${name}(k, v) as (select * from (values ('', -1)${rows.map((row) => `, ${row}`).join('')}) t(k, v) where v >= 0)`;
      };
      const counts = await duck.query(
        `with ${values(a, 'a')}, ${values(b, 'b')} select
           count(*) filter (where a.k is null), count(*) filter (where b.k is null),
           count(*) filter (where a.v = b.v), count(*) filter (where a.v <> b.v)
         from a full join b on a.k = b.k`,
      );
      expect(counts[0]!.map(Number)).toEqual([found.added.length, found.gone.length, found.same, found.changed.length]);
    }),
    { numRuns: 40 },
  );
});

function text(table: Table, row: number): string {
  const { column } = table.fields[0]!;
  return column.type === 'text' ? column.dictionary[column.codes[row]!]! : '';
}

function number(table: Table, row: number): number {
  return (table.fields[1]!.column as { values: Float64Array }).values[row]!;
}
