import { describe, expect, test } from 'vitest';
import { quayReturns } from '../../demo/quay-returns.ts';
import { CATALOGUE, makeTable, Runner, type Table, textColumn } from '../index.ts';
import { cellsOf, namesOf, quiet } from '../test-support.ts';
import { exampleOffers } from './example-offers.ts';
import { rulesOfRow, rulesOfRows, stepOfMark, stepsOfMarks } from './row-offers.ts';
import { cellOffers, columnOffers, stretchOffers } from './selection-offers.ts';

const run = (table: Table, step: { kind: string; params: object }) => {
  const kind = CATALOGUE.get(step.kind)!;
  return kind.run(table, kind.params.parse(step.params), quiet);
};

/** The demo's workbook as read, a row for each of its rows. */
function received(): Table {
  const { bytes, file } = quayReturns();
  const runner = new Runner();
  runner.setSource('s', { name: file, bytes });
  return runner.run([{ id: 'a', kind: 'read-sheets', params: { source: 's' } }], quiet).steps[0]!.table;
}

describe('rules that a marked row follows', () => {
  const table = received();
  const rowOf = (text: string) => cellsOf(table).findIndex((row) => row.some((cell) => cell === text));

  test('a total offers its last word, and takes in all totals', () => {
    const row = cellsOf(table).findIndex((cells) => /total$/i.test(cells[1] ?? ''));
    const [first] = rulesOfRow(table, row, 'total');
    expect(first).toMatchObject({ rule: { test: 'ends', column: 'A', text: 'total' } });
    const marked = [...first!.rows].map((r) => cellsOf(table)[r]![1]);
    expect(marked.length).toBeGreaterThan(3);
    expect(marked.every((text) => /total$/i.test(text!))).toBe(true);
    const result = run(table, stepOfMark(table, row, 'total', first!.rule));
    expect(result.aside[0]).toMatchObject({ name: 'totals', mark: 'total' });
    expect(result.table.rows).toBe(table.rows - first!.rows.length);
  });

  test('a label offers that nothing else is filled; taking it carries the label', () => {
    const row = cellsOf(table).findIndex((cells) => / to /.test(cells[1] ?? ''));
    const [first] = rulesOfRow(table, row, 'label');
    expect(first).toMatchObject({ rule: { test: 'only', columns: ['A'] } });
    const step = stepOfMark(table, row, 'label', first!.rule);
    expect(step).toMatchObject({ kind: 'carry', params: { from: 'A', within: 'Sheet' } });
    expect(namesOf(run(table, step).table)).toContain('Label');
  });

  test('a header row becomes the header of every sheet', () => {
    const row = rowOf('Sailing');
    const [first] = rulesOfRow(table, row, 'header');
    const step = stepOfMark(table, row, 'header', first!.rule);
    expect(namesOf(run(table, step).table)).toContain('Sailing');
  });

  test('a blank row offers blank rows; the last offer is the rows that read just like it', () => {
    const row = cellsOf(table).findIndex((cells) => cells.slice(1).every((cell) => cell === null));
    expect(rulesOfRow(table, row, 'blank')[0]).toMatchObject({ rule: { test: 'empty' } });
    const offers = rulesOfRow(table, rowOf('Sailing'), 'note');
    expect(offers.at(-1)!.rule.test === 'same' || offers.length === 1).toBe(true);
    for (const offer of offers) expect(offer.rows).toContain(rowOf('Sailing'));
  });
});

describe('what a selection offers', () => {
  const table = makeTable({
    Code: textColumn(['HU-0710/b', 'UT-0955/a', 'BT-1810/b']),
    Extras: textColumn(['bike | dog', 'dog', 'bike | dog | cabin']),
    '2030': textColumn(['1', '2', '3']),
    '2031': textColumn(['4', null, '6']),
  });

  test('every offer is a step that runs', () => {
    const offers = [
      ...cellOffers(table, 0, 'Code'),
      ...cellOffers(table, 1, '2031'),
      ...stretchOffers(table, 0, 'Code', 0, 2),
      ...stretchOffers(table, 2, 'Extras', 4, 7),
    ];
    expect(offers.length).toBeGreaterThan(12);
    for (const offer of offers) expect(() => run(table, offer), offer.label).not.toThrow();
    for (const offer of columnOffers(table, ['2030', '2031'])) {
      const kind = CATALOGUE.get(offer.kind)!;
      const params = Object.keys(offer.params).length === 0 ? kind.start(table, ['2030', '2031']) : offer.params;
      expect(() => kind.run(table, kind.params.parse(params), quiet), offer.label).not.toThrow();
    }
  });

  test('a delimiter offers splits; uneven lists go to rows first', () => {
    const [first, second] = stretchOffers(table, 2, 'Extras', 4, 7);
    expect(first).toMatchObject({ kind: 'split-to-rows' });
    expect(second).toMatchObject({ kind: 'split-to-columns', label: "Split at ' | ' into 3 columns" });
    const out = run(table, first!).table;
    const extras = namesOf(out).indexOf('Extras');
    expect(cellsOf(out).map((row) => row[extras])).toEqual(['bike', 'dog', 'dog', 'bike', 'dog', 'cabin']);
  });

  test('a word offers to be extracted, from every row', () => {
    const [first] = stretchOffers(table, 0, 'Code', 0, 2);
    expect(first!.kind).toBe('extract');
    const out = run(table, first!).table;
    expect(cellsOf(out).map((row) => row[out.fields.findIndex((field) => field.name === 'Code piece')])).toEqual([
      'HU',
      'UT',
      'BT',
    ]);
  });

  test('columns named by years offer to be unpivoted first', () => {
    expect(columnOffers(table, ['2030', '2031'])[0]!.kind).toBe('unpivot');
    expect(columnOffers(table, ['Extras']).map((offer) => offer.label)).toContain("Split at ' | ' into rows");
  });
});

