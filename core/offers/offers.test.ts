import { describe, expect, test } from 'vitest';
import { quayReturns } from '../../demo/quay-returns.ts';
import { CATALOGUE, makeTable, Runner, type Table, textColumn } from '../index.ts';
import { cellsOf, namesOf, quiet } from '../test-support.ts';
import { rulesOfRow, stepOfMark } from './row-offers.ts';
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
