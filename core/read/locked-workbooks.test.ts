import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { rc4 } from './default-password.ts';
import { readWorkbook } from './workbook.ts';

const bytesOf = (name: string) => new Uint8Array(readFileSync(new URL(`fixtures/${name}`, import.meta.url)));
const COMMENT = `${'Tide, '.repeat(2000)}end`;

function checkSailings(bytes: Uint8Array) {
  const { parts } = readWorkbook(bytes, 'sailings');
  const [sheet] = parts;
  expect(parts.map(({ name }) => name)).toEqual(['Sailings']);
  expect(sheet!.rows).toBe(4);
  expect(sheet!.comments).toEqual([{ row: 1, column: 0, text: COMMENT, author: expect.any(String) }]);
}

describe('workbooks under the default password', () => {
  // Who wrote them: fixtures/README.md.
  it.each(['rc4.xls', 'standard.xlsx', 'agile.xlsx'])('%s is read as if it had none', (name) => {
    checkSailings(bytesOf(`default-password-${name}`));
  });

  it('refuses another password, and says what to do', () => {
    expect(() => readWorkbook(bytesOf('password.xlsx'), 'password.xlsx')).toThrow(/protected by a password. Open it/);
  });

  it('refuses damaged ones', () => {
    const bytes = bytesOf('default-password-standard.xlsx');
    for (let at = 600; at < bytes.length; at += 1511) {
      const damaged = bytes.slice();
      damaged[at]! ^= 0x55;
      try {
        checkSailings(damaged);
      } catch (error) {
        expect((error as Error).name).toBe('ReadFailure');
      }
    }
  });

  // RFC 6229, section 2, key of 40 bits.
  it('RC4 gives the stream of RFC 6229', () => {
    const stream = rc4(Uint8Array.of(1, 2, 3, 4, 5), new Uint8Array(16));
    expect(Buffer.from(stream).toString('hex')).toBe('b2396305f03dc027ccc3524a0a1118a8');
  });
});

describe('older workbooks', () => {
  it('reads a comment that goes on over records', () => {
    checkSailings(bytesOf('long-comment.xls'));
  });

  it('reads a file whose last sector is not whole', () => {
    const bytes = bytesOf('long-comment.xls');
    for (const missing of [1, 100, 511]) checkSailings(bytes.subarray(0, bytes.length - missing));
  });

  it('refuses a file that has lost whole sectors', () => {
    const bytes = bytesOf('long-comment.xls');
    expect(() => readWorkbook(bytes.subarray(0, bytes.length - 3000), 'sailings')).toThrow(/broken or cut off/);
  });
});
