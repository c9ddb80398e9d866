import { expect, test } from 'vitest';
import { itemsFromText } from './items-from-text.ts';

test.each([
  [
    'cells copied from a sheet',
    '1\tFoot\n2\tVehicle\n',
    [
      ['1', 'Foot'],
      ['2', 'Vehicle'],
    ],
  ],
  ['a delimited file with its header', 'From;To\nHU;"Hask; Ullin"\n', [['HU', 'Hask; Ullin']]],
  ['rows that lack the second column', 'a,b\nc\n,d\n', [['a', 'b']]],
  ['nothing', '', []],
] as const)('%s', (_, text, pairs) => {
  expect(itemsFromText(text, ['from', 'to'])).toEqual(pairs.map(([from, to]) => ({ from, to })));
});
