/** A workbook of a hundred sheets, written by SheetJS, stacked by name. */
import { utils, write } from '@e965/xlsx';
import { expect, test } from 'vitest';
import { cellsOf, quiet } from '../test-support.ts';
import { guessReading, READINGS } from './catalogue.ts';

test.each(['xlsx', 'xls', 'ods'] as const)(
  'a hundred sheets (%s): each row once, under the name of its sheet',
  (bookType) => {
    const book = utils.book_new();
    for (let k = 0; k < 100; k++) {
      // Every third sheet has its columns in another order.
      const names = k % 3 === 0 ? ['Foot', 'Port'] : ['Port', 'Foot'];
      const rows = Array.from({ length: 5 }, (_, r) =>
        k % 3 === 0 ? [k * 5 + r, `Pier ${r}`] : [`Pier ${r}`, k * 5 + r],
      );
      utils.book_append_sheet(book, utils.aoa_to_sheet([names, ...rows]), `Quay ${k}`);
    }
    const bytes = new Uint8Array(write(book, { type: 'array', bookType }) as ArrayBuffer);
    const source = { name: `quays.${bookType}`, bytes };
    const { kind, params } = guessReading('s', source);
    const { table } = READINGS.get(kind)!.read(source, READINGS.get(kind)!.params.parse(params), quiet as never);
    const rows = cellsOf(table);
    expect(rows.length).toBe(600);
    expect(new Set(rows.map((row) => row[0])).size).toBe(100);
    const figures = rows.flatMap((row) =>
      row
        .slice(1)
        .filter((cell) => /^\d+$/.test(cell ?? ''))
        .map(Number),
    );
    expect(figures.sort((a, b) => a - b)).toEqual(Array.from({ length: 500 }, (_, k) => k));
  },
);
