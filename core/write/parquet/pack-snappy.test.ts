import fc from 'fast-check';
import { snappyUncompress } from 'hyparquet';
import { describe, expect, test } from 'vitest';
import { packSnappy } from './pack-snappy.ts';

const NEVER = Number.POSITIVE_INFINITY;
const bytesOf = (text: string) => new TextEncoder().encode(text);

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
