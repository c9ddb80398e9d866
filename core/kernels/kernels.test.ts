import fc from 'fast-check';
import { snappyUncompress } from 'hyparquet';
import { describe, expect, test } from 'vitest';
import { compileKernels } from '../../scripts/kernels.ts';

import { type DelimitedForm, tokenizeDelimited } from '../read/delimited/tokenize.ts';
import { rowsOfLines } from '../read/json-lines/rows-of-lines.ts';
import { readByKernel, readByLines, readFixedWidth } from '../read/read-fixed-width.ts';
import { type CellSink, scanCells, sheetData } from '../read/sheet-xml/scan-cells.ts';
import type { TextColumn } from '../table/column.ts';
import { columnLength } from '../table/column.ts';
import { numbersByKernel } from '../table/numbers-kernel.ts';
import { spansOf } from '../table/spans.ts';
import { cellText } from '../values/cell-text.ts';
import { decimalByte, groupByte, type NumberForm, readPlainBytes } from '../values/number-text.ts';
import { packSnappy } from '../write/parquet/pack-snappy.ts';
import { MODULE } from './module.ts';

// The plain readings, which check themselves against standards and other libraries, are the second opinion here.

const NEVER = Number.POSITIVE_INFINITY;
const quiet = { progress: () => undefined };
const bytesOf = (text: string) => new TextEncoder().encode(text);
const FORM: DelimitedForm = {
  delimiter: ',',
  runs: false,
  quote: '"',
  brackets: null,
  comment: null,
  commentedHeader: false,
};

test('what is delivered is what the source compiles to', async () => {
  expect(await compileKernels()).toContain(MODULE);
});

describe('delimited text by kernel and by the plain way', () => {
  const cells = (column: TextColumn) => {
    const spans = spansOf(column)!;
    // Numbers that were read on the way may be given up at another row, but never say something else.
    const { numbers } = spans;
    return { numbers, texts: Array.from({ length: spans.rows }, (_, row) => spans.text(row)) };
  };
  const read = (text: string, form: DelimitedForm, kernelFrom: number) => {
    try {
      const { columns, ...others } = tokenizeDelimited('a.csv', bytesOf(text), 'utf-8', form, quiet, kernelFrom);
      return { ...others, columns: columns.map(cells) };
    } catch (error) {
      return (error as Error).message;
    }
  };
  const same = (text: string, form: DelimitedForm = FORM) => {
    const [fast, plain] = [read(text, form, 0), read(text, form, NEVER)];
    if (typeof fast === 'string' || typeof plain === 'string') {
      expect(fast).toBe(plain);
      return 0;
    }
    const texts = ({ columns, ...others }: typeof fast) => ({ ...others, columns: columns.map((one) => one.texts) });
    expect(texts(fast)).toEqual(texts(plain));
    let both = 0;
    fast.columns.forEach(({ numbers }, k) => {
      const other = plain.columns[k]!.numbers;
      if (numbers === undefined || other === undefined) return;
      both++;
      expect(numbers).toEqual(other);
    });
    return both;
  };
  const plainRows = Array.from({ length: 140 }, (_, r) => `B${r},"Route ${r}, daily",${r / 8},-${r}.50`);

  test('many rows across the pieces that are given at a time', () => {
    const rows = Array.from({ length: 20_000 }, (_, r) =>
      r % 97 === 0 ? `B${r},"a ""b""",${r},x` : `B${r},"Route ${r}\nand on",${r / 16},-0.${r}`,
    );
    expect(same([...plainRows, ...rows].join('\n'))).toBeGreaterThan(0);
    expect(same([...plainRows, ...rows].join('\r\n'))).toBeGreaterThan(0);
  });

  test('cells that are longer than what is given at a time', () => {
    const long = 'x'.repeat(300_000);
    same([...plainRows, `a,"${long}",1,2`, ...plainRows, `a,${'y'.repeat(70_000)},1,2`, ...plainRows].join('\n'));
  });

  const cell = fc.oneof(
    { weight: 4, arbitrary: fc.integer({ min: -99999, max: 99999 }).map((value) => String(value / 100)) },
    fc.constantFrom('', '0', '-0', '007', '0.5', '.5', '5.', '-', '.', '1.2.3', '1e5', '12345678901234567890'),
    fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
    fc.constantFrom(
      '"a,b"',
      '"a""b"',
      '"a\nb"',
      '"a\r\nb"',
      '"a"b',
      '"open',
      '"12.5"',
      ' x ',
      'é',
      '港',
      '#x',
      '\t',
      '"',
    ),
    fc.string({ maxLength: 40, unit: fc.constantFrom('a', '1', '.', '-', ' ', '\r', '\n', ',', '"', ';') }),
  );
  const row = fc.oneof(
    { weight: 5, arbitrary: fc.array(cell, { minLength: 4, maxLength: 4 }) },
    fc.array(cell, { maxLength: 6 }),
    fc.constantFrom(['# a comment'], ['']),
  );

  test('law: the same rows, cells, lines and numbers, whatever stands in the text (RFC 4180 and beyond)', () => {
    fc.assert(
      fc.property(
        fc.array(row, { minLength: 1, maxLength: 30 }),
        fc.constantFrom('\n', '\r\n', '\r'),
        fc.constantFrom(null, '#', '//'),
        fc.constantFrom('"', "'", null),
        fc.boolean(),
        (rows, end, comment, quote, isWhole) => {
          const text = [...plainRows, ...rows.map((cells) => cells.join(',')), ...plainRows.slice(0, 5)].join(end);
          same(isWhole ? text + end : text, { ...FORM, comment, quote });
        },
      ),
      { numRuns: 500 },
    );
  });
});

