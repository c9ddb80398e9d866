/** Texts of a print-out that run across the cuts. The print-outs are invented. */
import { describe, expect, test } from 'vitest';
import { cellsOf as tableCells } from '../test-support.ts';
import { fitsCuts } from './cuts.ts';
import { headingSpans } from './headings.ts';
import { fixedSpans, readByLines, readFixedWidth } from './read-fixed-width.ts';

const CUTS = [8, 18, 29, 39];
const cellsIn = (line: string, cuts = CUTS) =>
  headingSpans(line, cuts)?.map(({ from, to, column }) => [column, line.slice(from, to)]);

describe('texts across the cuts', () => {
  test.each<[string, [number, string][] | undefined]>([
    // A row fits its cuts, also where its cells are one blank apart.
    ['DEP-001 06-Feb-31 Wire       1204.25        120', undefined],
    ['DEP-001 06-Feb-31', undefined],
    ['*** Hask Depot ***', [[0, '*** Hask Depot ***']]],
    // This one fits the cuts by chance.
    ['*** Ullin and Skene ***', [[0, '*** Ullin and Skene ***']]],
    [
      'Total Ullin and Skene          587.5          1',
      [
        [0, 'Total Ullin and Skene'],
        [3, '587.5'],
        [4, '1'],
      ],
    ],
    [
      'Depot: Hask    Head: E. Stroud',
      [
        [0, 'Depot: Hask'],
        [1, 'Head: E. Stroud'],
      ],
    ],
  ])('%s', (line, cells) => {
    expect(cellsIn(line)).toEqual(cells);
  });

  test('are whole in the table, and where the ruler shows them', () => {
    const lines = [
      'Brannoch Depot and yard',
      'DEP-001 Wire       587.5',
      'DEP-002 Sleepers   535.8',
      'Ullin Depot',
      'DEP-003 Wheels     457.7',
    ];
    const source = { name: 'a.txt', bytes: new TextEncoder().encode(lines.join('\n')) };
    const params = readFixedWidth.start('s', source);
    expect(params).toMatchObject({ across: 'whole' });
    const { table } = readByLines(source, readFixedWidth.params.parse(params), () => undefined);
    expect(tableCells(table).map(([first]) => first)).toEqual([
      'Brannoch Depot and yard',
      'DEP-001',
      'DEP-002',
      'Ullin Depot',
      'DEP-003',
    ]);
    const spansOf = fixedSpans(readFixedWidth.params.parse(params));
    expect(spansOf(lines[0]!)).toEqual({ spans: [{ from: 0, to: lines[0]!.length, column: 0 }], fits: true });
    // Cut in two, as before there was a choice.
    const cut = readFixedWidth.params.parse({ ...params, across: 'cut' });
    expect(tableCells(readByLines(source, cut, () => undefined).table)[0]![0]).toBe('Brannoch');
  });

  test('a line that is cut like the others has no word across a cut', () => {
    for (const line of ['DEP-001 06-Feb-31 Wire       1204.25        120', 'x', ''])
      if (headingSpans(line, CUTS) === undefined) expect(fitsCuts(line, CUTS)).toBe(true);
  });
});
