/** What each detector sees alone, and what it leaves alone. Whole methods are tested in core/draft/. */
import { describe, expect, test } from 'vitest';
import { profileTable } from '../glance/table-profile.ts';
import { makeTable, textColumn } from '../index.ts';
import { received } from '../test-support.ts';
import { attributeRows } from './attribute-rows.ts';
import { bodyOf } from './body.ts';
import { STAGES } from './catalogue.ts';
import { chooseRules } from './choose-rule.ts';
import { codes } from './codes.ts';
import { duplicates } from './duplicates.ts';
import type { DetectorInput } from './finding.ts';
import { footnoteMarks } from './footnote-marks.ts';
import { headersAsValues } from './headers-as-values.ts';
import { blankColumns, constantColumns } from './idle-columns.ts';
import { keys } from './keys.ts';
import { labels } from './labels.ts';
import { measureNames } from './measure-names.ts';
import { missing } from './missing.ts';
import { packedLists } from './packed-lists.ts';
import { shiftedCells } from './shifted-cells.ts';
import { sideNotes } from './side-notes.ts';
import { spacing } from './spacing.ts';
import { sumColumns } from './sum-columns.ts';
import { templates } from './templates.ts';
import { detectorInput } from './test-input.ts';
import { totals } from './totals.ts';
import { transposed } from './transposed.ts';
import { twoInOne } from './two-in-one.ts';
import { types } from './types.ts';

function handFor(
  columns: Record<string, (string | number | null)[]>,
  more: Partial<DetectorInput> = {},
): DetectorInput {
  const table = makeTable(
    Object.fromEntries(
      Object.entries(columns).map(([name, cells]) => [
        name,
        cells.some((cell) => typeof cell === 'number') ? received(cells) : textColumn(cells as (string | null)[]),
      ]),
    ),
  );
  return detectorInput(table, more);
}
const stepsOf = (findings: readonly { steps: readonly { kind: string; params: object }[] }[]) =>
  (findings[0]?.steps ?? []).map(({ kind, params }) => ({ kind, ...params }));

describe('rules that hold next month', () => {
  const profile = handFor({
    Quay: ['Hask', 'Ullin', 'Total North', 'Tarve', 'Total South', 'Grand total'],
    Code: ['H', 'U', null, 'T', null, null],
    Foot: [12, 7, 19, 3, 3, 22],
  }).profile;

  test('a word that all of the rows have, before the texts of each; none that takes in another row', () => {
    expect(chooseRules(profile, [2, 4, 5], [0, 1, 3])).toEqual([
      { test: 'blank', columns: { by: 'names', names: ['Code'] } },
    ]);
    expect(chooseRules(profile, [2, 4], [0, 1, 3, 5])).toEqual([{ test: 'starts', column: 'Quay', text: 'Total' }]);
    expect(chooseRules(profile, [5], [0, 1, 2, 3, 4])).toEqual([
      { test: 'starts', column: 'Quay', text: 'Grand total' },
    ]);
    expect(chooseRules(profile, [0], [1, 2, 3, 4, 5])).toEqual([{ test: 'equals', column: 'Quay', text: 'Hask' }]);
  });

  test('rows that read like others cannot be distinguished', () => {
    const same = handFor({ A: ['x', 'x'], B: [1, 1] }).profile;
    expect(chooseRules(same, [0], [1])).toBeUndefined();
  });
});

describe('what the rows under a header are', () => {
  test('data, lone texts, notes, pages, blank rows and drawn lines', () => {
    const input = handFor({
      Quay: ['North', 'Hask', null, '-----', 'Page 2 of 9', 'Ullin', 'Source: gates of the harbour'],
      Foot: [null, '12', null, '-----', null, '7', null],
      Cars: [null, '3', null, '-----', null, '1', null],
    });
    expect(bodyOf(input).roles).toEqual(['lone', 'data', 'blank', 'rule', 'page', 'data', 'note']);
    expect(bodyOf(input).figures.map(({ name }) => name)).toEqual(['Foot', 'Cars']);
  });

  test('years and numbers that count the rows are keys', () => {
    const input = handFor({ No: [1, 2, 3, 4, 5], Year: [2029, 2029, 2030, 2030, 2031], Foot: [12, 7, 3, 9, 4] });
    expect(bodyOf(input).keys.map(({ name }) => name)).toEqual(['No', 'Year']);
  });
});

