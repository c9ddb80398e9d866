/** Rules that a table must meet. */
import { describe, expect, test } from 'vitest';
import { Check, checkText, countedColumn, makeTable, offeredChecks, runChecks, textColumn } from '../index.ts';

const day = (text: string) => Date.parse(`${text}T00:00:00Z`) / 86_400_000;

const table = makeTable({
  Quay: textColumn(['Hask', 'Hask', 'Ullin', 'Ullin', 'Tarve']),
  Month: countedColumn(
    'date',
    ['2031-01-01', '2031-02-01', '2031-01-01', '2031-04-01', null].map((text) => (text === null ? null : day(text))),
  ),
  Foot: countedColumn('whole', [5, 7, 5, 100, null]),
  Code: textColumn(['HU-01', 'HU-02', 'UT-01', 'UT-2', 'TB-01']),
});
const context = { totals: { agrees: 3, disagrees: 1, cannotTell: 1, leftOut: 0 }, lastRows: 10 };

const ran = (check: object) => runChecks(table, [Check.parse({ id: 'c', ...check })], context)[0]!;

describe('each kind of check', () => {
  test.each([
    [{ kind: 'key', columns: ['Quay', 'Month'] }, true, '5 of 5 different', []],
    [{ kind: 'key', columns: ['Quay'] }, false, '3 of 5 different', [1, 3]],
    [{ kind: 'filled', column: 'Foot' }, false, '1 of 5 blank', [4]],
    [{ kind: 'filled', column: 'Quay' }, true, '0 of 5 blank', []],
    [{ kind: 'one-of', column: 'Quay', values: ['Hask', 'Ullin'] }, false, '1 of 5 other: Tarve', [4]],
    [{ kind: 'matches', column: 'Code', pattern: '\\w\\w-\\d\\d' }, false, '1 of 5 otherwise', [3]],
    [{ kind: 'between', column: 'Foot', least: 0, most: 50 }, false, '1 of 5 outside', [3]],
    [{ kind: 'between', column: 'Foot', least: null, most: null }, true, '0 of 5 outside', []],
    [{ kind: 'measure', column: 'Foot', by: 'sum', equals: 117 }, true, 'sum is 117', []],
    [{ kind: 'measure', column: 'Foot', by: 'mean', equals: 29 }, false, 'mean is 29.25', []],
    [{ kind: 'measure', column: 'Foot', by: 'mean', equals: 29, within: 0.5 }, true, 'mean is 29.25', []],
    [{ kind: 'measure', column: 'Foot', by: 'count', equals: 4 }, true, 'count is 4', []],
    [{ kind: 'rows', least: 1, most: 4 }, false, '5 rows', []],
    [{ kind: 'totals' }, false, '3 of 5 agree', []],
    [{ kind: 'last-run', share: 0.2 }, false, '5 rows, 10 last time', []],
    [{ kind: 'filled', column: 'Gone' }, false, 'there is no column Gone', []],
  ])('%o', (check, ok, found, rows) => {
    expect(ran(check)).toMatchObject({ ok, found, rows });
  });

  test('periods: months that a key lacks, and those that every key lacks', () => {
    const found = ran({ kind: 'periods', key: ['Quay'], column: 'Month' });
    expect(found.ok).toBe(false);
    expect(found.found).toBe(
      '8 missing: Hask lacks 2031-04-01, 2031-03-01, Ullin lacks 2031-02-01, 2031-03-01, Tarve lacks 2031-01-01, 2031-02-01, 2031-04-01 and 1 more',
    );
  });

  test('every check reads as a sentence', () => {
    expect(checkText(Check.parse({ id: 'c', kind: 'key', columns: ['Quay', 'Month'] }))).toBe(
      'Quay, Month identify each row',
    );
    expect(checkText(Check.parse({ id: 'c', kind: 'between', column: 'Foot', least: 0, most: null }))).toBe(
      'Foot is between 0 and anything',
    );
  });
});

describe('checks that are offered', () => {
  const quays = ['Hask', 'Ullin', 'Tarve'];
  const good = makeTable({
    Quay: textColumn(Array.from({ length: 18 }, (_, k) => quays[k % 3]!)),
    Month: textColumn(Array.from({ length: 18 }, (_, k) => `M${Math.floor(k / 3) + 1}`)),
    Ref: textColumn(Array.from({ length: 18 }, (_, k) => `B${7000 + k}`)),
    Foot: countedColumn(
      'whole',
      Array.from({ length: 18 }, (_, k) => k),
    ),
  });
  const known = { totals: { agrees: 4, disagrees: 0, cannotTell: 0, leftOut: 0 } };

  test('hold now, all of them', () => {
    const offered = offeredChecks(good, known, []);
    const checks = offered.map(({ check }, k) => Check.parse({ ...check, id: String(k) }));
    expect(runChecks(good, checks, known).filter((one) => !one.ok)).toEqual([]);
    expect(offered.map((one) => one.text)).toEqual(
      expect.arrayContaining([
        "the report's totals agree",
        'Ref identifies each row',
        'Quay is one of Hask, Ullin, Tarve',
        'Ref matches \\p{Lu}\\d{4}',
        'Foot is between 0 and anything',
      ]),
    );
  });

  test('a check that is kept is not offered again', () => {
    const kept = [Check.parse({ id: 'k', kind: 'totals' })];
    expect(offeredChecks(good, known, kept).map((one) => one.text)).not.toContain("the report's totals agree");
  });
});
