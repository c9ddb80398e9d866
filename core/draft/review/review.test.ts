/** Each remark on a small table that deserves it, and none on a table that is right. Reports are invented. */

import { utils, write } from '@e965/xlsx';
import { describe, expect, test } from 'vitest';
import { profileTable } from '../../glance/table-profile.ts';
import { Runner } from '../../run/run.ts';
import { quiet } from '../../test-support.ts';
import { remarkText } from './messages.ts';
import type { Remark } from './remark.ts';
import { REVIEWERS, review } from './review.ts';

type Step = readonly [kind: string, params: object];

function remarksOf(text: string, reading: Step, ...steps: Step[]): Remark[] {
  const runner = new Runner();
  runner.setSource('s', { name: 'a.txt', bytes: new TextEncoder().encode(text) });
  const run = runner.run(
    [reading, ...steps].map(([kind, params], k) => ({ id: `s${k}`, kind, params: { ...params } })),
    quiet,
  );
  expect(run.stop).toBeUndefined();
  const { table } = run.steps.at(-1)!;
  return review({ table, profile: profileTable(table), run, sums: [] });
}

function workbook(sheets: readonly { name: string; rows: readonly (readonly (string | number)[])[] }[]) {
  const book = utils.book_new();
  for (const { name, rows } of sheets)
    utils.book_append_sheet(book, utils.aoa_to_sheet(rows.map((row) => [...row])), name);
  return new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer);
}

const codes = (remarks: readonly Remark[]) => [...new Set(remarks.map((remark) => remark.code))];
const lines = (...all: string[]) => all.join('\n');
const CSV: Step = ['read-delimited', { source: 's', delimiter: ';' }];
const HEADER: Step = ['header-from-rows', { rows: 1, at: null }];
const types = (...sets: object[]): Step => ['set-types', { types: sets }];
const named = (...names: string[]) => ({ by: 'names', names });

const TIDY = lines(
  'Quay;Day;Foot',
  'Hask;2031-05-01;12',
  'Ullin;2031-05-01;7',
  'Hask;2031-05-02;9',
  'Ullin;2031-05-02;4',
);
const TYPED = types({ columns: named('Day'), type: 'date' }, { columns: named('Foot'), type: 'whole' });

test('a table that is right has no remark', () => {
  expect(remarksOf(TIDY, CSV, HEADER, TYPED)).toEqual([]);
});

