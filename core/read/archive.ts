/** Zip archives (ISO/IEC 21320-1): read within limits, with every size and check sum held against what is unpacked. */

import { inflateSync, zipSync } from 'fflate';
import { decoderOf } from '../table/decoder.ts';
import { grouped } from '../values/counted.ts';
import { numberedFile } from '../values/free-name.ts';
import { crc32 } from './crc32.ts';
import { ReadFailure } from './read-failure.ts';

/** Bytes that a source may hold when it is unpacked, with all archives in it. */
const MAX_UNPACKED = 1_073_741_824;
/** A source may always unpack to this size; beyond it, to a multiple of its packed size. Reports seldom pack better than 50 to 1. */
const ALWAYS_UNPACKED = 268_435_456;
const MAX_TIMES = 200;
const MAX_ENTRIES = 20_000;
/** Deflate packs at most this number of bytes into one (RFC 1951: 258 bytes in two bits). */
const DEFLATE_TIMES = 1032;

export interface ArchiveFile {
  name: string;
  bytes: Uint8Array;
}

/** An entry of an archive, as its directory has it. */
interface Entry {
  name: string;
  /** 0: as it is, 8: deflate. */
  method: number;
  locked: boolean;
  crc: number;
  packed: number;
  size: number;
  /** Where its local header begins. */
  offset: number;
}

/** What a source may still unpack to. The files in an archive share that of the archive. */
export class UnpackBudget {
  private readonly counted = new WeakSet<Uint8Array>();

  /** @param left bytes */
  constructor(private left: number) {}

  static for(bytes: Uint8Array): UnpackBudget {
    return new UnpackBudget(Math.min(MAX_UNPACKED, Math.max(ALWAYS_UNPACKED, MAX_TIMES * bytes.length)));
  }

  /** @throws ReadFailure when there is no room for so much */
  check(size: number, file: string): void {
    if (size > this.left) throw this.tooLarge(size, file);
  }

  /** Counts what an archive unpacks to, once however often it is read. @throws ReadFailure when there is not so much room */
  take(archive: Uint8Array, size: number, file: string): void {
    if (this.counted.has(archive)) return;
    this.check(size, file);
    this.counted.add(archive);
    this.left -= size;
  }

  private tooLarge(size: number, file: string): ReadFailure {
    return new ReadFailure(
      file,
      `${file} would unpack to ${megabytes(size)} MB, where there is room for ${megabytes(this.left)} MB: at most ${megabytes(MAX_UNPACKED)} MB of a source are unpacked, and beyond ${megabytes(ALWAYS_UNPACKED)} MB at most ${MAX_TIMES} times its size. Unpack it yourself and give the files you need.`,
    );
  }
}

/** What a zip is: a workbook, a document or slides in itself (Office Open XML or OpenDocument), or an archive of files. */
export function archiveKind(bytes: Uint8Array, file: string): 'workbook' | 'document' | 'slides' | 'files' {
  const names = directoryOf(bytes, file).map((entry) => entry.name);
  if (names.includes('[Content_Types].xml')) {
    if (names.some((name) => name.startsWith('word/'))) return 'document';
    return names.some((name) => name.startsWith('ppt/')) ? 'slides' : 'workbook';
  }
  if (!names.includes('mimetype') || !names.includes('content.xml')) return 'files';
  const type = decoderOf('utf-8').decode(archiveEntry(bytes, file, 'mimetype') ?? new Uint8Array());
  if (type.includes('.text')) return 'document';
  return type.includes('.presentation') ? 'slides' : 'workbook';
}

export function hasEntry(bytes: Uint8Array, file: string, name: string): boolean {
  return directoryOf(bytes, file).some((entry) => entry.name === name);
}

/** One entry of an archive, or undefined where it is not there. @throws ReadFailure */
export function archiveEntry(
  bytes: Uint8Array,
  file: string,
  name: string,
  room = UnpackBudget.for(bytes),
): Uint8Array | undefined {
  const entry = directoryOf(bytes, file).find((one) => one.name === name);
  if (entry === undefined) return undefined;
  room.take(bytes, entry.size, file);
  return unpacked(bytes, file, entry);
}