describe('several rows that are marked at once', () => {
  const table = received();
  const rowsWhere = (test: RegExp) =>
    cellsOf(table).flatMap((cells, r) => (cells.some((cell) => test.test(cell ?? '')) ? [r] : []));

  test('follow one rule where there is one, with all others that follow it', () => {
    const [a, b] = rowsWhere(/^Route total$/);
    const [first] = rulesOfRows(table, [a!, b!], 'total');
    expect(first!.rows.length).toBeGreaterThan(2);
    const [step] = stepsOfMarks(table, [a!, b!], 'total', first!.rules);
    expect(run(table, step!).aside[0]).toMatchObject({ name: 'totals', mark: 'total' });
  });

  test('of two kinds follow two rules together', () => {
    const [route] = rowsWhere(/^Route total$/);
    const [note] = rowsWhere(/^Vehicles include/);
    const [offer] = rulesOfRows(table, [route!, note!], 'other').filter(({ rules }) => rules.length > 1);
    expect(offer!.rules).toHaveLength(2);
    const [step] = stepsOfMarks(table, [route!, note!], 'other', offer!.rules);
    expect(run(table, step!).aside[0]!.rows.length).toBe(offer!.rows.length);
  });

  test('that reach to the end of their sheet are these and all below, in each sheet', () => {
    const within = cellsOf(table).map((cells) => cells[0]);
    const end = within.findIndex((sheet) => sheet !== within[0]);
    const rows = [end - 2, end - 1];
    const below = rulesOfRows(table, rows, 'note').filter(({ text }) => text.startsWith('these and all below'));
    expect(below.length).toBeGreaterThan(0);
    for (const { rows: taken } of below) for (const row of rows) expect(taken).toContain(row);
    expect(below.some(({ rows: taken }) => taken.length > 2)).toBe(true);
  });

  test('as a header are as many rows as it has tiers', () => {
    const [first] = rowsWhere(/^Sailing$/);
    const [offer] = rulesOfRows(table, [first!, first! + 1], 'header');
    const [step] = stepsOfMarks(table, [first!, first! + 1], 'header', offer!.rules);
    expect(step!.params).toMatchObject({ rows: 2 });
    expect(namesOf(run(table, step!).table)).toContain('April / Foot');
  });
});

describe('a cell that is typed over', () => {
  const column = (...texts: (string | null)[]) => makeTable({ Ref: textColumn(texts) });
  /** What the first offer makes of the column. */
  const first = (table: Table, row: number, wanted: string) => {
    const [offer] = exampleOffers(table, row, 'Ref', wanted);
    return { offer, cells: offer === undefined ? [] : cellsOf(run(table, offer).table).map(([cell]) => cell) };
  };

  test('a piece between signs is taken out of every cell, not just the same characters', () => {
    const { offer, cells } = first(column('HU-0710/b', 'TT-1510/a', 'BRN-2210/ab'), 0, '0710');
    expect(cells).toEqual(['0710', '1510', '2210']);
    expect(offer!.outcome).toBe('3 of 3 cells');
  });

  test('what stands before or behind a sign, of which there are more', () => {
    expect(first(column('Hask, quay 1', 'Ullin, quay 22'), 0, 'Hask').cells).toEqual(['Hask', 'Ullin']);
    expect(first(column('a/b/c1', 'd/e', 'f/g/h/i2'), 0, 'c1').cells).toEqual(['c1', 'e', 'i2']);
  });

  test('capitals, spaces, dates and numbers are distinguished from one cell', () => {
    expect(first(column('HASK PIER', 'ULLIN'), 0, 'Hask Pier').cells).toEqual(['Hask Pier', 'Ullin']);
    expect(first(column(' Hask  pier', 'Ullin '), 0, 'Hask pier').cells).toEqual(['Hask pier', 'Ullin']);
    expect(first(column('24/07/2031', '03/08/2031'), 0, '2031-07-24').cells).toEqual(['2031-07-24', '2031-08-03']);
    expect(first(column('1.204,50', '7,25'), 0, '1204.5').cells).toEqual(['1204.5', '7.25']);
  });

  test('a blank is filled from above, or from below', () => {
    expect(first(column('Hask', null, 'Ullin', null), 1, 'Hask').cells).toEqual(['Hask', 'Hask', 'Ullin', 'Ullin']);
    expect(first(column(null, 'Hask', null, 'Ullin'), 0, 'Hask').cells).toEqual(['Hask', 'Hask', 'Ullin', 'Ullin']);
  });

  test('a word that is spelled otherwise is one cell at least', () => {
    const table = column('Harbourdues', 'Fuel', 'Harbourdues');
    expect(first(table, 0, 'Harbour dues').cells).toEqual(['Harbour dues', 'Fuel', 'Harbour dues']);
    expect(exampleOffers(table, 1, 'Ref', 'Fuel')).toEqual([]);
  });

  test('every offer makes the cell read as it was typed', () => {
    const table = column('HU-0710/b', 'TT-1510/a', null, 'plain');
    for (const wanted of ['HU', '0710', 'b', 'hu-0710/b', 'HU-0710', 'new', ''])
      for (const offer of exampleOffers(table, 0, 'Ref', wanted))
        expect(cellsOf(run(table, offer).table)[0]![0] ?? '').toBe(wanted);
  });
});