describe('columns', () => {
  test('keys on the first row of their group are filled down; remarks are not', () => {
    const quays = {
      Quay: ['Hask', null, null, 'Ullin', null, 'Tarve', null],
      Item: ['a', 'b', 'c', 'a', 'b', 'a', 'b'],
      Foot: [1, 2, 3, 4, 5, 6, 7],
    };
    expect(stepsOf(keys.find(handFor(quays)))).toMatchObject([{ kind: 'fill', columns: { names: ['Quay'] } }]);
    expect(keys.find(handFor({ Item: ['a', 'b', 'c'], Remark: ['late', null, null], Foot: [1, 2, 3] }))).toEqual([]);
    expect(keys.find(handFor(quays, { raw: makeTable({}) }))).toEqual([]);
  });

  test('sums beside, sums said again on each row of a group', () => {
    const rows = { Quay: ['a', 'b', 'c', 'd'], Foot: [12, 7, 31, 40], Cars: [30, 41, 5, 9], All: [42, 48, 36, 49] };
    expect(stepsOf(sumColumns.find(handFor(rows)))).toMatchObject([
      { kind: 'set-aside-columns', columns: { names: ['All'] }, pile: 'totals' },
    ]);
    const nested = {
      Quay: ['a', 'a', 'b', 'b'],
      total: [42, 42, 14, 14],
      Item: ['x', 'y', 'x', 'y'],
      Foot: [12, 30, 5, 9],
    };
    expect(stepsOf(sumColumns.find(handFor(nested)))).toMatchObject([
      { columns: { names: ['total'] }, pile: 'group figures' },
    ]);
  });

  test('marks behind figures and codes for missing values', () => {
    const input = handFor({ Quay: ['Hask', 'Ullin', 'Tarve'], Foot: ['12*', '7', 'n/a'], Cars: ['3', '4 (p)', '-'] });
    expect(stepsOf(footnoteMarks.find(input))).toMatchObject([
      { kind: 'replace', find: '\\s?(?:\\*|\\(p\\))$', how: 'pattern' },
    ]);
    expect(stepsOf(missing.find(input))).toMatchObject([{ kind: 'blank-texts', texts: ['n/a', '-'] }]);
  });

  test('lists in step, with their sum beside; a list of one kind of thing alone; no sentences', () => {
    const lists = { Ref: ['1', '2', '3'], Item: ['a;b', 'c', 'a;c;d'], Count: ['1;2', '5', '3;3;1'], Sum: [3, 5, 7] };
    expect(stepsOf(packedLists.find(handFor(lists)))).toMatchObject([
      { kind: 'set-aside-columns', columns: { names: ['Sum'] } },
      { kind: 'split-to-rows', columns: ['Item', 'Count'], cut: { delimiters: [';'] } },
    ]);
    expect(packedLists.find(handFor({ Name: ['Hask, Isla', 'Tolm, Ewan', 'Skene, Mairi'], Age: [1, 2, 3] }))).toEqual(
      [],
    );
  });

  test('a name with its code, and codes that stay whole', () => {
    expect(stepsOf(twoInOne.find(handFor({ Quay: ['Hask (H1)', 'Ullin (U7)', 'Tarve (T3)'] })))).toMatchObject([
      { kind: 'split-to-columns', column: 'Quay', into: ['Quay', 'Quay code', ''] },
    ]);
    expect(
      twoInOne.find(
        handFor({ Ref: ['HU-0412', 'HU-0413', 'TA-0001'], Day: ['2031-06-02', '2031-06-03', '2031-06-04'] }),
      ),
    ).toEqual([]);
  });

  test('texts that are built alike come apart', () => {
    const message = Array.from(
      { length: 10 },
      (_, k) => `${['Hask', 'Ullin'][k % 2]} gate ${k}: barrier ${['up', 'down'][k % 2]} (foot ${k * 7})`,
    );
    expect(stepsOf(templates.find(handFor({ Message: message })))).toMatchObject([
      { kind: 'extract', by: 'pattern' },
      { kind: 'drop-columns' },
    ]);
    expect(
      templates.find(handFor({ Message: message.map((_, k) => `any text that comes ${k} along here`).slice(0, 4) })),
    ).toEqual([]);
  });

  test('slipped cells reach over the last named column', () => {
    const input = handFor({
      Quay: ['Hask', 'Ullin', 'Tarve'],
      Foot: ['1', null, '3'],
      Cars: ['4', '2', '6'],
      D: [null, '5', null],
    });
    expect(stepsOf(shiftedCells.find(input))).toMatchObject([{ kind: 'close-gaps' }, { kind: 'drop-columns' }]);
  });

  test('types where every cell reads so; codes with zeros in front stay text', () => {
    const input = handFor({
      Code: ['0017', '0020'],
      Foot: ['1.204,5', '866,25'],
      Day: ['02.06.2031', '13.06.2031'],
      Quay: ['Hask', 'Ullin'],
    });
    expect(stepsOf(types.find(input))).toMatchObject([
      {
        kind: 'set-types',
        types: [
          { columns: { names: ['Foot'] }, type: 'number', number: { decimal: ',' } },
          { columns: { names: ['Day'] }, type: 'date', patterns: ['dd.MM.yyyy'] },
        ],
      },
    ]);
  });
});

