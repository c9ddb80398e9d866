/** Files that are packed alone with gzip (RFC 1952) are what is in them. */

import { Gunzip } from 'fflate';
import { UnpackBudget } from './archive.ts';
import { crc32 } from './crc32.ts';
import { Opened } from './opened.ts';
import { ReadFailure } from './read-failure.ts';
import type { Source } from './read-kind.ts';

const unpacked = new Opened<Uint8Array>();

export function isGzip(bytes: Uint8Array): boolean {
  return bytes[0] === 0x1f && bytes[1] === 0x8b && bytes[2] === 8;
}

/**
 * What a source packed with gzip holds, under its name without the ending; any other source as it is.
 * @throws ReadFailure when it is damaged or too large
 */
export function unwrapped(source: Source): Source {
  if (!isGzip(source.bytes)) return source;
  const bytes =
    unpacked.get(source.bytes) ?? gunzipped(source.bytes, source.name, source.room ?? UnpackBudget.for(source.bytes));
  unpacked.set(source.bytes, bytes);
  return { name: source.name.replace(/\.gz$/i, ''), bytes };
}

/** The packed bytes are given in pieces, so that no more is unpacked than there is room for. */
const PIECE = 65_536;

function gunzipped(bytes: Uint8Array, file: string, room: UnpackBudget): Uint8Array {
  const pieces: Uint8Array[] = [];
  let size = 0;
  let members = 0;
  const gunzip = new Gunzip((piece) => {
    pieces.push(piece);
    size += piece.length;
  });
  gunzip.onmember = () => {
    members++;
  };
  try {
    for (let at = 0; at < bytes.length; at += PIECE) {
      gunzip.push(bytes.subarray(at, at + PIECE), at + PIECE >= bytes.length);
      room.check(size, file);
    }
  } catch (error) {
    if (error instanceof ReadFailure) throw error;
    throw damaged(file);
  }
  room.take(bytes, size, file);
  const out = new Uint8Array(size);
  let at = 0;
  for (const piece of pieces) {
    out.set(piece, at);
    at += piece.length;
  }
  const end = new DataView(bytes.buffer, bytes.byteOffset + Math.max(0, bytes.length - 8));
  // Of several members put behind each other only the last has its check sum at the end.
  const isWhole =
    bytes.length >= 18 && (members > 0 || (end.getUint32(4, true) === size && end.getUint32(0, true) === crc32(out)));
  if (!isWhole) throw damaged(file);
  return out;
}

function damaged(file: string): ReadFailure {
  return new ReadFailure(
    file,
    `${file} is packed with gzip, and damaged or cut off. Ask for it again, or unpack it yourself.`,
  );
}
