/** What is written as Parquet, read by two readers that are not ours: DuckDB and hyparquet. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { parquetReadObjects } from 'hyparquet';
import { readRleBitPackedHybrid } from 'hyparquet/src/encoding.js';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { type Column, type CountedType, countedColumn, makeTable, type Table, textColumn } from '../../index.ts';
import { type Duck, openDuck } from '../../test-duck.ts';
import { addHybrid, bitsOf } from './hybrid.ts';
import { numberCodes } from './number-codes.ts';
import { PageBytes } from './page-bytes.ts';
import { textBounds } from './text-bounds.ts';
import { writeParquet } from './write-parquet.ts';

const NEVER = Number.POSITIVE_INFINITY;

let folder: string;
let duck: Duck;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'rimefield-parquet-'));
  duck = await openDuck();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function kept(table: Table): string {
  const file = join(folder, 'a.parquet');
  writeFileSync(file, writeParquet(table));
  return file;
}

describe('small whole numbers in as few bits as they need', () => {
  const values = fc.integer({ min: 0, max: 20 }).chain((width) =>
    fc.record({
      width: fc.constant(width),
      // Stretches of one value beside others, so that both ways of telling them meet.
      runs: fc.array(fc.tuple(fc.integer({ min: 0, max: 2 ** width - 1 }), fc.integer({ min: 1, max: 40 })), {
        minLength: 1,
        maxLength: 30,
      }),
    }),
  );

  test('are the same by kernel and without, and read back by hyparquet', () => {
    fc.assert(
      fc.property(values, ({ width, runs }) => {
        const all = Int32Array.from(runs.flatMap(([value, times]) => new Array<number>(times).fill(value)));
        const packed = (kernelFrom: number, given: Int32Array | Uint8Array = all) => {
          const out = new PageBytes();
          addHybrid(out, given, width, kernelFrom);
          return out.all().slice();
        };
        const bytes = packed(0);
        expect(bytes).toEqual(packed(NEVER));
        if (width <= 8) expect(packed(0, Uint8Array.from(all))).toEqual(bytes);
        const back = new Array<number>(all.length);
        readRleBitPackedHybrid({ view: new DataView(bytes.buffer), offset: 0 }, width, back, bytes.length);
        expect(back).toEqual([...all]);
      }),
    );
  });

  test('a thousand equal ones take a few bytes, and the largest says how many bits', () => {
    const out = new PageBytes();
    addHybrid(out, new Int32Array(1000).fill(5), 3);
    expect(out.length).toBe(3);
    expect([0, 1, 2, 3, 4, 255, 256].map(bitsOf)).toEqual([0, 1, 2, 2, 3, 8, 9]);
  });
});

const TEXT = fc.oneof(fc.string({ unit: 'grapheme', maxLength: 12 }), fc.constantFrom('', 'Hask', 'Ullin', 'ﬀ', '😀'));

describe('what the foot of a file says of a column, and its dictionary', () => {
  const number = fc.oneof(fc.double(), fc.integer({ min: -3, max: 3 }), fc.constantFrom(0, -0, Number.NaN));

  test('law: the same by kernel and without: filled cells, bounds, entries and codes', () => {
    fc.assert(
      fc.property(fc.array(number, { maxLength: 60 }), (given) => {
        const values = Float64Array.from(given);
        const found = numberCodes(values, 0);
        expect(found).toEqual(numberCodes(values, NEVER));
        const filled = given.filter((value) => !Number.isNaN(value));
        expect([...found.filled].filter((one) => one === 1)).toHaveLength(filled.length);
        if (filled.length > 0)
          expect([found.least, found.most].map(Math.abs)).toEqual(
            [Math.min(...filled), Math.max(...filled)].map(Math.abs),
          );
        if (found.coded === undefined) return;
        const { codes, entries } = found.coded;
        expect([...codes].map((code) => entries[code])).toEqual(filled);
      }),
      { numRuns: 1000 },
    );
  });

  test('law: the least and the greatest text are those that the platform orders so, by bytes', () => {
    const text = fc.oneof(TEXT, fc.string({ unit: fc.constantFrom('a', 'b'), maxLength: 30 }));
    fc.assert(
      fc.property(fc.array(text, { minLength: 1, maxLength: 12 }), (texts) => {
        const out = new PageBytes();
        const ends = new Float64Array(texts.length + 1);
        texts.forEach((one, k) => {
          out.text(one);
          ends[k + 1] = out.length;
        });
        const bounds = textBounds(out.all(), ends, 0);
        expect(bounds).toEqual(textBounds(out.all(), ends, NEVER));
        const ordered = texts.map((one) => Buffer.from(one)).toSorted(Buffer.compare);
        expect([texts[bounds.least], texts[bounds.most]]).toEqual([`${ordered[0]}`, `${ordered.at(-1)}`]);
      }),
      { numRuns: 1000 },
    );
  });
});

const COUNTED: Record<CountedType, fc.Arbitrary<number>> = {
  number: fc.oneof(fc.double({ noNaN: true }), fc.constantFrom(0, -0, 1e21, -1e-7, 5e-324)),
  whole: fc.integer({ min: -Number.MAX_SAFE_INTEGER, max: Number.MAX_SAFE_INTEGER }),
  yesno: fc.constantFrom(0, 1),
  date: fc.integer({ min: -40_000, max: 80_000 }),
  time: fc.integer({ min: 0, max: 86_399_999 }),
  datetime: fc.integer({ min: -(2 ** 40), max: 2 ** 41 }),
};

/** Cells of a column: all different, some again and again, or long stretches of one. */
const shaped = <T>(cell: fc.Arbitrary<T>, rows: number): fc.Arbitrary<(T | null)[]> => {
  const cells = fc.option(cell, { freq: 6 });
  const few = fc.array(cells, { minLength: 1, maxLength: 4 });
  return fc.oneof(
    fc.array(cells, { minLength: rows, maxLength: rows }),
    few.chain((some) => fc.array(fc.constantFrom(...some), { minLength: rows, maxLength: rows })),
    few.map((some) => Array.from({ length: rows }, (_, r) => some[Math.floor((r * some.length) / rows)]!)),
  );
};

