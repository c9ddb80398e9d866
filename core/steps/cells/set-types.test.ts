import { describe, expect, test } from 'vitest';
import { countedColumn, makeTable, textColumn, unreadableAt } from '../../index.ts';
import { columnCells, quiet, received } from '../../test-support.ts';
import { type SetType, setTypes } from './set-types.ts';

const only = (type: SetType['type'], more: Partial<SetType> = {}) => ({
  types: [{ columns: { by: 'all' as const }, type, ...more }],
});

describe('set types', () => {
  test('what cannot be read keeps its text, with the reason, and the notice leads to its rows', () => {
    const result = setTypes.run(makeTable({ Foot: textColumn(['1,204', 'n/a', null, '866']) }), only('whole'), quiet);
    const { column } = result.table.fields[0]!;
    expect(column.type).toBe('whole');
    expect(columnCells(column, 4)).toEqual(['1204', 'n/a', null, '866']);
    expect(unreadableAt(column, 1)!.reason).toBe("'n' is not part of a number");
    expect(result.notices[0]!.text).toBe('2 values read, 1 unreadable');
    expect(result.notices[1]).toMatchObject({
      severity: 'warning',
      column: 'Foot',
      rows: { of: 'after', rows: Int32Array.from([1]) },
    });
  });

  test('a whole number has no fraction; text gives every cell back as it reads', () => {
    const halves = setTypes.run(makeTable({ A: countedColumn('number', [1.5, 2]) }), only('whole'), quiet).table
      .fields[0]!.column;
    expect(columnCells(halves, 2)).toEqual(['1.5', '2']);
    expect(unreadableAt(halves, 0)!.reason).toBe('has a fraction');
    const text = setTypes.run(makeTable({ A: halves }), only('text'), quiet).table.fields[0]!.column;
    expect(text.type).toBe('text');
    expect(columnCells(text, 2)).toEqual(['1.5', '2']);
  });

  test('an unreadable cell gets another chance with another type', () => {
    const first = setTypes.run(makeTable({ A: textColumn(['07:10', '5']) }), only('number'), quiet).table;
    const second = setTypes.run(first, only('time'), quiet).table.fields[0]!.column;
    expect(columnCells(second, 2)).toEqual(['07:10', '5']);
    expect(unreadableAt(second, 0)).toBeUndefined();
    expect(unreadableAt(second, 1)).toBeDefined();
  });

  test('columns as received: stored numbers stay, texts are read', () => {
    const { column } = setTypes.run(makeTable({ A: received([5, '6', 'x', null]) }), only('number'), quiet).table
      .fields[0]!;
    expect(columnCells(column, 4)).toEqual(['5', '6', 'x', null]);
    expect(unreadableAt(column, 2)).toBeDefined();
  });

  test('numbers that a report stores as such are guessed as numbers, with texts between them or not', () => {
    const guess = (cells: (string | number | null)[]) =>
      (setTypes.start(makeTable({ A: received(cells) }), ['A']) as { types: object[] }).types[0];
    expect(guess([5, 6, null])).toMatchObject({ type: 'whole' });
    expect(guess([5.5, 6, null])).toMatchObject({ type: 'number' });
    expect(guess([5.5, '1.204,25'])).toMatchObject({ type: 'number', number: { decimal: ',' } });
    expect(guess([5, '007'])).toMatchObject({ type: 'text' });
    expect(guess([5, 'fog'])).toMatchObject({ type: 'text' });
  });

  test('codes that would lose zeros and numbers past 2^53 are reported', () => {
    const texts = setTypes.run(
      makeTable({ Code: textColumn(['007', '12', '0,5', '9007199254740993']) }),
      only('number'),
      quiet,
    ).notices;
    expect(texts.map((notice) => notice.text).join('; ')).toContain('1 cell of Code lose zeros in front: 007');
    expect(texts.map((notice) => notice.text).join('; ')).toContain('9007199254740993');
  });

  test('date patterns are tried in order; a broken one stops the step', () => {
    const dates = makeTable({ D: textColumn(['30/06/2031', '1 Jul 2031']) });
    const { column } = setTypes.run(dates, only('date', { patterns: ['dd/MM/yyyy', 'd MMM yyyy'] }), quiet).table
      .fields[0]!;
    expect(columnCells(column, 2)).toEqual(['2031-06-30', '2031-07-01']);
    expect(() => setTypes.run(dates, only('date', { patterns: ['dd/QQ'] }), quiet)).toThrow("'Q'");
  });

  test('a guess takes the narrowest type that reads every cell, and leaves codes with zeros as text', () => {
    const table = makeTable({
      Sailing: textColumn(['07:10', '18:05']),
      Foot: textColumn(['1,204', '866']),
      Rate: textColumn(['0.5', '12']),
      Euro: textColumn(['1.204,50', '7,25']),
      Code: textColumn(['007', '12']),
      Day: textColumn(['30/06/2031', '01/07/2031']),
      Port: textColumn(['Hask', '1']),
    });
    const guess = setTypes.start(
      table,
      table.fields.map((field) => field.name),
    ) as { types: SetType[] };
    const of = Object.fromEntries(
      guess.types.flatMap((set) => ('names' in set.columns ? set.columns.names : []).map((name) => [name, set])),
    );
    expect(Object.entries(of).map(([name, set]) => [name, set.type])).toEqual([
      ['Sailing', 'time'],
      ['Foot', 'whole'],
      ['Rate', 'number'],
      ['Euro', 'number'],
      ['Code', 'text'],
      ['Port', 'text'],
      ['Day', 'date'],
    ]);
    expect(of['Euro']!.number!.decimal).toBe(',');
    expect(of['Day']!.patterns).toEqual(['dd/MM/yyyy']);
  });
});
