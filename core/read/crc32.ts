import { FREE_FROM, kernels } from '../kernels/kernels.ts';
import { KERNEL_BYTES } from '../kernels/window.ts';

/** Remainders of all bytes by the polynomial 0xedb88320, least bit first; then of bytes that stand before 1 to 7 others. */
const TABLES = Array.from({ length: 8 }, () => new Uint32Array(256));
for (let byte = 0; byte < 256; byte++) {
  let rest = byte;
  for (let bit = 0; bit < 8; bit++) rest = (rest & 1) === 1 ? (rest >>> 1) ^ 0xedb88320 : rest >>> 1;
  TABLES[0]![byte] = rest;
}
for (let k = 1; k < 8; k++)
  for (let byte = 0; byte < 256; byte++) {
    const before = TABLES[k - 1]![byte]!;
    TABLES[k]![byte] = (before >>> 8) ^ TABLES[0]![before & 255]!;
  }

/** Bytes that are given to the kernel at a time. */
const PIECE = 131_072;
let made: ReturnType<typeof kernels>;

/**
 * The check sum of zip archives (ISO 3309, CRC-32), without a sign.
 * @param before that of the bytes before these
 * @param kernelFrom bytes from which the kernel works it out, where there is one
 */
export function crc32(bytes: Uint8Array, { before = 0, kernelFrom = KERNEL_BYTES } = {}): number {
  if (bytes.length < kernelFrom) return plainCrc32(bytes, before);
  made ??= kernels(PIECE);
  if (made === undefined) return plainCrc32(bytes, before);
  const window = new Uint8Array(made.memory, FREE_FROM, PIECE);
  let sum = before;
  for (let at = 0; at < bytes.length; at += PIECE) {
    const piece = bytes.subarray(at, at + PIECE);
    window.set(piece);
    sum = made.kernels.crc32(FREE_FROM, FREE_FROM + piece.length, sum);
  }
  return sum >>> 0;
}

/** Eight bytes at a time. */
function plainCrc32(bytes: Uint8Array, before: number): number {
  const [a, b, c, d, e, f, g, h] = TABLES as [
    Uint32Array,
    Uint32Array,
    Uint32Array,
    Uint32Array,
    Uint32Array,
    Uint32Array,
    Uint32Array,
    Uint32Array,
  ];
  let rest = ~before;
  let at = 0;
  for (const end = bytes.length - 8; at <= end; at += 8) {
    rest ^= bytes[at]! | (bytes[at + 1]! << 8) | (bytes[at + 2]! << 16) | (bytes[at + 3]! << 24);
    rest =
      h[rest & 255]! ^
      g[(rest >>> 8) & 255]! ^
      f[(rest >>> 16) & 255]! ^
      e[rest >>> 24]! ^
      d[bytes[at + 4]!]! ^
      c[bytes[at + 5]!]! ^
      b[bytes[at + 6]!]! ^
      a[bytes[at + 7]!]!;
  }
  for (; at < bytes.length; at++) rest = (rest >>> 8) ^ a[(rest ^ bytes[at]!) & 255]!;
  return ~rest >>> 0;
}
