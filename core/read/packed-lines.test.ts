import { expect, test } from 'vitest';
import { guessReading } from './catalogue.ts';
import { packedTemplate } from './packed-lines.ts';

const HEAD = 'Code\tPort\tQuay\tDate\tFoot';
const ROWS = [
  'S01 | Hask - North | 13/01/2031 - 265',
  'S02 | Ullin - South | 15/01/2031 - 1364',
  'S03 | Tarve - North | 18/01/2031 - 88',
  'S04 | Rona - West | 19/01/2031 - 7',
];

test('names divided by tabs name the values of packed lines', () => {
  const template = '{Code} | {Port} - {Quay} | {Date} - {Foot}';
  expect(packedTemplate(['Returns', '', HEAD, ...ROWS, 'Total | 1724'])).toBe(template);
  const bytes = new TextEncoder().encode([HEAD, ...ROWS].join('\n'));
  expect(guessReading('s', { name: 'returns.txt', bytes })).toMatchObject({
    kind: 'read-pattern',
    params: { template },
  });
});

test.each<[string, string[]]>([
  ['no line of names', ROWS],
  ['rows that tabs divide too', [HEAD, ...ROWS.map((row) => row.replaceAll(' | ', '\t'))]],
  ['a row that the template would leave out', [HEAD, ...ROWS, 'S05 | Hask - Old - North | 20/01/2031 | 4']],
  ['names that stand twice', ['Code\tPort\tPort\tDate\tFoot', ...ROWS]],
])('%s: not packed so', (_, lines) => {
  expect(packedTemplate(lines)).toBeUndefined();
});
