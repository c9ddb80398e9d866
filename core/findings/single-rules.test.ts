/** What detectors of one thing each see, and what they leave alone. Reports are invented. */
import { describe, expect, test } from 'vitest';
import { textColumn } from '../index.ts';
import { bodyOf, matrixColumns } from './body.ts';
import type { Detector, DetectorInput } from './finding.ts';
import { header } from './header.ts';
import { headersAsValues } from './headers-as-values.ts';
import { keys } from './keys.ts';
import { limits } from './limits.ts';
import { namesInCells } from './names-in-cells.ts';
import { packedLists } from './packed-lists.ts';
import { detectorInput } from './test-input.ts';

type Rows = readonly (readonly (string | null)[])[];

function inputOf(names: readonly string[] | undefined, rows: Rows): DetectorInput {
  const width = Math.max(...rows.map((row) => row.length));
  const fields = Array.from({ length: width }, (_, k) => ({
    name: names?.[k] ?? String.fromCharCode(65 + k),
    nameOrigin: names === undefined ? ('position' as const) : ('named' as const),
    column: textColumn(rows.map((row) => row[k] ?? null)),
  }));
  return detectorInput({ rows: rows.length, fields });
}

const stepsOf = (detector: Detector, input: DetectorInput) =>
  detector.find(input)[0]?.steps.map(({ kind, params }) => ({ kind, ...params })) ?? [];

describe('a row of limits', () => {
  const names = ['No', 'Name', 'Ropes', 'Radio'];
  const marks = Array.from({ length: 9 }, (_, k) => [String(k + 1), `Name ${k}`, String(10 + (k % 3)), String(30 - k)]);

  test('right below the names is set aside', () => {
    expect(stepsOf(limits, inputOf(names, [[null, 'out of', '20', '40'], ...marks]))).toMatchObject([
      { kind: 'set-aside', pile: 'limits', mark: 'note', rules: [{ test: 'blank', columns: { names: ['No'] } }] },
    ]);
  });

  test.each<[string, (string | null)[]]>([
    ['one that a row exceeds', [null, 'out of', '11', '40']],
    ['the sum of the rows', [null, 'all', '98', '234']],
    ['a row with its own number', ['0', 'out of', '20', '40']],
  ])('%s is none', (_, row) => {
    expect(limits.find(inputOf(names, [row, ...marks]))).toEqual([]);
  });
});

describe('names inside of cells', () => {
  test('become the name of the column, and the cells keep their values', () => {
    const rows = [
      ['Meter 4014', 'quality=ok', 'Depth: 4.2'],
      ['Meter 4015', 'quality=gap', 'Depth: 3.9'],
      ['Meter 4020', 'quality=ok', 'Depth: 5.0'],
    ];
    const steps = stepsOf(namesInCells, inputOf(undefined, rows));
    expect(steps.map(({ kind }) => kind)).toEqual(['replace', 'rename', 'replace', 'rename', 'replace', 'rename']);
    expect(steps.filter(({ kind }) => kind === 'rename')).toMatchObject([
      { names: [{ from: 'A', to: 'Meter' }] },
      { names: [{ from: 'B', to: 'quality' }] },
      { names: [{ from: 'C', to: 'Depth' }] },
    ]);
  });

  test('stay where the column has a name or the cells say several', () => {
    const rows = [['Gate 4'], ['Gate 5'], ['Gate 6']];
    expect(namesInCells.find(inputOf(['Gate'], rows))).toEqual([]);
    expect(namesInCells.find(inputOf(undefined, [['Gate 4'], ['Quay 5'], ['Gate 6']]))).toEqual([]);
  });
});

