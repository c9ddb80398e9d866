import { FREE_FROM } from '../../kernels/kernels.ts';
import { Places } from '../../kernels/window.ts';
import { parquetKernel } from './kernel.ts';
import type { PageBytes } from './page-bytes.ts';

/** Values that are packed together. */
const GROUP = 8;
/** Runs from this number of equal values on are stored once with their count. */
const RUN = 16;
/** Fewer values are packed as fast without a kernel. */
const MIN_VALUES = 1024;

/**
 * Small whole numbers, equal ones that follow each other as one, others in as few bits as the largest needs: 'RLE /
 * bit-packing hybrid' of Apache Parquet (Encodings.md), without a length before it.
 * @param width bits of a value; a row group needs 17 at most
 * @param kernelFrom values from which a kernel packs them, where there is one
 */
export function addHybrid(
  out: PageBytes,
  values: Int32Array | Uint8Array,
  width: number,
  kernelFrom = MIN_VALUES,
): void {
  const packed = values.length < kernelFrom ? undefined : byKernel(values, width);
  if (packed !== undefined) out.put(packed);
  else addByValue(out, values, width);
}

function byKernel(values: Int32Array | Uint8Array, width: number): Uint8Array | undefined {
  const places = new Places(FREE_FROM);
  const from = places.take(values.byteLength);
  // Heads of runs and of groups take as much as what they stand for at most.
  const out = places.take(values.length * 4 + 64);
  const made = parquetKernel(places.take(0) - FREE_FROM);
  if (made === undefined) return undefined;
  const isBytes = values instanceof Uint8Array;
  if (isBytes) new Uint8Array(made.memory, from, values.length).set(values);
  else new Int32Array(made.memory, from, values.length).set(values);
  const end = made.kernels.hybrid(from, values.length, isBytes ? 0 : 2, width, out);
  return new Uint8Array(made.memory, out, end - out);
}

function addByValue(out: PageBytes, values: Int32Array | Uint8Array, width: number): void {
  const n = values.length;
  const valueBytes = Math.ceil(width / 8);
  out.room(10 + valueBytes + Math.ceil(n / GROUP) * width);
  let packedFrom = 0;
  let at = 0;
  while (at < n) {
    const value = values[at]!;
    let end = at + 1;
    while (end < n && values[end] === value) end++;
    if (end - at < RUN) {
      // Groups are whole: a run begins where one ends.
      at = packedFrom + Math.ceil((end - packedFrom) / GROUP) * GROUP;
      continue;
    }
    addPacked(out, values, packedFrom, at, width);
    out.varint((end - at) << 1);
    out.room(valueBytes);
    for (let k = 0; k < valueBytes; k++) out.bytes[out.length++] = value >>> (8 * k);
    packedFrom = end;
    at = end;
  }
  addPacked(out, values, packedFrom, n, width);
}

/** Values in groups of eight, the last filled up with zeros. */
function addPacked(out: PageBytes, values: Int32Array | Uint8Array, from: number, to: number, width: number): void {
  if (from === to) return;
  const groups = Math.ceil((to - from) / GROUP);
  out.varint((groups << 1) | 1);
  addBits(out, values, from, to, width);
}

/** Values in a given number of bits each, the lowest first, to a whole number of bytes for eight of them. */
function addBits(out: PageBytes, values: Int32Array | Uint8Array, from: number, to: number, width: number): void {
  const size = Math.ceil((to - from) / GROUP) * width;
  out.room(size);
  const { bytes } = out;
  const end = out.length + size;
  let at = out.length;
  let held = 0;
  let bits = 0;
  for (let k = from; k < to; k++) {
    const value = values[k]!;
    held |= value << bits;
    bits += width;
    if (bits < 32) continue;
    bytes[at] = held;
    bytes[at + 1] = held >>> 8;
    bytes[at + 2] = held >>> 16;
    bytes[at + 3] = held >>> 24;
    at += 4;
    bits -= 32;
    // What had no place; a shift by 32 would leave the value as it is.
    held = bits === 0 ? 0 : value >>> (width - bits);
  }
  for (; bits > 0; bits -= 8) {
    bytes[at++] = held;
    held >>>= 8;
  }
  bytes.fill(0, at, end);
  out.length = end;
}

/** Truth values, a bit each: 'PLAIN' of Parquet's BOOLEAN. */
export function addBooleans(out: PageBytes, values: Uint8Array): void {
  const { length } = out;
  addBits(out, values, 0, values.length, 1);
  out.length = length + Math.ceil(values.length / GROUP);
}

/** Bits that a number from 0 to this takes. */
export function bitsOf(most: number): number {
  return 32 - Math.clz32(most);
}