describe('lines of JSON by kernel and by the plain way', () => {
  const read = (text: string, kernelFrom: number) => {
    const source = { name: 'a.ndjson', bytes: bytesOf(text) };
    try {
      const made = rowsOfLines(source, [''], '; ', 'skip', () => undefined, kernelFrom);
      if (made === undefined) return undefined;
      const { rows, columns, ...others } = made.found;
      const cells = columns.map(({ name, builder }) => {
        const column = builder.finish(rows);
        const tags = column.type === 'received' ? [...column.tags] : column.type;
        return { name, tags, texts: Array.from({ length: columnLength(column) }, (_, r) => cellText(column, r)) };
      });
      return { ...others, rows, cells, notices: made.notices };
    } catch (error) {
      return (error as Error).message;
    }
  };
  const lines = Array.from({ length: 12_000 }, (_, r) =>
    r % 50 === 7
      ? `{"ref":"B${r}","note":"a \\"b\\"","fare":${r}}`
      : r % 3 === 0
        ? `{"ref":"B${r}","party":{"adults":${r % 5},"paid":${r % 2 === 0}},"fare":${r / 8}}`
        : `{"ref":"B${r}","fare":-${r}.25,"note":null}`,
  );

  test('several shapes of lines, across the pieces that are given at a time', () => {
    for (const end of ['\n', '\r\n']) {
      const fast = read(lines.join(end), 0);
      expect(fast).toEqual(read(lines.join(end), NEVER));
      expect(fast).toMatchObject({ rows: 12_000 });
    }
  });

  const value = fc.oneof(
    fc.integer().map(String),
    fc.double({ noNaN: true, noDefaultInfinity: true }).map((one) => JSON.stringify(one)),
    fc.constantFrom('-0', '0.5', '01', '1.', '.5', '-', '1e3', '123456789012345678', 'true', 'false', 'null', 'tru'),
    fc.constantFrom('""', '"a"', '"é港"', '"a\\n"', '"a', '[1,2]', '{}', '{"x":1}', '"\t"', '"a" '),
    fc.string({ maxLength: 70 }).map((one) => JSON.stringify(one)),
  );
  const line = fc.oneof(
    { weight: 4, arbitrary: fc.tuple(value, value).map(([a, b]) => `{"ref":${a},"fare":${b}}`) },
    fc.tuple(value, value).map(([a, b]) => `{"fare": ${a}, "ref": ${b}}`),
    value.map((a) => `{"ref":${a},"ref":1}`),
    fc.constantFrom('', '{}', 'x', '{"ref":1,"fare":2}x', ' {"ref":1,"fare":2}', '{"ref":1,"fare":2} '),
  );

  test('law: the same rows, cells and notices, whatever stands in the lines (RFC 8259)', () => {
    const before = Array.from({ length: 4 }, (_, r) => `{"ref":"B${r}","fare":${r}}`);
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 20 }), fc.boolean(), (some, isWhole) => {
        const text = [...before, ...some, ...before].join('\n') + (isWhole ? '\n' : '');
        expect(read(text, 0)).toEqual(read(text, NEVER));
      }),
      { numRuns: 1000 },
    );
  });
});