describe('names that are values', () => {
  const figures = { Quay: ['Hask', 'Ullin', 'Tarve'] };

  test('years by their kind, months, and classes that the report sums', () => {
    const years = headersAsValues.find(handFor({ ...figures, 2029: [1, 2, 3], 2030: [4, 5, 6] }));
    expect(stepsOf(years)).toMatchObject([
      { kind: 'unpivot', columns: { by: 'year' }, parts: [{ as: 'column', name: 'Year' }] },
    ]);
    const classes = handFor(
      { ...figures, Foot: [10, 20, 30], Cars: [4, 50, 6] },
      { sums: [{ name: 'All', of: ['Foot', 'Cars'] }] },
    );
    expect(stepsOf(headersAsValues.find(classes))).toMatchObject([
      { kind: 'unpivot', columns: { by: 'all-but', names: ['Quay'] } },
    ]);
  });

  test('a tier of months goes down, and what is measured stays; either way is a choice', () => {
    const input = handFor({
      ...figures,
      'April / Foot': [1, 2, 3],
      'April / Cars': [4, 5, 6],
      'May / Foot': [7, 8, 9],
      'May / Cars': [1, 1, 1],
    });
    const found = headersAsValues.find(input);
    expect(stepsOf(found)).toMatchObject([
      { kind: 'unpivot', split: ' / ', parts: [{ as: 'column', name: 'Month' }, { as: 'each' }] },
    ]);
    expect(found.map(({ gives }) => gives)).toContain('keep the columns');
  });

  test('rows of name and value, and measures down a column', () => {
    const rows = handFor({
      Ref: ['1', '1', '2', '2'],
      Field: ['Name', 'Foot', 'Name', 'Foot'],
      Value: ['Hask', '12', 'Ullin', '7'],
    });
    expect(stepsOf(attributeRows.find(rows))).toMatchObject([{ kind: 'pivot', names: ['Field'] }]);
    const down = handFor({
      Quay: ['Hask', 'Hask', 'Ullin', 'Ullin'],
      Kind: ['Foot', 'Fare', 'Foot', 'Fare'],
      Value: [12, 4.75, 7, 3.25],
    });
    expect(stepsOf(measureNames.find(down))).toMatchObject([{ kind: 'pivot', names: ['Kind'] }]);
  });
});

describe('rows that are no data', () => {
  const positioned = (columns: Record<string, (string | number | null)[]>, more: Partial<DetectorInput> = {}) => {
    const input = handFor(columns, more);
    // Columns as they are before a header is promoted: letters of their places.
    const fields = input.profile.table.fields.map((field) => ({ ...field, nameOrigin: 'position' as const }));
    return { ...input, profile: profileTable({ ...input.profile.table, fields }) };
  };

  test('totals are recognized by what adds up, on two levels, and a row that only has a word for it by its blank keys', () => {
    const rows = {
      Area: ['North', 'North', null, 'South', 'South', null, null],
      Quay: ['Hask', 'Ullin', 'Sum', 'Tarve', 'Skene', 'Sum', 'All'],
      Foot: [12, 7, 19, 3, 5, 8, 27],
      Cars: [4, 6, 10, 1, 2, 3, 13],
    };
    const [found] = totals.find(handFor(rows));
    expect(found!.steps).toMatchObject([{ kind: 'set-aside', params: { pile: 'totals' } }]);
    expect(found!.explained).toEqual({ fit: 6, of: 6 });
    const plain = { Quay: ['Hask', 'Ullin', 'Tarve', 'Skene'], Foot: [12, 7, 19, 3], Cars: [4, 6, 11, 1] };
    expect(totals.find(handFor(plain))).toEqual([]);
  });

  test('figures that miss their sum are counted, and make the finding doubtful', () => {
    const rows = {
      Quay: ['Hask', 'Ullin', 'Tarve', 'Total'],
      Foot: [1204, 733, 312, 2249],
      Cars: [412, 630, 155, 1199],
      Vans: [101, 120, 233, 454],
    };
    const [found] = totals.find(handFor(rows));
    expect(found).toMatchObject({ explained: { fit: 2, of: 3 }, doubt: { code: 'totals-off', off: 1, of: 3 } });
  });

  test('a text alone above rows of data is carried to them', () => {
    const rows = {
      Quay: ['North', 'Hask', 'Ullin', 'South', 'Tarve', 'Skene'],
      Foot: [null, 12, 7, null, 3, 5],
      Cars: [null, 4, 6, null, 1, 2],
    };
    expect(stepsOf(labels.find(handFor(rows)))).toMatchObject([{ kind: 'carry', from: 'Quay', into: 'Group' }]);
    // Where a reading named the fields, a blank is a field that is not said.
    expect(labels.find(handFor(rows, { raw: makeTable({}) }))).toEqual([]);
    const once = labels.find(handFor({ Quay: ['North', 'Hask', 'Ullin'], Foot: [null, 12, 7], Cars: [null, 4, 6] }));
    expect(once).toMatchObject([{ doubt: { code: 'single-label' } }]);
  });

  test('records that stand in columns are turned', () => {
    const turned = {
      A: ['Ship', 'Built', 'Home', 'Berths'],
      B: ['Aurrick', '2011', 'Hask', '120'],
      C: ['Bressay', '2019', 'Ullin', '80'],
      D: ['Corran', '2004', 'Tarve', '240'],
    };
    expect(stepsOf(transposed.find(positioned(turned))).map(({ kind }) => kind)).toEqual(['transpose', 'drop-columns']);
    const upright = {
      A: ['Ship', 'Aurrick', 'Bressay', 'Corran'],
      B: ['Built', '2011', '2019', '2004'],
      C: ['Berths', '120', '80', '240'],
      D: ['Cars', '12', '8', '24'],
    };
    expect(transposed.find(positioned(upright))).toEqual([]);
  });
});

