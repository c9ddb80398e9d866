import { expect, test } from 'vitest';
import { makeTable, textColumn } from '../index.ts';
import { placeOfReason, placeOfRemark } from './doubt-place.ts';
import type { Remark } from './review/remark.ts';

const table = makeTable({
  Quay: textColumn(['Hask', null, 'Ullin']),
  Load: textColumn(['12', '7 kg', '9 kg']),
});

test.each<[Remark, number, number]>([
  [{ code: 'figures-with-marks', column: 'Load', text: '7 kg' }, 1, 1],
  [{ code: 'gaps-in-keys', column: 'Quay', rows: 1 }, 1, 0],
  [{ code: 'reads-as', column: 'Load', as: 'number', share: 0.9 }, 1, 1],
  [{ code: 'label-per-row', column: 'Quay' }, 0, 0],
])('%j leads to its first cell', (remark, row, column) => {
  expect(placeOfRemark(remark, table)).toMatchObject({ row, column });
  expect(placeOfReason({ code: 'remark', remark }, table)).toMatchObject({ row, column });
});

test('what names no column of the table, and what is no remark, leads nowhere', () => {
  expect(placeOfRemark({ code: 'one-row-left' }, table)).toBeUndefined();
  expect(placeOfRemark({ code: 'label-per-row', column: 'Region' }, table)).toBeUndefined();
  expect(placeOfReason({ code: 'close-rival' }, table)).toBeUndefined();
});

test('a reason that names a column leads to it', () => {
  expect(placeOfReason({ code: 'mixed-kinds', column: 'Load' }, table)).toEqual({ row: 0, column: 1 });
  expect(placeOfReason({ code: 'doubt', doubt: { code: 'may-be-no-list', column: 'Quay' } }, table)).toEqual({
    row: 0,
    column: 0,
  });
});