/**
 * The files of an archive, folders and the marks of file systems left out. Of several files of one name the later ones
 * get a number.
 * @throws ReadFailure
 */
export function archiveFiles(bytes: Uint8Array, file: string, room = UnpackBudget.for(bytes)): ArchiveFile[] {
  const entries = directoryOf(bytes, file).filter((entry) => !isMark(entry.name));
  if (entries.length === 0) throw new ReadFailure(file, `${file} holds no files.`);
  room.take(bytes, sizeOf(entries), file);
  const taken = new Set<string>();
  return entries.map((entry) => ({ name: freeEntryName(entry.name, taken), bytes: unpacked(bytes, file, entry) }));
}

function isMark(name: string): boolean {
  return name.endsWith('/') || name.startsWith('__MACOSX/') || /(?:^|\/)\.[^/]*$/.test(name);
}

/** Several files as one source: a zip that does not compress. */
export function bundleFiles(files: readonly ArchiveFile[]): Uint8Array<ArrayBuffer> {
  // An object cannot hold this name as an ordinary key.
  const taken = new Set(['__proto__']);
  return stored(files.map(({ name, bytes }) => [freeEntryName(name, taken), bytes]));
}

/**
 * All files of an archive by their names, for readers that have no limits and check no sums themselves.
 * @throws ReadFailure when it is damaged, too large, or holds two parts of one name
 */
export function checkedFiles(bytes: Uint8Array, file: string, room = UnpackBudget.for(bytes)): Map<string, Uint8Array> {
  const entries = directoryOf(bytes, file).filter((entry) => !entry.name.endsWith('/'));
  const names = new Set<string>();
  for (const { name } of entries) {
    if (names.has(name)) throw damaged(file, `it contains two entries named ${name}`);
    names.add(name);
  }
  room.take(bytes, sizeOf(entries), file);
  return new Map(entries.map((entry) => [entry.name, unpacked(bytes, file, entry)]));
}

/** Files as an archive that does not compress. An object cannot hold the name __proto__ as an ordinary key. */
export function stored(files: Iterable<readonly [name: string, bytes: Uint8Array]>): Uint8Array<ArrayBuffer> {
  const entries = Object.fromEntries([...files].filter(([name]) => name !== '__proto__'));
  return zipSync(entries, { level: 0, mtime: new Date(1980, 0, 1) }) as Uint8Array<ArrayBuffer>;
}

/** The name, with a number before its ending where it is taken. */
export function freeEntryName(name: string, taken: Set<string>): string {
  let own = name;
  for (let n = 2; taken.has(own); n++) own = numberedFile(name, n);
  taken.add(own);
  return own;
}

function sizeOf(entries: readonly Entry[]): number {
  return entries.reduce((sum, entry) => sum + entry.size, 0);
}

/** Signatures and lengths of the records, as the format has them (PKWARE APPNOTE 6.3, sections 4.3.7 to 4.3.16). */
const LOCAL = 0x04034b50;
const CENTRAL = 0x02014b50;
const END = 0x06054b50;
const END_64 = 0x06064b50;
const LOCATOR_64 = 0x07064b50;
const MAX_COMMENT = 65_535;

/**
 * What stands in an archive, without unpacking it.
 * @throws ReadFailure when it is cut off, says what cannot be, or holds more entries than are read
 */
function directoryOf(bytes: Uint8Array, file: string): Entry[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  try {
    const entries = entriesOf(view, bytes, file);
    if (entries.reduce((sum, entry) => sum + entry.packed, 0) > bytes.length)
      throw damaged(file, 'its entries overlap');
    return entries;
  } catch (error) {
    if (error instanceof RangeError) throw damaged(file, 'its directory points outside of it');
    throw error;
  }
}

