import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compileKernels } from '../../scripts/kernels.ts';

import { type DelimitedForm, tokenizeDelimited } from '../read/delimited/tokenize.ts';
import { rowsOfLines } from '../read/json-lines/rows-of-lines.ts';
import { readByKernel, readByLines, readFixedWidth } from '../read/read-fixed-width.ts';
import type { TextColumn } from '../table/column.ts';
import { columnLength } from '../table/column.ts';
import { spansOf } from '../table/spanned-column.ts';
import { cellText } from '../values/cell-text.ts';
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

  test('many lines across the pieces that are given at a time, with page heads whole in their own column', () => {
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
