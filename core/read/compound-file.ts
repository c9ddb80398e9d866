import { CFB } from '@e965/xlsx';

/** A compound file (MS-CFB) by its first bytes. */
export const isCompoundFile = (bytes: Uint8Array): boolean => bytes[0] === 0xd0 && bytes[1] === 0xcf;

/** The names that the stream of a workbook has, by version. */
export const BOOK_STREAMS = ['Workbook', 'Book'];

/**
 * A compound file whose last sector is not whole, filled up: some programs do not write its end. Only where nothing
 * of the workbook itself is missing: where its stream is the same whatever the missing bytes were.
 *
 * @returns the same bytes where the file is whole, or where cells would be lost
 */
export function withWholeSectors(bytes: Uint8Array): Uint8Array {
  if (!isCompoundFile(bytes) || bytes.length < 512) return bytes;
  const sector = 1 << Math.min(bytes[30]!, 12);
  const missing = (sector - (bytes.length % sector)) % sector;
  if (missing === 0) return bytes;
  const filled = (byte: number) => {
    const whole = new Uint8Array(bytes.length + missing).fill(byte, bytes.length);
    whole.set(bytes);
    return whole;
  };
  const whole = filled(0);
  const [one, other] = [bookStream(whole), bookStream(filled(1))];
  if (one === undefined) return bytes;
  // Where the other is no file at all, the missing bytes are of its directory or its table of sectors.
  return other === undefined || sameBefore(one, other, endOfRecords(one)) ? whole : bytes;
}

function bookStream(bytes: Uint8Array): Uint8Array | undefined {
  try {
    const container = CFB.read(bytes, { type: 'array' });
    const entry = BOOK_STREAMS.map((name) => CFB.find(container, name)).find((found) => found !== null);
    return entry === undefined ? undefined : Uint8Array.from(entry!.content as ArrayLike<number>);
  } catch {
    return undefined;
  }
}

/** Records of a workbook stream (MS-XLS 2.1.4): type, and where its data lie. */
export function* recordsOf(stream: Uint8Array): Generator<{ type: number; at: number; length: number }> {
  const view = new DataView(stream.buffer, stream.byteOffset, stream.byteLength);
  for (let at = 0; at + 4 <= stream.length; ) {
    const length = Math.min(view.getUint16(at + 2, true), stream.length - at - 4);
    yield { type: view.getUint16(at, true), at: at + 4, length };
    at += 4 + length;
  }
}

const END_OF_SHEET = 0x0a;

/** Behind the last record that ends a sheet; what follows fills the sector. */
function endOfRecords(stream: Uint8Array): number {
  let end = stream.length;
  for (const { type, at } of recordsOf(stream)) if (type === END_OF_SHEET) end = at;
  return end;
}

function sameBefore(one: Uint8Array, other: Uint8Array, end: number): boolean {
  return other.length >= end && one.subarray(0, end).every((byte, k) => byte === other[k]);
}
