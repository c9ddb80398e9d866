import zlib from 'node:zlib';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { kernels } from '../kernels/kernels.ts';
import { DeflateStream } from './deflate-stream.ts';
import { concatenate } from './rows/text-bytes.ts';

const PLAIN = Number.POSITIVE_INFINITY;

function packed(pieces: readonly Uint8Array[], kernelFrom: number) {
  const out: Uint8Array[] = [];
  const stream = new DeflateStream((piece) => out.push(piece), kernelFrom);
  for (const [k, piece] of pieces.entries()) stream.push(piece, k === pieces.length - 1);
  return { bytes: concatenate(out), crc: stream.crc };
}

/** The same by both ways, and what zlib unpacks. */
function expectSound(pieces: readonly Uint8Array[]): Uint8Array {
  const whole = concatenate(pieces);
  const [byKernel, plain] = [packed(pieces, 0), packed(pieces, PLAIN)];
  expect(Buffer.compare(byKernel.bytes, plain.bytes)).toBe(0);
  expect(Buffer.compare(zlib.inflateRawSync(byKernel.bytes), whole)).toBe(0);
  expect(byKernel.crc).toBe(zlib.crc32(whole));
  expect(plain.crc).toBe(byKernel.crc);
  return byKernel.bytes;
}

/** Bytes that follow from a seed. */
function scattered(length: number, seed: number, of: (value: number) => number): Uint8Array {
  let state = seed | 1;
  return Uint8Array.from({ length }, () => {
    state = Math.imul(state, 1_664_525) + 1_013_904_223;
    return of(state >>> 8);
  });
}

const anyByte = (value: number) => 1 + (value % 255);

const rows = (count: number) =>
  new TextEncoder().encode(
    Array.from(
      { length: count },
      (_, k) => `<row r="${k}"><c r="A${k}"><v>${(k * 7919) % 1000}.${k % 10}</v></c></row>`,
    ).join(''),
  );
describe('a stream of deflate', () => {
  test('there is a kernel to hold against the library', () => {
    expect(kernels(0)).toBeDefined();
  });

  test.each([
    ['nothing', new Uint8Array()],
    ['one byte', Uint8Array.of(7)],
    ['rows of a sheet', rows(30_000)],
    ['what cannot be packed', scattered(400_000, 1, anyByte)],
    ['one byte again and again', new Uint8Array(700_000).fill(65)],
    ['copies from as far as they go', concatenate(Array.from({ length: 9 }, () => scattered(32_767, 3, anyByte)))],
    ['one byte further', concatenate(Array.from({ length: 9 }, () => scattered(32_768, 3, anyByte)))],
  ])('%s', (_name, bytes) => {
    expectSound([bytes]);
    for (const size of [1000, 8192, 32_768, 65_536, 65_537, 100_000])
      expectSound(
        Array.from({ length: Math.floor(bytes.length / size) + 1 }, (_, k) => bytes.subarray(k * size, (k + 1) * size)),
      );
  });

  test('any pieces of any bytes', () => {
    const piece = fc
      .record({
        length: fc.oneof(fc.integer({ min: 0, max: 300 }), fc.integer({ min: 0, max: 150_000 })),
        seed: fc.integer(),
        most: fc.constantFrom(1, 2, 5, 30, 255),
        period: fc.constantFrom(1, 3, 258, 259, 5000, 32_767, 32_769, 1_000_000),
      })
      .map(({ length, seed, most, period }) => {
        const once = scattered(Math.min(length, period), seed, (value) => 1 + (value % most));
        return Uint8Array.from({ length }, (_, k) => once[k % period]!);
      });
    // Of these some have codes that are longer than the 15 bits that there are, and are cut.
    fc.assert(
      fc.property(fc.array(piece, { minLength: 1, maxLength: 5 }), (pieces) => {
        expectSound(pieces);
      }),
      { numRuns: 100 },
    );
  });

  test('a zero byte is refused where the library could get it wrong', () => {
    const push = (bytes: Uint8Array) => new DeflateStream(() => undefined).push(bytes);
    expect(() => push(Uint8Array.of(1, 0))).toThrow(RangeError);
    const late = new Uint8Array(70_000).fill(7, 0, 32_768);
    expectSound([late]);
  });

  test('streams that go on at the same time do not mix', () => {
    const bytes = rows(5000);
    const alone = packed([bytes, bytes], 0).bytes;
    const outs: Uint8Array[][] = [[], []];
    const streams = outs.map((out) => new DeflateStream((piece) => out.push(piece), 0));
    for (const stream of streams) stream.push(bytes);
    for (const stream of streams) stream.push(bytes, true);
    for (const out of outs) expect(Buffer.compare(concatenate(out), alone)).toBe(0);
  });

  test('sheets get small: within a tenth of zlib at the same level', () => {
    const bytes = rows(30_000);
    expect(packed([bytes], 0).bytes.length).toBeLessThan(1.1 * zlib.deflateRawSync(bytes, { level: 1 }).length);
  });
});
