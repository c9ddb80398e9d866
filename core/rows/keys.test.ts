import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { countedColumn, textColumn } from '../table/builder.ts';
import type { Column } from '../table/column.ts';
import { inputRows } from '../table/origin.ts';
import { SpanBuilder } from '../table/span-builder.ts';
import { cellText } from '../values/cell-text.ts';
import { groupRowMap, groupRows, sharedCodes } from './keys.ts';

function spanned(cells: readonly (string | null)[], encoding = 'utf-8'): Column {
  const encode = (text: string) =>
    encoding === 'utf-8'
      ? new TextEncoder().encode(text)
      : Uint8Array.from(text, (letter) => Math.min(255, letter.charCodeAt(0)));
  const bytes = encode(cells.map((cell) => cell ?? '').join(''));
  const builder = new SpanBuilder(4);
  let at = 0;
  for (const cell of cells) {
    const end = at + encode(cell ?? '').length;
    builder.push(at, end);
    at = end;
  }
  return builder.finish(bytes, new Uint8Array(), encoding);
}

/** Groups by the texts of rows, as plainly as can be. */
function plainGroups(columns: readonly Column[], rows: number): number[] {
  const known = new Map<string, number>();
  return Array.from({ length: rows }, (_, r) => {
    const key = JSON.stringify(columns.map((column) => cellText(column, r)));
    if (!known.has(key)) known.set(key, known.size);
    return known.get(key)!;
  });
}

describe('rows in groups', () => {
  test('law: groups are numbered by their first rows, in runs, in parts and in one table alike', () => {
    const column = (rows: number, different: number, run: number, seed: number) =>
      textColumn(
        Array.from({ length: rows }, (_, r) => {
          const k = Math.imul(Math.floor(r / run) + seed, 0x9e3779b1) >>> 8;
          return k % 11 === 0 ? null : `t${k % different}`;
        }),
      );
    // Few and many different values, rows in runs and not: each goes another way.
    const shapes = fc.record({
      rows: fc.constantFrom(0, 1, 500, 9000, 20_000),
      different: fc.constantFrom(1, 3, 200, 100_000),
      run: fc.constantFrom(1, 2, 12),
      columns: fc.integer({ min: 1, max: 4 }),
    });
    fc.assert(
      fc.property(shapes, ({ rows, different, run, columns }) => {
        const all = Array.from({ length: columns }, (_, c) => column(rows, different + c, run, c));
        const groups = groupRows(all, rows);
        const plain = plainGroups(all, rows);
        expect([...groups.of]).toEqual(plain);
        expect(groups.count).toBe(new Set(plain).size);
        expect([...groups.first]).toEqual(Array.from({ length: groups.count }, (_, g) => plain.indexOf(g)));
        const map = groupRowMap(groups);
        for (let g = 0; g < Math.min(groups.count, 40); g++)
          expect([...(inputRows(map, g) as Int32Array)]).toEqual(plain.flatMap((one, r) => (one === g ? [r] : [])));
      }),
      { numRuns: 60 },
    );
  });

  test('a column that tells all runs apart needs no other', () => {
    const codes = textColumn(Array.from({ length: 6000 }, (_, r) => `B${Math.floor(r / 12)}`));
    const months = countedColumn(
      'whole',
      Array.from({ length: 6000 }, (_, r) => Math.floor(r / 12) % 5),
    );
    const groups = groupRows([months, codes], 6000);
    expect(groups).toMatchObject({ count: 500, together: true });
    expect(groups.of[5999]).toBe(499);
  });
});

describe('codes of two columns on one scale', () => {
  const text = fc.option(fc.string({ unit: fc.constantFrom('a', 'B', 'é', '港', '1'), minLength: 1, maxLength: 3 }));
  const columnOf = (cells: readonly (string | null)[], as: 'bytes' | 'texts') =>
    as === 'bytes' ? spanned(cells) : textColumn(cells);

  test('law: equal texts have equal codes, whether they are bytes of a source or texts', () => {
    const as = fc.constantFrom<'bytes' | 'texts'>('bytes', 'texts');
    fc.assert(
      fc.property(fc.array(text), fc.array(text), as, as, (left, right, asLeft, asRight) => {
        const [a, b] = sharedCodes(columnOf(left, asLeft), columnOf(right, asRight), { forgiving: false });
        expect(Math.max(-1, ...a.codes, ...b.codes)).toBeLessThan(a.count + 1);
        left.forEach((own, l) => {
          expect(a.codes[l]! < 0).toBe(own === null);
          right.forEach((other, r) => {
            if (own !== null && other !== null) expect(a.codes[l] === b.codes[r]).toBe(own === other);
          });
        });
      }),
    );
  });

  test('other encodings and invalid bytes are distinguished as they read', () => {
    const [a, b] = sharedCodes(spanned(['é', 'x'], 'windows-1252'), spanned(['é', 'x']), { forgiving: false });
    expect([...a.codes]).toEqual([...b.codes]);
    const halves = sharedCodes(textColumn(['\ud800', '\ud801']), textColumn(['\ud801']), { forgiving: false });
    expect(halves[0].codes[1]).toBe(halves[1].codes[0]);
    expect(halves[0].codes[0]).not.toBe(halves[1].codes[0]);
  });
});
