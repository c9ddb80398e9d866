/**
 * Law: what a text is in comes out the same where it is left open until its bytes have been read, as where it is reported by
 * looking at all of them first (RFC 3629, else Windows-1252 of the WHATWG Encoding Standard).
 */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { quiet } from '../test-support.ts';
import { cellText } from '../values/cell-text.ts';
import { readDelimited } from './delimited/read-delimited.ts';
import { decodeSource } from './encoding.ts';
import { rowsOfLines } from './json-lines/rows-of-lines.ts';

const encoder = new TextEncoder();

/** A long text whose odd lines stand at some places, each as UTF-8, or as bytes that are none. */
function textWith(plain: (row: number) => string, odd: (letter: string, row: number) => string, marks: Mark[]) {
  const rows = new Map(marks.map((mark) => [mark.row, mark]));
  const lines: Uint8Array[] = [];
  for (let r = 0; r < ROWS; r++) {
    const mark = rows.get(r);
    const line = encoder.encode(`${mark === undefined ? plain(r) : odd(mark.isValid ? mark.letter : '?', r)}\n`);
    if (mark?.isValid === false) line[line.indexOf(63)] = 0xe9;
    lines.push(line);
  }
  return Uint8Array.from(Buffer.concat(lines));
}

const ROWS = 30_000;
interface Mark {
  row: number;
  letter: string;
  isValid: boolean;
}
const marks = fc.uniqueArray(
  fc.record({
    row: fc.oneof(fc.integer({ min: 0, max: ROWS - 1 }), fc.constantFrom(0, 1, 127, 128, 129, ROWS - 1)),
    letter: fc.constantFrom('é', '港', '😀', '\u00a0'),
    isValid: fc.oneof({ weight: 3, arbitrary: fc.constant(true) }, fc.constant(false)),
  }),
  { maxLength: 3, selector: (mark) => mark.row },
);

describe('an encoding that is left open', () => {
  test('delimited text', () => {
    fc.assert(
      fc.property(marks, (given) => {
        const bytes = textWith(
          (r) => `B${r},Hask,${r / 4}`,
          (letter, r) => `B${r},${letter},"${letter} ""${letter}"""`,
          given,
        );
        const { encoding } = decodeSource(bytes, null, 'a.csv');
        expect(encoding).toBe(given.every((mark) => mark.isValid) ? 'utf-8' : 'windows-1252');
        const read = (stated: string | null) =>
          readDelimited.read({ name: 'a.csv', bytes }, readDelimited.params.parse({ source: 's', encoding: stated }), {
            ...quiet,
            name: 'a',
            other: () => ({ name: '', table: { rows: 0, fields: [] } }),
          });
        const [open, stated] = [read(null), read(encoding)];
        const cells = ({ table }: typeof open) =>
          [0, ...given.map((mark) => mark.row)].map((row) => table.fields.map(({ column }) => cellText(column, row)));
        expect(cells(open)).toEqual(cells(stated));
        expect(open.table.rows).toBe(ROWS);
        const first = Math.min(...given.filter((mark) => !mark.isValid).map((mark) => mark.row));
        expect(open.notices.map((one) => one.text)).toEqual(
          first === Number.POSITIVE_INFINITY
            ? []
            : [expect.stringContaining(`(line ${first + 1}): read as Windows-1252`)],
        );
      }),
      { numRuns: 25 },
    );
  });

  test('newline-delimited JSON: only UTF-8 is read by its bytes', () => {
    fc.assert(
      fc.property(marks, fc.boolean(), (given, isBad) => {
        const bytes = textWith(
          (r) => (isBad && r === 20_000 ? '{"quay":' : `{"quay":"Hask","fare":${r / 4}}`),
          (letter, r) => `{"quay":"${letter}","fare":${r}}`,
          given,
        );
        const read = () => rowsOfLines({ name: 'a.ndjson', bytes }, [''], '; ', 'stop', () => undefined, 0);
        if (!given.every((mark) => mark.isValid)) expect(read()).toBeUndefined();
        else if (isBad && !given.some((mark) => mark.row === 20_000)) expect(read).toThrow('Line 20001');
        else expect(read()!.found.rows).toBe(ROWS);
      }),
      { numRuns: 25 },
    );
  });
});
