import { readFileSync } from 'node:fs';
import { CFB } from '@e965/xlsx';
import { describe, expect, it } from 'vitest';
import { recordsOf } from './compound-file.ts';
import { rc4, withoutDefaultPassword } from './default-password.ts';
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

/** A key and its verifier for the default password, as a workbook of 1997 has them, and what they mix each byte with. */
const KEY = [0x59, 0xb3, 0x0a, 0x9a];
const MASK = '876b9ae21ee305621e699660986e9404';

/** The workbook of a fixture, opened, with its records obfuscated. */
function obfuscated(bytes: Uint8Array): Uint8Array {
  const container = CFB.read(bytes, { type: 'array' });
  const book = CFB.find(container, 'Workbook')!;
  const stream = Uint8Array.from(book.content as ArrayLike<number>);
  const mask = Uint8Array.from(MASK.match(/../g)!, (pair) => Number.parseInt(pair, 16));
  const records = [...recordsOf(stream)];
  // The record that stood in place of the password is long enough for one of the other form.
  const pass = records.find(({ type }) => type === 0x1c0)!;
  for (const { type, at, length } of records) {
    if (type === 0x809) continue;
    for (let k = type === 0x85 ? at + 4 : at; k < at + length; k++) {
      const byte = stream[k]!;
      stream[k] = ((byte >> 3) | (byte << 5)) & 255;
      stream[k]! ^= mask[(k + length) % 16]!;
    }
  }
  const view = new DataView(stream.buffer);
  view.setUint16(pass.at - 4, 0x2f, true);
  view.setUint16(pass.at - 2, 6, true);
  stream.set([0, 0, ...KEY], pass.at);
  view.setUint16(pass.at + 6, 0x1c0, true);
  view.setUint16(pass.at + 8, pass.length - 10, true);
  book.content = stream as never;
  return Uint8Array.from(CFB.write(container, { type: 'array' }) as ArrayLike<number>);
}

describe('workbooks under the default password', () => {
  // Who wrote them: fixtures/README.md.
  it.each(['rc4.xls', 'standard.xlsx', 'agile.xlsx'])('%s is read as if it had none', (name) => {
    checkSailings(bytesOf(`default-password-${name}`));
  });

  it('reads one that is obfuscated (MS-OFFCRYPTO 2.3.7)', () => {
    checkSailings(obfuscated(withoutDefaultPassword(bytesOf('default-password-rc4.xls'))!));
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
