import { CellKind, type ColumnProfile, textAt } from '../glance/table-profile.ts';
import { few } from '../values/counted.ts';
import { bodyOf } from './body.ts';
import type { Detector } from './finding.ts';
import { columnsBy } from './sum-columns.ts';

/** Columns of codes that are counted, and different codes in them. */
const MIN_CODED = 3;
const MAX_CODES = 12;
const MIN_ROWS = 3;

/** Columns of numbers behind a plan or a register that count its codes row by row. */
export const countColumns: Detector = {
  name: 'count-columns',
  find(input) {
    const body = bodyOf(input);
    const rows = body.rowsOf('data');
    const coded = body.keys.filter((column) => column.counts[CellKind.text]! > 0).slice(1);
    if (rows.length < MIN_ROWS || coded.length < MIN_CODED) return [];
    const codes = new Set<string>();
    for (const column of coded)
      for (const r of rows) {
        codes.add(textAt(column, r));
        if (codes.size > MAX_CODES) return [];
      }
    codes.delete('');
    const countOf = (r: number, wanted: (text: string) => boolean) =>
      coded.filter((column) => wanted(textAt(column, r))).length;
    const ways = [...codes].flatMap((code) => [
      { said: `how many are ${code}`, counts: rows.map((r) => countOf(r, (text) => text === code)) },
      { said: `how many are not ${code}`, counts: rows.map((r) => countOf(r, (text) => text !== '' && text !== code)) },
    ]);
    const found = body.figures.flatMap((column) => {
      const way = ways.find(({ counts }) => new Set(counts).size > 1 && isEach(column, rows, counts));
      return way === undefined || column.index < coded.at(-1)!.index ? [] : [{ column, said: way.said }];
    });
    if (found.length === 0) return [];
    const names = found.map(({ column }) => column.name);
    return [
      {
        steps: [
          {
            kind: 'set-aside-columns',
            params: {
              columns: columnsBy(
                names,
                input.profile.columns.map((column) => column.name),
              ),
              pile: 'counts',
            },
            why: `${few(names)}: counted from the ${coded.length} columns of codes, as ${found[0]!.said}`,
          },
        ],
        weight: 1.5,
      },
    ];
  },
};

function isEach(column: ColumnProfile, rows: readonly number[], counts: readonly number[]): boolean {
  return rows.every((r, n) => column.values[r] === counts[n]);
}