describe('tables of pairs', () => {
  const ports = ['Hask', 'Ullin', 'Tarve', 'Rona'];
  const triangle = ports.map((port, r) => [port, ...ports.map((_, k) => (k < r ? String(10 * r + k) : null))]);

  test('go down by the names across, also the first, which has no cells', () => {
    const input = inputOf(['A', ...ports], triangle);
    expect(matrixColumns(input.profile).map(({ name }) => name)).toEqual(ports);
    expect(bodyOf(input).roles[0]).toBe('data');
    expect(stepsOf(headersAsValues, input)).toMatchObject([
      { kind: 'unpivot', columns: { by: 'all-but', names: ['A'] }, blanks: 'drop' },
    ]);
  });

  test('are none where other words go down', () => {
    const rows = ['Foot', 'Cars', 'Vans', 'Bikes'].map((name, r) => [name, ...triangle[r]!.slice(1)]);
    expect(matrixColumns(inputOf(['A', ...ports], rows).profile)).toEqual([]);
  });
});

test('dates in three columns are filled down together; numbers behind words are not', () => {
  const rows = [
    ['2031', 'May', '4', 'Hask', '120'],
    [null, null, null, 'Rona', '15'],
    [null, null, '9', 'Hask', '88'],
    [null, 'June', '1', 'Ullin', '40'],
    [null, null, null, 'Hask', '61'],
    [null, null, '2', 'Rona', '7'],
  ];
  const names = ['Year', 'Month', 'Day', 'Quay', 'Count'];
  expect(stepsOf(keys, inputOf(names, rows))).toMatchObject([
    { kind: 'fill', columns: { names: ['Year', 'Month', 'Day'] } },
  ]);
  const loads = rows.map(([, , day, quay, count]) => [quay!, day ?? null, count!]);
  expect(keys.find(inputOf(['Quay', 'Load', 'Count'], loads))).toEqual([]);
});

describe('lists that blanks divide', () => {
  const rowsOf = (...cells: string[]) =>
    inputOf(
      ['Quay', 'Times'],
      cells.map((cell, k) => [`Q${k}`, cell]),
    );

  test('are lists of times, not cut at their colons', () => {
    expect(stepsOf(packedLists, rowsOf('06:40  08:50', '06:40  08:50  10:15', '07:40'))).toMatchObject([
      { kind: 'split-to-rows', columns: ['Times'], cut: { delimiters: ['  '] } },
    ]);
  });

  test('words are one text', () => {
    expect(packedLists.find(rowsOf('north gate', 'east', 'upper deck ramp'))).toEqual([]);
  });
});

test('a first row that is written as all rows are names no columns', () => {
  const rows = Array.from({ length: 12 }, (_, k) => [
    `Meter ${4000 + k}`,
    `2031-03-0${1 + (k % 9)} 0${k % 10}:15`,
    `${k}.5 kWh`,
    k % 2 === 0 ? 'quality=ok' : 'quality=gap',
  ]);
  const best = [...header.find(inputOf(undefined, rows))].sort((a, b) => b.weight - a.weight)[0]!;
  expect(best).toMatchObject({ steps: [], gives: 'no header' });
});

describe('lists side by side', () => {
  const lists = [
    ['Hask', 'Petrel', 'Ann'],
    ['Ullin', 'Skua', 'Bob'],
    ['Rona', 'Tern', null],
    ['Tarve', null, null],
  ];

  test('go down, and no list goes on below its end', () => {
    const input = inputOf(['Quay', 'Ship', 'Skipper'], lists);
    expect(stepsOf(headersAsValues, input)).toMatchObject([{ kind: 'unpivot', blanks: 'drop' }]);
    expect(bodyOf(input).roles).toEqual(['data', 'data', 'data', 'data']);
    expect(keys.find(input)).toEqual([]);
  });

  test('are none where a text stands twice in a column, or a gap within it', () => {
    const twice = lists.map((row, r) => (r === 3 ? ['Hask', null, null] : row));
    const gap = lists.map((row, r) => (r === 1 ? ['Ullin', null, 'Bob'] : row));
    for (const rows of [twice, gap])
      expect(stepsOf(headersAsValues, inputOf(['Quay', 'Ship', 'Skipper'], rows))).toEqual([]);
  });
});
