import { describe, expect, test } from 'vitest';
import { columnCells, received } from '../test-support.ts';
import { countedColumn, textColumn, UnreadableBuilder } from './builder.ts';
import { cellType, columnLength, countUnreadable, isBlank, unreadableAt } from './column.ts';
import { distinctText, interleaveColumns, stackColumns, takeColumn } from './gather.ts';

function withTrouble() {
  const unreadable = new UnreadableBuilder(3);
  unreadable.set(1, 'n/a', 'no digits');
  return unreadable.attach('number', Float64Array.from([1, Number.NaN, Number.NaN]));
}

describe('gather', () => {
  test('taking rows keeps blanks, unreadable cells and their reasons; -1 gives a blank', () => {
    const taken = takeColumn(withTrouble(), Int32Array.from([1, -1, 0, 2]));
    expect(columnCells(taken, 4)).toEqual(['n/a', null, '1', null]);
    expect(unreadableAt(taken, 0)).toEqual({ text: 'n/a', reason: 'no digits' });
    expect(isBlank(taken, 1)).toBe(true);
    expect(countUnreadable(takeColumn(withTrouble(), Int32Array.from([0, 2])))).toBe(0);
  });

  test('columns of different types stand in one column, each cell with its own type', () => {
    const stacked = stackColumns([textColumn(['a', null]), withTrouble(), countedColumn('date', [0])]);
    expect(stacked.type).toBe('received');
    expect(columnCells(stacked, columnLength(stacked))).toEqual(['a', null, '1', 'n/a', null, '1970-01-01']);
    expect([0, 1, 2, 3, 4, 5].map((r) => cellType(stacked, r))).toEqual([
      'text',
      'blank',
      'number',
      'unreadable',
      'blank',
      'date',
    ]);
  });

  test('columns of one type keep it, and a column with nothing in it does not spoil it', () => {
    expect(stackColumns([countedColumn('number', [1]), countedColumn('whole', [2])]).type).toBe('number');
    const woven = interleaveColumns([withTrouble(), textColumn([null, null, null])], 3);
    expect(woven.type).toBe('number');
    expect(columnCells(woven, 6)).toEqual(['1', null, 'n/a', null, null, null]);
  });

  test('interleaving goes row by row through the columns', () => {
    const woven = interleaveColumns([textColumn(['a', 'b']), textColumn(['c', 'a'])], 2);
    expect(columnCells(woven, 4)).toEqual(['a', 'c', 'b', 'a']);
    expect(columnCells(interleaveColumns([received([1, 'x']), received(['x', null])], 2), 4)).toEqual([
      '1',
      'x',
      'x',
      null,
    ]);
  });

  test('a dictionary with a text twice can be made distinct', () => {
    const twice = {
      type: 'text' as const,
      codes: Int32Array.from([0, 1, -1]),
      dictionary: ['a', 'a'],
      distinct: false,
    };
    const once = distinctText(twice);
    expect(once.codes).toEqual(Int32Array.from([0, 0, -1]));
    expect(columnCells(once, 3)).toEqual(['a', 'a', null]);
  });
});