function entriesOf(view: DataView, bytes: Uint8Array, file: string): Entry[] {
  const end = endOf(view);
  if (end < 0) throw damaged(file, 'its directory is not there, as when the end is cut off');
  let count = view.getUint16(end + 10, true);
  let size = view.getUint32(end + 12, true);
  let from = view.getUint32(end + 16, true);
  let behind = end;
  if ((count === 0xffff || size === 0xffffffff || from === 0xffffffff) && end >= 20) {
    if (view.getUint32(end - 20, true) === LOCATOR_64) {
      behind = large(view, end - 12);
      if (view.getUint32(behind, true) !== END_64) throw damaged(file, 'its directory is not where it says');
      count = large(view, behind + 32);
      size = large(view, behind + 40);
      from = large(view, behind + 48);
    }
  }
  if (count > MAX_ENTRIES) {
    throw new ReadFailure(
      file,
      `${file} holds ${grouped(count)} files; at most ${grouped(MAX_ENTRIES)} are read. Divide it.`,
    );
  }
  // A program may stand before an archive that unpacks itself: all places count from behind it.
  const shift = behind - size - from;
  if (shift < 0) throw damaged(file, 'its directory is not where it says');
  const entries: Entry[] = [];
  let at = from + shift;
  for (let k = 0; k < count; k++) {
    if (at + 46 > end || view.getUint32(at, true) !== CENTRAL) throw damaged(file, 'its directory is broken');
    const flags = view.getUint16(at + 8, true);
    const nameLength = view.getUint16(at + 28, true);
    const extraLength = view.getUint16(at + 30, true);
    const entry: Entry = {
      name: nameOf(bytes.subarray(at + 46, at + 46 + nameLength)),
      method: view.getUint16(at + 10, true),
      locked: (flags & 1) !== 0,
      crc: view.getUint32(at + 16, true),
      packed: view.getUint32(at + 20, true),
      size: view.getUint32(at + 24, true),
      offset: view.getUint32(at + 42, true),
    };
    widen(view, entry, at + 46 + nameLength, extraLength);
    entry.offset += shift;
    if (entry.method === 8 && entry.size > entry.packed * DEFLATE_TIMES)
      throw damaged(file, `${entry.name} says that it holds more than can be packed into it`);
    entries.push(entry);
    at += 46 + nameLength + extraLength + view.getUint16(at + 32, true);
  }
  return entries;
}

/** Where the end of the directory begins, looked for from behind; -1 where there is none. */
function endOf(view: DataView): number {
  const last = view.byteLength - 22;
  for (let at = last; at >= Math.max(0, last - MAX_COMMENT); at--) {
    if (view.getUint32(at, true) === END && at + 22 + view.getUint16(at + 20, true) <= view.byteLength) return at;
  }
  return -1;
}

/** Sizes past 4 GiB stand in their own field (Zip64). */
function widen(view: DataView, entry: Entry, from: number, length: number): void {
  for (let at = from; at + 4 <= from + length; ) {
    const [id, size] = [view.getUint16(at, true), view.getUint16(at + 2, true)];
    if (id === 1) {
      let next = at + 4;
      for (const of of ['size', 'packed', 'offset'] as const) {
        if (entry[of] !== 0xffffffff) continue;
        entry[of] = large(view, next);
        next += 8;
      }
    }
    at += 4 + size;
  }
}

/** A whole number of eight bytes. @throws RangeError past 2^53 */
function large(view: DataView, at: number): number {
  const value = view.getBigUint64(at, true);
  if (value > Number.MAX_SAFE_INTEGER) throw new RangeError();
  return Number(value);
}

/** Some programs of Windows divide folders by backslashes (APPNOTE 4.4.17 wants slashes). */
function nameOf(bytes: Uint8Array): string {
  return nameAsStored(bytes).replaceAll('\\', '/');
}

function nameAsStored(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    // Names of old programs are in the code page of their machine, which the archive does not tell.
    return decoderOf('windows-1252').decode(bytes);
  }
}

/** What was unpacked ahead, by archive and place; taken out when it is read. */
const ahead = new WeakMap<Uint8Array, Map<number, Uint8Array>>();
/** Smaller entries are unpacked as fast where they are read. */
const MIN_AHEAD = 262_144;

