/** Every export that keeps types is read back by Rimefield itself: what went out comes back, character by character. */
import fc from 'fast-check';
import { expect, test } from 'vitest';
import {
  cellText,
  countedColumn,
  EXPORT_FORMATS,
  type ExportFormat,
  ExportSpec,
  ExportStopped,
  guessReading,
  makeTable,
  openSource,
  READINGS,
  type Table,
  textColumn,
} from '../index.ts';
import { columnLength } from '../table/column.ts';
import { quiet } from '../test-support.ts';
import { exportTable } from './export.ts';

/** Cells of the first table or sheet by column, and names, as a reader finds them. */
async function readBack(bytes: Uint8Array, as: ExportFormat): Promise<(string | null)[][]> {
  const name = `a.${EXPORT_FORMATS[as].ending}`;
  await openSource(bytes, name);
  const source = { name, bytes };
  const { kind, params: guessed } = guessReading('s', source);
  // Texts made of tabs look like tab-delimited text: what was written is read by the comma it was written with.
  const params = as === 'csv' ? { ...guessed, delimiter: ',' } : guessed;
  const reading = READINGS.get(kind)!;
  const { table } = reading.read(source, reading.params.parse({ ...params, nameColumn: null }), quiet as never);
  return table.fields.map(({ name, column }) => {
    const cells = Array.from({ length: columnLength(column) }, (_, r) => cellText(column, r));
    // Sheets and delimited text have their names in the first row.
    return kind === 'read-tables' || kind === 'read-nested' ? [name, ...cells] : cells;
  });
}

const shown = (table: Table) =>
  table.fields.map(({ name, column }) => [name, ...Array.from({ length: table.rows }, (_, r) => cellText(column, r))]);

const TEXTS = fc
  .array(
    fc.constantFrom(
      'a',
      'ß',
      '港',
      '🚢',
      ' ',
      '  ',
      '\t',
      '\n',
      '\r\n',
      '\r',
      ',',
      '"',
      "'",
      '=',
      '&',
      '<',
      '>',
      '_x000D_',
      '\ufeff',
      '0',
      '\u00a0',
    ),
    { minLength: 1, maxLength: 6 },
  )
  .map((pieces) => pieces.join(''))
  // Spaces alone are a blank to some readers, and a line end at the end to others.
  .filter((text) => text.trim() !== '');

/** A cell of two single quotes alone reads as an empty quoted cell. */
const isPlain = (text: string) => !text.startsWith("'");

test.each(['csv', 'xlsx', 'ods', 'json', 'ndjson', 'parquet', 'arrow', 'sqlite'] as const)(
  'texts come back from %s',
  async (as) => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(as === 'csv' ? TEXTS.filter(isPlain) : TEXTS, { minLength: 2, maxLength: 8 }),
        async (texts) => {
          const table = makeTable({
            Port: textColumn(['Hask', ...texts]),
            Quay: textColumn(['Ullin', ...texts.toReversed()]),
          });
          const spec = ExportSpec.parse(as === 'csv' ? { as, guard: false } : { as });
          const bytes = await exportTable({ name: 'Ports', table }, spec);
          expect(await readBack(bytes, as)).toEqual(shown(table));
        },
      ),
      { numRuns: 60 },
    );
  },
);

const DAY = 86_400_000;
const counted = <T>(value: fc.Arbitrary<T>) => fc.array(fc.option(value), { minLength: 3, maxLength: 3 });

test.each(['xlsx', 'ods', 'parquet', 'arrow'] as const)('numbers, dates and times come back from %s', async (as) => {
  await fc.assert(
    fc.asyncProperty(
      counted(fc.double({ noNaN: true, noDefaultInfinity: true }).filter((value) => !Object.is(value, -0))),
      counted(fc.integer({ min: -30_000, max: 2_000_000 })),
      counted(fc.integer({ min: -1_000_000_000, max: 200_000_000_000 }).map((second) => second * 1000)),
      counted(fc.integer({ min: 0, max: DAY / 1000 - 1 }).map((second) => second * 1000)),
      counted(fc.constantFrom(0, 1)),
      async (fares, days, stamps, times, paid) => {
        const table = makeTable({
          Fare: countedColumn('number', [1.5, ...fares]),
          Day: countedColumn('date', [20_000, ...days]),
          At: countedColumn('datetime', [
            1.7e12,
            ...stamps.map((stamp) => (stamp === null ? null : stamp + (stamp % DAY === 0 ? 1000 : 0))),
          ]),
          Time: countedColumn('time', [3_600_000, ...times]),
          Paid: countedColumn('yesno', [1, ...paid]),
        });
        const bytes = await exportTable({ name: 'Fares', table }, ExportSpec.parse({ as }));
        expect(await readBack(bytes, as)).toEqual(shown(table));
      },
    ),
    { numRuns: 60 },
  );
});

test('control characters that XML does not have are refused, with the cell', async () => {
  const table = makeTable({ Note: textColumn(['fine', 'a\u0001b']) });
  await expect(exportTable({ name: 'T', table }, ExportSpec.parse({ as: 'ods' }))).rejects.toThrow(ExportStopped);
});

test('a sheet of more rows than are packed at once is whole', async () => {
  const count = 70_001;
  const berths = Array.from({ length: count }, (_, k) => `B-${k % 311}`);
  const table = makeTable({
    Berth: textColumn(berths),
    Foot: countedColumn(
      'number',
      berths.map((_, k) => k),
    ),
  });
  const bytes = await exportTable({ name: 'Berths', table }, ExportSpec.parse({ as: 'xlsx' }));
  const [names, feet] = await readBack(bytes, 'xlsx');
  expect(names).toEqual(['Berth', ...berths]);
  expect(feet!.at(-1)).toBe(String(count - 1));
});
