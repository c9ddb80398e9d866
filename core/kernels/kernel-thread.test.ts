import { createHash } from 'node:crypto';
import type { Worker } from 'node:worker_threads';
import zlib from 'node:zlib';
import fc from 'fast-check';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from 'vitest';
import { kernelWorker } from '../../service/second-thread.ts';
import { tokenizeDelimited } from '../read/delimited/tokenize.ts';
import { spansOf } from '../table/spanned-column.ts';
import { DeflateStream } from '../write/deflate-stream.ts';
import { concatenate } from '../write/rows/text-bytes.ts';
import { KernelThread, offerThread, takenThread } from './kernel-thread.ts';

// One thread, which is held against standards and libraries elsewhere, is the second opinion on two.

let worker: Worker;
let thread: KernelThread;

beforeAll(async () => {
  thread = new KernelThread((what) => {
    worker = kernelWorker(what);
  });
  while (!thread.isReady) await new Promise((resolve) => setTimeout(resolve, 5));
}, 60_000);
afterAll(() => worker.terminate());
beforeEach(() => offerThread(thread));
afterEach(() => offerThread(undefined));

const FORM = { delimiter: ',', runs: false, quote: '"', brackets: null, comment: '#', commentedHeader: false };

/** What is read, in short: vectors of many rows are compared by their digests. */
function read(text: string, stopAt = Number.POSITIVE_INFINITY) {
  const bytes = new TextEncoder().encode(text);
  const context = {
    progress: (done: number) => {
      if (done >= stopAt) throw new Error('stopped');
    },
  };
  const tell = (ascii: { from: number; to: number }) => {
    expect(bytes.subarray(ascii.from, ascii.to).findIndex((byte) => byte > 127)).toBe(-1);
    return 'utf-8';
  };
  const { columns, lines, ...others } = tokenizeDelimited('a.csv', bytes, tell, FORM, context, 0);
  const digest = createHash('sha256').update(lines);
  const numbers = columns.map((column) => {
    const spans = spansOf(column)!;
    const { starts, lengths } = spans.places;
    for (const vector of [starts, lengths, spans.numbers?.values]) if (vector) digest.update(vector);
    const { values: _, ...counted } = spans.numbers ?? { values: undefined };
    return counted;
  });
  return { ...others, numbers, digest: digest.digest('hex') };
}

/** The same rows by two threads as by one, or the same error. */
function expectSame(text: string): void {
  const tried = () => {
    try {
      return read(text);
    } catch (error) {
      return (error as Error).message;
    }
  };
  const both = tried();
  offerThread(undefined);
  const one = tried();
  offerThread(thread);
  expect(both).toEqual(one);
}

const plain = (rows: number, of: (row: number) => string) => Array.from({ length: rows }, (_, r) => of(r)).join('\n');

describe('delimited text', () => {
  test('many pieces, one behind the other', () => {
    expectSame(plain(60_000, (r) => `B${r},"Route ${r % 97}, daily",${r / 8},-${r}.50`));
    expectSame(plain(90_000, (r) => `${r},${r % 7}`));
  });

  test('rows that are not plain, others that are much longer than those before, and a piece that begins in one', () => {
    expectSame(plain(60_000, (r) => (r % 5000 === 4999 ? `B${r},"a ""b""",${r},x` : `B${r},Route ${r},${r},${r / 4}`)));
    expectSame(plain(40_000, (r) => `B${r},${'x'.repeat(r % 9973 === 9972 ? 60_000 : r % 90)},${r},1`));
    expectSame(plain(40_000, (r) => (r < 20_000 ? `${r},1,2,3` : `${r},${'Tarve Roads '.repeat(12)},2,3`)));
  });

  test('letters beyond ASCII, comments, line ends of every kind, lines in cells', () => {
    const ends = ['\n', '\r\n', '\r'];
    for (const end of ends)
      expectSame(
        Array.from({ length: 40_000 }, (_, r) =>
          r % 9000 === 8999 ? '# a note' : r % 3000 === 0 ? `é${r},"a\nb",1` : `e${r},b,${r}`,
        ).join(end),
      );
  });

  test('law: whatever stands in the rows', () => {
    const cell = fc.oneof(
      { weight: 8, arbitrary: fc.integer({ min: -99_999, max: 99_999 }).map((value) => String(value / 100)) },
      { weight: 4, arbitrary: fc.constantFrom('', 'Hask', '007', '"x, y"', 'Ärmelkai') },
      { weight: 1, arbitrary: fc.constantFrom('"a ""b"""', '"', 'x'.repeat(900), '"a\nb"') },
    );
    const block = fc.record({
      row: fc.array(cell, { minLength: 3, maxLength: 3 }),
      times: fc.integer({ min: 1, max: 9000 }),
    });
    fc.assert(
      fc.property(fc.array(block, { minLength: 1, maxLength: 8 }), (blocks) => {
        const front = plain(200, (r) => `B${r},Hask,${r}`);
        expectSame(`${front}\n${blocks.map(({ row, times }) => `${row.join()}\n`.repeat(times)).join('')}`);
      }),
      { numRuns: 60 },
    );
  });

  test('a reading that is stopped gives the thread back', () => {
    const text = plain(80_000, (r) => `B${r},Hask,${r},1`);
    expect(() => read(text, 0.4)).toThrow('stopped');
    const taken = takenThread(0);
    expect(taken).toBe(thread);
    taken!.release();
    expectSame(text);
  });
});

describe('deflate', () => {
  const packed = (pieces: readonly Uint8Array[]) => {
    const out: Uint8Array[] = [];
    const stream = new DeflateStream((piece) => out.push(piece), 0);
    for (const [k, piece] of pieces.entries()) stream.push(piece, k === pieces.length - 1);
    return Buffer.from(concatenate(out));
  };

  test('law: the same bytes by two threads as by one, and what zlib unpacks', () => {
    const piece = fc.record({
      length: fc.integer({ min: 0, max: 700_000 }),
      period: fc.constantFrom(1, 259, 5000, 70_001),
    });
    fc.assert(
      fc.property(fc.array(piece, { minLength: 1, maxLength: 5 }), (pieces) => {
        const bytes = pieces.map(({ length, period }) =>
          Uint8Array.from({ length }, (_, k) => 1 + (Math.imul(k % period, 7919) & 127)),
        );
        const both = packed(bytes);
        offerThread(undefined);
        const one = packed(bytes);
        offerThread(thread);
        expect(Buffer.compare(both, one)).toBe(0);
        expect(Buffer.compare(zlib.inflateRawSync(both), concatenate(bytes))).toBe(0);
      }),
      { numRuns: 40 },
    );
  });

  test('a stream that is left gives the thread back; while one is packed, another goes without', () => {
    const bytes = new Uint8Array(300_000).fill(65);
    const left = new DeflateStream(() => undefined, 0);
    left.push(bytes);
    expect(takenThread(0)).toBeUndefined();
    expect(Buffer.compare(zlib.inflateRawSync(packed([bytes, bytes])), concatenate([bytes, bytes]))).toBe(0);
    left.end();
    expect(takenThread(0)).toBe(thread);
    thread.release();
  });
});

test('a call that fails is reported, and the thread goes on', () => {
  const taken = takenThread(0)!;
  const outside = taken.memory.byteLength;
  const turn = taken.begin('deflateStream', [
    0,
    1000,
    1,
    outside,
    outside,
    outside,
    outside,
    outside,
    outside,
    outside,
  ]);
  expect(() => taken.finish(turn)).toThrow('A kernel failed');
  taken.release();
  expectSame(plain(60_000, (r) => `B${r},Hask,${r},1`));
});
