import { expect, test } from 'vitest';
import { makeTable, textColumn } from '../index.ts';
import { placeOfDoubt, placeOfRemark } from './doubt-place.ts';
import { remarkText } from './review/messages.ts';
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
  expect(placeOfDoubt(remarkText(remark), [remark], table)).toMatchObject({ row, column });
});

test('what names no column of the table, and what is no remark, leads nowhere', () => {
  expect(placeOfRemark({ code: 'one-row-left' }, table)).toBeUndefined();
  expect(placeOfRemark({ code: 'label-per-row', column: 'Region' }, table)).toBeUndefined();
  expect(placeOfDoubt('another reading fits almost as well', [{ code: 'one-row-left' }], table)).toBeUndefined();
});