describe('a table that is not', () => {
  test.each<[Remark['code'], string, Step[]]>([
    ['header-in-rows', `${TIDY}\nQuay;2031-05-03;5`, [HEADER]],
    ['furniture-in-rows', `${TIDY}\nPage 2 of 3;;`, [HEADER]],
    [
      'page-heads-differ',
      lines('Quay;Foot', 'Hask;12', 'Note 4100;Merk', 'Ullin;7', 'Note 4106;Lunn', 'Tarve;9'),
      [
        HEADER,
        [
          'set-aside',
          { pile: 'page heads', mark: 'repeat', rules: [{ test: 'starts', column: 'Quay', text: 'Note' }] },
        ],
      ],
    ],
    [
      'text-dropped',
      lines('Quay;May;June', 'North;;', 'Hask;12;7', 'South;;', 'Ullin;9;4'),
      [
        HEADER,
        ['unpivot', { columns: named('May', 'June'), parts: [{ as: 'column', name: 'Month' }], blanks: 'drop' }],
      ],
    ],
    ['gaps-in-keys', lines('Quay;Sailing;Foot', 'Hask;a;12', ';b;7', 'Ullin;a;9', ';b;4'), [HEADER]],
    ['reads-as', lines('Quay;Foot', 'Hask;12', 'Ullin;7', 'Tarve;fog', 'Hask;9', 'Ullin;4'), [HEADER]],
    ['reads-as', lines('Quay;Day', 'Hask;13/01/2031', 'Ullin;01/13/2031', 'Tarve;02/03/2031'), [HEADER]],
    [
      'serial-days',
      lines('Day;Due;Foot', '2031-05-01;47975;3', '2031-05-02;47980;1', '2031-05-03;47990;2'),
      [HEADER, types({ columns: named('Day'), type: 'date' }, { columns: named('Due'), type: 'whole' })],
    ],
    ['values-as-names', lines('Quay;2029;2030;2031', 'Hask;1;2;3', 'Ullin;4;5;6'), [HEADER]],
    ['twin-columns', lines('Quay;Port;Foot', 'Hask;Hask;3', 'Ullin;Ullin;4', 'Tarve;Tarve;5'), [HEADER]],
    ['two-names', lines('Region     Quay;Foot', 'North Hask;3', 'South Ullin;4'), [HEADER]],
    ['one-row-left', lines('Quay;Foot', 'Hask;3'), [HEADER]],
    [
      'aside-like-rows',
      TIDY,
      [HEADER, ['set-aside', { pile: 'notes', rules: [{ test: 'equals', column: 'Foot', text: '4' }] }]],
    ],
    [
      'unused-pair',
      lines('Depot: North;;', 'Quay;Day;Foot', 'Hask;2031-05-01;12', 'Depot: South;;', 'Ullin;2031-05-01;7'),
      [['set-aside', { pile: 'notes', rules: [{ test: 'starts', column: 'A', text: 'Depot' }] }], HEADER],
    ],
    [
      'measures-as-rows',
      lines('Quay;Foot;Cars;Bikes', 'Hask;1;2;3', 'Ullin;4;5;6'),
      [HEADER, ['unpivot', { columns: { by: 'all-but', names: ['Quay'] } }]],
    ],
    [
      'unlabelled-rows',
      lines('Quay;Foot', 'Hask;1', 'North;', 'Ullin;2', 'South;', 'Tarve;3'),
      [HEADER, ['carry', { from: 'Quay', rule: { test: 'only', columns: ['Quay'] }, into: 'Region' }]],
    ],
    [
      'label-per-row',
      lines('Quay;Foot', 'North;', 'Hask;1', 'South;', 'Ullin;2', 'East;', 'Tarve;3'),
      [HEADER, ['carry', { from: 'Quay', rule: { test: 'only', columns: ['Quay'] }, into: 'Region' }]],
    ],
    [
      'total-in-labels',
      lines('Quay;Foot', 'Total North;', 'Hask;1', 'Ullin;2', 'Total South;', 'Tarve;2', 'Brannoch;3'),
      [HEADER, ['carry', { from: 'Quay', rule: { test: 'only', columns: ['Quay'] }, into: 'Region' }]],
    ],
    [
      'label-with-more',
      lines('Quay;Foot;Note', 'North;;fog', 'Hask;1;', 'Ullin;2;', 'South;;', 'Tarve;2;', 'Brannoch;3;'),
      [HEADER, ['carry', { from: 'Quay', rule: { test: 'blank', columns: named('Foot') }, into: 'Region' }]],
    ],
    [
      'groups-in-totals',
      lines('Quay;Foot', 'Hask;1', 'Ullin;2', 'Total North;3', 'Tarve;2', 'Brannoch;3', 'Total South;5'),
      [HEADER, ['set-aside', { pile: 'totals', rules: [{ test: 'starts', column: 'Quay', text: 'Total' }] }]],
    ],
    ['figures-with-marks', lines('Quay;Load', 'Hask;12 kg', 'Ullin;7 kg', 'Tarve;9 kg', 'Rona;4 kg'), [HEADER]],
    ['figures-with-marks', lines('Quay;Load', 'Hask;12', 'Ullin;7 (2)', 'Tarve;9', 'Rona;4 (1)', 'Ness;3'), [HEADER]],
    ['signs-as-values', lines('Quay|Foot', 'Hask|12', "''|7", "''|9", 'Ullin|4'), [HEADER]],
    [
      'texts-of-one-form',
      lines('Day;Remark', ...[3, 4, 5, 6].map((k) => `2031-05-0${k};boat ${k} left the quay with ${10 * k} foot`)),
      [HEADER],
    ],
    ['nested-codes', lines('Code;Foot', '1;19', '1.1;12', '1.2;7', '2;3', '2.1;3'), [HEADER]],
    ['numbered-names', lines('Quay;S1;S2;S3', 'Hask;07:10;;08:20', 'Ullin;07:40;08:10;'), [HEADER]],
    [
      'labels-unproven',
      lines('Quay;Foot', 'North;', 'Hask;1', 'Ullin;2', 'South;', 'Tarve;2', 'Brannoch;3'),
      [HEADER, ['carry', { from: 'Quay', rule: { test: 'only', columns: ['Quay'] }, into: 'Region' }]],
    ],
  ])('%s', (code, text, steps) => {
    const csv: Step = text.includes('|') ? ['read-delimited', { source: 's', delimiter: '|' }] : CSV;
    const remarks = remarksOf(text, csv, ...steps);
    expect(codes(remarks)).toContain(code);
    // Every remark has a sentence, without a full stop.
    for (const remark of remarks) expect(remarkText(remark)).toMatch(/^[^.].*[^.]$/);
  });

  test('cut-texts', () => {
    const text = lines('REGION   QUAY       FOOT', 'Northeast Hask       12', 'South    Ullin       7');
    const remarks = remarksOf(text, ['read-fixed-width', { source: 's', cuts: [7, 19] }], HEADER);
    expect(remarks.find((remark) => remark.code === 'cut-texts')).toMatchObject({ text: 'Northeast Hask' });
  });

  test('titles-differ', () => {
    const sheets = ['North', 'South'].map((area, k) => ({
      name: `Week ${k + 1}`,
      rows: [['Returns'], [area], ['Quay', 'Foot'], ['Hask', 3 + k], ['Ullin', 5 + k]],
    }));
    const runner = new Runner();
    runner.setSource('s', { name: 'a.xlsx', bytes: workbook(sheets) });
    const run = runner.run(
      [
        { id: 'a', kind: 'read-sheets', params: { source: 's', sheets: { by: 'all' }, nameColumn: 'Sheet' } },
        {
          id: 'b',
          kind: 'header-from-rows',
          params: { rows: 1, at: { test: 'equals', column: 'A', text: 'Quay', exact: true }, within: 'Sheet' },
        },
      ],
      quiet,
    );
    const { table } = run.steps.at(-1)!;
    const remarks = review({ table, profile: profileTable(table), run, sums: [] });
    expect(remarks).toContainEqual({ code: 'titles-differ', text: 'North' });
    expect(remarkText(remarks.find(({ code }) => code === 'titles-differ')!)).toMatch(/North.*not used as a column$/);
  });

  test('every reviewer has a case here', () => {
    expect(REVIEWERS.length).toBe(27);
  });

  test('names that a column of the report sums over are classes, and no measures', () => {
    const text = lines('Quay;Foot;Cars;Bikes', 'Hask;1;2;3', 'Ullin;4;5;6');
    const runner = new Runner();
    runner.setSource('s', { name: 'a.csv', bytes: new TextEncoder().encode(text) });
    const steps: Step[] = [CSV, HEADER, ['unpivot', { columns: { by: 'all-but', names: ['Quay'] } }]];
    const run = runner.run(
      steps.map(([kind, params], k) => ({ id: `s${k}`, kind, params: { ...params } })),
      quiet,
    );
    const { table } = run.steps.at(-1)!;
    const of = ['Foot', 'Cars', 'Bikes'];
    const codesWith = (name: string) =>
      codes(review({ table, profile: profileTable(table), run, sums: [{ name, of }] }));
    expect(codesWith('Total')).not.toContain('measures-as-rows');
    // Plan and variance add up to what was done, and are measures all the same.
    expect(codesWith('Actual')).toContain('measures-as-rows');
  });
});

test('labels that totals name are proven', () => {
  const text = lines(
    'Quay;Foot',
    'North;',
    'Hask;1',
    'Ullin;2',
    'Total North;3',
    'South;',
    'Tarve;2',
    'Brannoch;3',
    'Total South;5',
  );
  const remarks = remarksOf(
    text,
    CSV,
    HEADER,
    ['set-aside', { pile: 'totals', rules: [{ test: 'starts', column: 'Quay', text: 'Total' }] }],
    ['carry', { from: 'Quay', rule: { test: 'only', columns: ['Quay'] }, into: 'Region' }],
  );
  expect(remarks).toEqual([]);
});