const tables = fc.integer({ min: 1, max: 120 }).chain((rows) =>
  fc
    .record({
      text: shaped(TEXT, rows),
      ...Object.fromEntries(Object.entries(COUNTED).map(([type, cell]) => [type, shaped(cell, rows)])),
    } as Record<CountedType | 'text', fc.Arbitrary<(string | number | null)[]>>)
    .map((cells) => ({ rows, cells })),
);

const columnOf = (type: string, cells: (string | number | null)[]): Column =>
  type === 'text'
    ? textColumn(cells as (string | null)[])
    : countedColumn(type as CountedType, cells as (number | null)[]);

test('tables of every type are read back by DuckDB as they were, with the bounds of each column', async () => {
  await fc.assert(
    fc.asyncProperty(tables, async ({ rows, cells }) => {
      const file = kept(
        makeTable(Object.fromEntries(Object.entries(cells).map(([type, own]) => [type, columnOf(type, own)]))),
      );
      const read = await duck.query(
        `select "text", "number", "whole"::varchar, "yesno"::int, "date" - date '1970-01-01', epoch_ms("time"), epoch_ms("datetime")::varchar from '${file}'`,
      );
      const wanted = Array.from({ length: rows }, (_, r) => [
        cells.text[r],
        cells.number[r],
        cells.whole[r] === null ? null : String(cells.whole[r]! === 0 ? 0 : cells.whole[r]),
        cells.yesno[r],
        cells.date[r],
        cells.time[r],
        cells.datetime[r] === null ? null : String(cells.datetime[r]! === 0 ? 0 : cells.datetime[r]),
      ]);
      expect(
        read.map((row) => row.map((cell, c) => ((c === 1 || c > 2) && c < 6 && cell !== null ? Number(cell) : cell))),
      ).toEqual(wanted);
      // What the foot says of a column decides which row groups a reader skips.
      for (const [name, as] of [
        ['whole', '::bigint'],
        ['date', '::date'],
        ['text', ''],
      ] as const) {
        const [bounds] = await duck.query(
          `select stats_min_value${as} <= (select min("${name}") from '${file}'), stats_max_value${as} >= (select max("${name}") from '${file}'), stats_null_count from parquet_metadata('${file}') where path_in_schema = '${name}'`,
        );
        const blanks = cells[name].filter((cell) => cell === null).length;
        expect(bounds).toEqual(blanks === rows ? [null, null, String(blanks)] : [true, true, String(blanks)]);
      }
    }),
    { numRuns: 60 },
  );
});

test('row groups, pages and dictionaries of a long table', async () => {
  const rows = 300_000;
  const each = <T>(of: (r: number) => T) => Array.from({ length: rows }, (_, r) => of(r));
  const file = kept(
    makeTable({
      code: textColumn(each((r) => `B${r}`)),
      port: textColumn(each((r) => (r % 7 === 0 ? null : ['Hask', 'Ullin', 'Brannoch'][r % 3]!))),
      late: textColumn(each((r) => (r < 299_999 ? null : 'Tarve'))),
      note: textColumn(each((r) => (r % 100_000 === 5 ? 'ö'.repeat(900_000) : null))),
      fare: countedColumn(
        'number',
        each((r) => (r % 11 === 0 ? null : (r % 5000) / 4)),
      ),
      weight: countedColumn(
        'number',
        each((r) => r * 1.1),
      ),
      sails: countedColumn(
        'yesno',
        each((r) => (r % 13 === 0 ? null : r % 2)),
      ),
    }),
  );
  expect(
    await duck.query(
      `select count(*), count(distinct code), count(port), count(late), max(length(note)), count(note), sum(fare), sum(weight)::bigint, count(sails), sum(sails::int) from '${file}'`,
    ),
  ).toEqual(
    await duck.query(
      `select count(*), count(*), count(*) filter (r % 7 <> 0), 1::bigint, 900000::bigint, 3::bigint, sum((r % 5000) / 4) filter (r % 11 <> 0), sum(r * 1.1)::bigint, count(*) filter (r % 13 <> 0), sum((r % 2)::int) filter (r % 13 <> 0) from (select range::double as r from range(300000))`,
    ),
  );
  expect(await duck.query(`select count(*) from '${file}' where code <> 'B' || file_row_number`)).toEqual([['0']]);
  const groups = await duck.query(`select distinct row_group_id, row_group_num_rows from parquet_metadata('${file}')`);
  expect(groups).toHaveLength(3);
});

test('hyparquet reads the same', async () => {
  const { buffer } = writeParquet(
    makeTable({
      Port: textColumn(['Hask', null, 'Hask', 'Hask', 'Tarve']),
      Foot: countedColumn('whole', [1, -2, null, 1, 1]),
    }),
  );
  expect(await parquetReadObjects({ file: buffer })).toEqual([
    { Port: 'Hask', Foot: 1n },
    { Port: null, Foot: -2n },
    { Port: 'Hask', Foot: null },
    { Port: 'Hask', Foot: 1n },
    { Port: 'Tarve', Foot: 1n },
  ]);
});