describe('what is worth a look in any table', () => {
  const rows = {
    Quay: ['Hask', 'Ullin', 'Tarve', 'Hask', 'Skene', 'Tolm'],
    Foot: [12, 7, 3, 12, 5, 9],
  };

  test('rows that stand twice, but not where most do', () => {
    const [found] = duplicates.find(handFor(rows));
    expect(found!.steps[0]!.why).toBe('1 row appears more than once, identical in every column');
    expect(duplicates.find(handFor({ Quay: ['Hask', 'Hask', 'Hask'], Foot: [1, 1, 1] }))).toEqual([]);
    expect(duplicates.find(handFor({ Quay: ['Hask', 'Ullin'], Foot: [1, 1] }))).toEqual([]);
  });

  test('columns that are blank throughout, and that say the same in every row', () => {
    const none = rows.Quay.map(() => null);
    expect(stepsOf(blankColumns.find(handFor({ ...rows, Remark: none })))).toEqual([
      expect.objectContaining({ kind: 'drop-columns', columns: { by: 'blank' } }),
    ]);
    expect(blankColumns.find(handFor({ Remark: none }))).toEqual([]);
    expect(stepsOf(constantColumns.find(handFor({ ...rows, Line: rows.Quay.map(() => 'West') })))).toMatchObject([
      { kind: 'drop-columns', columns: { names: ['Line'] } },
    ]);
    // A blank among them says something.
    const oneBlank = rows.Quay.map((_, k) => (k === 3 ? null : 'West'));
    expect(constantColumns.find(handFor({ ...rows, Line: oneBlank }))).toEqual([]);
  });

  test('codes with zeros in front among figures are kept as text', () => {
    expect(stepsOf(codes.find(handFor({ ...rows, Code: ['0017', '0020', '0031', '0040', 5, 6] })))).toMatchObject([
      { kind: 'set-types', types: [{ columns: { names: ['Code'] }, type: 'text' }] },
    ]);
    expect(codes.find(handFor(rows))).toEqual([]);
  });

  test('blanks round a text, doubled or not to be seen', () => {
    const [found] = spacing.find(handFor({ Quay: ['Hask ', 'Ullin', 'Tarve\u00a0Roads', 'Skene  Pier', 'Tolm'] }));
    expect(found!.steps[0]!.why).toBe('3 cells with extra, no-break or invisible spaces');
    expect(spacing.find(handFor({ Quay: ['Hask', 'Tarve Roads'] }))).toEqual([]);
  });

  test('a legend behind a blank column is set aside, and a column that is mostly filled is not', () => {
    const beside = (legend: (string | null)[]) => handFor({ ...rows, C: rows.Quay.map(() => null), D: legend });
    expect(stepsOf(sideNotes.find(beside(['H: hired', 'L: late', null, null, null, null])))).toMatchObject([
      { kind: 'set-aside-columns', columns: { names: ['D'] }, pile: 'beside' },
    ]);
    expect(sideNotes.find(beside(rows.Quay))).toEqual([]);
    expect(sideNotes.find(handFor(rows))).toEqual([]);
  });
});

test('every detector has its own name', () => {
  const names = STAGES.flat().map(({ name }) => name);
  expect(new Set(names).size).toBe(names.length);
  expect(names.length).toBeGreaterThan(20);
});
