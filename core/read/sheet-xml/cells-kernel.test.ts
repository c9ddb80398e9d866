import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type CellSink, scanCells, sheetData } from './scan-cells.ts';

const NEVER = Number.POSITIVE_INFINITY;
const bytesOf = (text: string) => new TextEncoder().encode(text);

describe('cells of sheets by kernel and by the plain way', () => {
  /** All that a sink receives, and how the reading ended. */
  const told = (rows: string, kernelFrom: number) => {
    const bytes = bytesOf(`<worksheet><sheetData>${rows}</sheetData><mergeCells/></worksheet>`);
    const text = (from: number, to: number) => new TextDecoder().decode(bytes.subarray(from, to));
    const calls: unknown[][] = [];
    const sink: CellSink = {
      row: (...of) => of[1] && calls.push(['hidden', ...of]),
      number: (...of) => calls.push(['number', ...of]),
      shared: (...of) => calls.push(['shared', ...of]),
      text: (row, column, style, from, to, rich) => calls.push(['text', row, column, style, text(from, to), rich]),
      yesno: (...of) => calls.push(['yesno', ...of]),
      error: (row, column, style, from, to) => calls.push(['error', row, column, style, text(from, to)]),
      longNumber: (row, column, style, from, to) => calls.push(['long', row, column, style, text(from, to)]),
      zeroFormula: (...of) => calls.push(['zero', ...of]),
      empty: (...of) => of[3] && calls.push(['empty', ...of]),
    };
    try {
      scanCells(bytes, sheetData(bytes)!, sink, undefined, kernelFrom);
    } catch (error) {
      calls.push(['ended', (error as Error).name]);
    }
    return calls;
  };
  const same = (rows: string) => {
    const plain = told(rows, NEVER);
    expect(told(rows, 0)).toEqual(plain);
    return plain;
  };
  const letters = ['A', 'B', 'Z', 'AA', 'XFD'];

  test('many rows across the pieces that are given at a time, as spreadsheet programs write them', () => {
    const rows = Array.from({ length: 9000 }, (_, r) => {
      const n = r + 1;
      const hidden = r % 700 === 5 ? ' hidden="1"' : '';
      return `<row r="${n}" spans="1:6" ht="15" x14ac:dyDescent="0.25"${hidden}><c r="A${n}" s="4" t="s"><v>${r % 50}</v></c><c r="B${n}"><v>${r / 8}</v></c><c r="C${n}" s="1"><f>B${n}*2</f><v>-${r}.5</v></c><c r="D${n}" t="b"><v>1</v></c><c r="E${n}" s="2"/><c r="F${n}"><v>0.30000000000000004</v></c></row>`;
    });
    expect(same(rows.join('')).length).toBe(9000 * 5 + 13);
    expect(same(rows.join('\n')).length).toBe(9000 * 5 + 13);
  });

  test('cells that are longer than what is given at a time', () => {
    const long = `<row r="2"><c r="A2" t="inlineStr"><is><t>${'x'.repeat(300_000)}</t></is></c></row>`;
    const around = (n: number) => `<row r="${n}"><c r="A${n}"><v>${n}</v></c></row>`;
    expect(same(around(1) + long + around(3)).length).toBe(3);
  });

  const value = fc.oneof(
    fc.integer({ min: -99999, max: 99999 }).map((n) => String(n / 100)),
    fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
    fc.constantFrom(
      '0',
      '-0',
      '007',
      '5.',
      '.5',
      '.',
      '',
      '1E-3',
      'x',
      '1.2.3',
      '12345678901234567',
      '#N/A',
      'a b',
      ' 7',
    ),
  );
  const attribute = fc.oneof(
    fc.tuple(fc.constantFrom(...letters), fc.integer({ min: 1, max: 40 })).map(([at, n]) => ` r="${at}${n}"`),
    fc.constantFrom(' s="3"', ' s="x"', ' t="s"', ' t="n"', ' t="b"', ' t="e"', ' t="str"', ' t="inlineStr"', ' t="d"'),
    fc.constantFrom(
      ' cm="1"',
      " s='2'",
      '  s = "1"',
      '\ts="5"',
      ' hidden="1"',
      ' ph="1"',
      ' r="A0"',
      ' r="7"',
      ' r="ABCD1"',
    ),
  );
  const inside = fc.oneof(
    value.map((text) => `<v>${text}</v>`),
    value.map((text) => `<v xml:space="preserve">${text}</v>`),
    value.map((text) => `<is><t>${text}</t></is>`),
    fc.constantFrom(
      '<f>A1+1</f>',
      '<f t="shared" si="0"/>',
      '<f/>',
      '<v/>',
      ' ',
      '\n',
      '<extLst></extLst>',
      '<!-- a -->',
      '<f>a',
    ),
  );
  const cell = fc
    .tuple(fc.array(attribute, { maxLength: 3 }), fc.array(inside, { maxLength: 2 }), fc.boolean())
    .map(([with_, within, isShort]) =>
      isShort && within.length === 0 ? `<c${with_.join('')}/>` : `<c${with_.join('')}>${within.join('')}</c>`,
    );
  const row = fc
    .tuple(
      fc.array(attribute, { maxLength: 2 }),
      fc.array(fc.oneof({ weight: 9, arbitrary: cell }, fc.constantFrom('<x/>', 'y', ' '))),
    )
    .map(([with_, cells]) => `<row${with_.join('')}>${cells.join('')}</row>`);

  test('law: a sink receives the same, whatever stands in the rows (ISO/IEC 29500-1, 18.3.1)', () => {
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 12 }), (rows) => void same(rows.join(''))),
      { numRuns: 2000 },
    );
  });

  test('law: also where letters were changed', () => {
    const whole = Array.from(
      { length: 6 },
      (_, r) =>
        `<row r="${r + 1}"><c r="A${r + 1}" s="1" t="s"><v>${r}</v></c><c r="B${r + 1}"><f>1+1</f><v>-2.5</v></c></row>`,
    ).join('');
    fc.assert(
      fc.property(
        fc.nat(whole.length - 1),
        fc.constantFrom(...'<>/"= \'racvfs1.'),
        (at, letter) => void same(whole.slice(0, at) + letter + whole.slice(at + 1)),
      ),
      { numRuns: 2000 },
    );
  });
});