/**
 * Unpacks the large entries of an archive by the platform, which is several times as fast as we are but answers later:
 * whoever reads the same bytes afterwards finds them. Nothing is checked yet, and what goes wrong is reported then.
 */
export async function unpackAhead(bytes: Uint8Array, file: string): Promise<void> {
  try {
    const large = directoryOf(bytes, file).filter((entry) => entry.method === 8 && entry.size > MIN_AHEAD);
    UnpackBudget.for(bytes).take(bytes, sizeOf(large), file);
    const found = new Map<number, Uint8Array>();
    ahead.set(bytes, found);
    await Promise.all(
      large.map(async (entry) => {
        const content = await streamed(packedBytes(bytes, file, entry), entry.size);
        if (content !== undefined) found.set(entry.offset, content);
      }),
    );
  } catch {
    // Whoever reads it meets the same trouble, and says so.
  }
}

/** Inflates by the platform; undefined where it holds more or less than is said. */
async function streamed(packed: Uint8Array, size: number): Promise<Uint8Array | undefined> {
  const stream = new DecompressionStream('deflate-raw');
  const writer = stream.writable.getWriter();
  const written = writer.write(packed as Uint8Array<ArrayBuffer>).then(() => writer.close());
  // What goes wrong with it goes wrong with what is read too.
  written.catch(() => undefined);
  const reader = stream.readable.getReader();
  const out = new Uint8Array(size);
  let at = 0;
  for (let next = await reader.read(); !next.done; next = await reader.read()) {
    const piece = next.value!;
    if (at + piece.length > size) {
      await reader.cancel();
      return undefined;
    }
    out.set(piece, at);
    at += piece.length;
  }
  await written;
  return at === size ? out : undefined;
}

/** @throws ReadFailure when it is locked, cut off, or not what the archive says that it is */
function unpacked(bytes: Uint8Array, file: string, entry: Entry): Uint8Array {
  if (entry.locked) {
    throw new ReadFailure(
      file,
      `${file} is locked with a password. Unpack it yourself and give the files, or ask for it without one.`,
    );
  }
  const before = ahead.get(bytes);
  const known = before?.get(entry.offset);
  before?.delete(entry.offset);
  const packed = packedBytes(bytes, file, entry);
  const content = known ?? (entry.method === 0 ? packed : inflated(packed, file, entry));
  if (content.length !== entry.size || crc32(content) !== entry.crc)
    throw damaged(file, `${entry.name} is not what the archive's check sum says`);
  return content;
}

function packedBytes(bytes: Uint8Array, file: string, entry: Entry): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (entry.offset + 30 > bytes.length || view.getUint32(entry.offset, true) !== LOCAL)
    throw damaged(file, `${entry.name} is not where the directory says`);
  const from = entry.offset + 30;
  const nameLength = view.getUint16(entry.offset + 26, true);
  const start = from + nameLength + view.getUint16(entry.offset + 28, true);
  if (nameOf(bytes.subarray(from, from + nameLength)) !== entry.name)
    throw damaged(file, `${entry.name} does not match its name in the directory of the archive`);
  if (start + entry.packed > bytes.length) throw damaged(file, `${entry.name} is cut off`);
  return bytes.subarray(start, start + entry.packed);
}

function inflated(packed: Uint8Array, file: string, entry: Entry): Uint8Array {
  if (entry.method !== 8) {
    throw new ReadFailure(
      file,
      `${file} packs ${entry.name} in a way that is not read here. Unpack it yourself and give the files, or pack it as an ordinary zip.`,
    );
  }
  try {
    // One byte more than it says: what holds more is found out and takes no further room.
    return inflateSync(packed, { out: new Uint8Array(entry.size + 1) });
  } catch {
    throw damaged(file, `${entry.name} cannot be unpacked`);
  }
}

function damaged(file: string, why: string): ReadFailure {
  return new ReadFailure(file, `${file} is damaged or cut off: ${why}. Ask for it again.`);
}

function megabytes(size: number): string {
  return grouped(Math.round(size / 1_000_000));
}