describe('fixed columns by kernel and by lines', () => {
  const told = (result: ReturnType<typeof readByLines>) => ({
    rows: result.table.rows,
    fields: result.table.fields.map(({ name, column }) => [
      name,
      Array.from({ length: columnLength(column) }, (_, r) => cellText(column, r)),
    ]),
    text: result.report.parts[0]!.text,
    notices: result.notices,
  });
  const same = (text: string, given: object) => {
    const source = { name: 'a.prn', bytes: bytesOf(text) };
    const params = readFixedWidth.params.parse({ source: 's', ...given });
    const fast = readByKernel(source, params, () => undefined);
    if (fast !== undefined) expect(told(fast)).toEqual(told(readByLines(source, params, () => undefined)));
    return fast !== undefined;
  };

  test('many lines across the pieces that are given at a time, with page heads whole in a column of their own', () => {
    const lines = Array.from({ length: 20_000 }, (_, r) =>
      r % 60 === 0 ? 'Skerrow Ferries, all quays' : `B${r}`.padEnd(8) + 'Hask'.padEnd(10) + String(r / 8).padStart(9),
    );
    expect(same(lines.join('\n'), { cuts: [8, 18], rest: 'Rest' })).toBe(true);
    expect(same(lines.join('\r\n'), { cuts: [8, 18] })).toBe(true);
  });

  test('tabs, form feeds and letters beyond ASCII are left to the lines', () => {
    for (const sign of ['\t', '\f', 'é']) expect(same(`a b${sign}\nc d\n`, { cuts: [2] })).toBe(false);
  });

  test('law: the same cells, lines and notices, whatever stands on the lines', () => {
    const line = fc.string({ maxLength: 50, unit: fc.constantFrom(' ', ' ', 'a', '1', '.', '~') });
    fc.assert(
      fc.property(
        fc.array(line, { minLength: 1, maxLength: 40 }),
        fc.uniqueArray(fc.integer({ min: 1, max: 60 }), { maxLength: 6 }),
        fc.constantFrom(null, 'Rest'),
        fc.constantFrom('\n', '\r\n', '\r'),
        fc.boolean(),
        (lines, cuts, rest, end, isWhole) => {
          const text = lines.join(end) + (isWhole ? end : '');
          if (text !== '' && text !== end) same(text, { cuts, rest });
        },
      ),
      { numRuns: 500 },
    );
  });
});

describe('cells of sheets by kernel and by the plain way', () => {
  /** All that a sink is told, and how the reading ended. */
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

  test('law: a sink is told the same, whatever stands in the rows (ISO/IEC 29500-1, 18.3.1)', () => {
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

describe('numbers of cells that were found, by kernel and by the plain way', () => {
  const forms = fc.record({
    decimal: fc.constantFrom('.' as const, ',' as const),
    grouping: fc.constantFrom('any' as const, 'none' as const, ',' as const, '.' as const, ' ' as const),
  });
  const cell = fc.oneof(
    fc.integer({ min: -99_999_999, max: 99_999_999 }).map((n) => (n / 100).toLocaleString('en-US')),
    fc.integer({ min: -99_999_999, max: 99_999_999 }).map((n) => (n / 1000).toLocaleString('de-DE')),
    fc.constantFrom(
      '',
      '-',
      '+7',
      '-0',
      '007',
      '1,23',
      '1,234,56',
      ',5',
      '5,',
      '12.',
      '1.2.3',
      '1e5',
      '(12)',
      'é',
      '12%',
    ),
    fc.string({ maxLength: 24, unit: fc.constantFrom('1', '0', '9', ',', '.', '-', '+', ' ') }),
  );
  /** The cells as one text, each with an end, in the order of `order`. */
  const placed = (cells: readonly string[], order: readonly number[]) => {
    const bytes = bytesOf(cells.map((text) => `${text};`).join(''));
    const starts: number[] = [];
    let at = 0;
    for (const text of cells) {
      starts.push(text === '' ? -1 : at);
      at += bytesOf(text).length + 1;
    }
    return {
      bytes,
      starts: Int32Array.from(order, (k) => starts[k]!),
      lengths: Uint16Array.from(order, (k) => bytesOf(cells[k]!).length),
    };
  };
  const same = (cells: readonly string[], order: readonly number[], form: NumberForm, whole: boolean) => {
    const given = placed(cells, order);
    const found = numbersByKernel(given, { decimal: decimalByte(form), group: groupByte(form), whole })!;
    const plain = order.map((_, row) => {
      const from = given.starts[row]!;
      const value = from < 0 ? undefined : readPlainBytes(given.bytes, from, from + given.lengths[row]!, form);
      return value === undefined || (whole && !Number.isInteger(value)) ? Number.NaN : value;
    });
    expect([...found.values]).toEqual(plain);
    expect(found.filled).toBe(order.filter((k) => cells[k] !== '').length);
    expect(found.others).toBe(order.filter((k, row) => cells[k] !== '' && Number.isNaN(plain[row])).length);
    expect(found.leadingZero).toBe(order.some((k) => /^[+-]?0\d/.test(cells[k]!)));
  };

  test('law: the same numbers, whatever the cells, the marks and the order of the rows', () => {
    fc.assert(
      fc.property(
        fc.array(cell, { minLength: 1, maxLength: 40 }),
        forms,
        fc.boolean(),
        fc.boolean(),
        (some, form, whole, turned) => {
          // So many that the kernel takes them, in an order that jumps.
          const order = Array.from({ length: 9000 }, (_, k) => (turned ? k * 7 : Math.floor(k / 300)) % some.length);
          same(some, order, form, whole);
        },
      ),
      { numRuns: 60 },
    );
  });

  test('cells that lie far apart in the source, and long ones', () => {
    const cells = Array.from({ length: 6000 }, (_, k) =>
      k % 1500 === 7 ? 'x'.repeat(60_000) : `${k},${100 + (k % 900)}.5`,
    );
    const form = { decimal: '.' as const, grouping: 'any' as const };
    same(
      cells,
      cells.map((_, k) => k),
      form,
      false,
    );
    same(
      cells,
      cells.map((_, k) => (k * 1009) % cells.length),
      form,
      false,
    );
  });
});

describe('Snappy by kernel and by the library', () => {
  const same = (bytes: Uint8Array) => {
    const packed = packSnappy(bytes, 0);
    // Compared as a whole: long arrays are slow to compare one by one.
    expect(Buffer.compare(packed, packSnappy(bytes, NEVER))).toBe(0);
    const unpacked = new Uint8Array(bytes.length);
    snappyUncompress(packed, unpacked);
    expect(Buffer.compare(unpacked, bytes)).toBe(0);
  };

  test('texts, numbers and bytes without any order, up to a megabyte', () => {
    const random = Uint8Array.from({ length: 1_000_000 }, (_, k) => Math.imul(k, 2_654_435_761) >>> 13);
    const text = bytesOf(Array.from({ length: 40_000 }, (_, k) => `Route ${k % 97}, B${k}`).join(';'));
    const numbers = new Uint8Array(Float64Array.from({ length: 60_000 }, (_, k) => (k % 1009) / 4).buffer);
    const zeros = new Uint8Array(300_000);
    // Farther apart than a copy reaches.
    const apart = Uint8Array.from([...random.subarray(0, 70_000), ...random.subarray(0, 70_000)]);
    for (const bytes of [random, text, numbers, zeros, apart]) {
      same(bytes);
      same(bytes.subarray(3, 66_003));
    }
  });

  test('law: the same bytes, which give back what was packed', () => {
    const piece = fc.oneof(
      fc.uint8Array({ maxLength: 40 }),
      fc.tuple(fc.nat(255), fc.nat(90)).map(([byte, times]) => new Uint8Array(times).fill(byte)),
      fc.constantFrom(bytesOf('Hask'), bytesOf('Ullin, daily'), bytesOf('0123456789'.repeat(9))),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 60 }), (pieces) =>
        same(Uint8Array.from(pieces.flatMap((one) => [...one]))),
      ),
      { numRuns: 1000 },
    );
  });
});
