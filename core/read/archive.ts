/** Zip archives (ISO/IEC 21320-1), within limits. */
import { type UnzipFileInfo, unzipSync, zipSync } from 'fflate';
import { decoderOf } from '../values/decoder.ts';
import { ReadFailure } from './read-failure.ts';

/** Bytes that an archive may hold when it is unpacked. */
const MOST_UNPACKED = 1_073_741_824;
const MOST_ENTRIES = 20_000;

export interface ArchiveFile {
  name: string;
  bytes: Uint8Array;
}

/**
 * What stands in an archive, without unpacking it.
 * @throws ReadFailure when it is cut off, or would hold more than MOST_UNPACKED
 */
function archiveEntries(bytes: Uint8Array, file: string): UnzipFileInfo[] {
  const entries: UnzipFileInfo[] = [];
  unpack(bytes, file, (entry) => {
    entries.push(entry);
    return false;
  });
  const size = entries.reduce((sum, entry) => sum + entry.originalSize, 0);
  if (size > MOST_UNPACKED) {
    throw new ReadFailure(
      file,
      `${file} would unpack to ${megabytes(size)} MB; at most ${megabytes(MOST_UNPACKED)} MB are unpacked. Unpack it yourself and give the files you need.`,
    );
  }
  if (entries.length > MOST_ENTRIES) {
    throw new ReadFailure(
      file,
      `${file} holds ${entries.length.toLocaleString('en-GB')} files; at most ${MOST_ENTRIES.toLocaleString('en-GB')} are read. Divide it.`,
    );
  }
  return entries;
}

/** What a zip is: a workbook, a document or slides in itself (Office Open XML or OpenDocument), or an archive of files. */
export function archiveKind(bytes: Uint8Array, file: string): 'workbook' | 'document' | 'slides' | 'files' {
  const names = archiveEntries(bytes, file).map((entry) => entry.name);
  if (names.includes('[Content_Types].xml')) {
    if (names.some((name) => name.startsWith('word/'))) return 'document';
    return names.some((name) => name.startsWith('ppt/')) ? 'slides' : 'workbook';
  }
  if (!names.includes('mimetype') || !names.includes('content.xml')) return 'files';
  const type = decoderOf('utf-8').decode(archiveEntry(bytes, file, 'mimetype') ?? new Uint8Array());
  if (type.includes('.text')) return 'document';
  return type.includes('.presentation') ? 'slides' : 'workbook';
}

/** One entry of an archive, or undefined where it is not there. @throws ReadFailure */
export function archiveEntry(bytes: Uint8Array, file: string, name: string): Uint8Array | undefined {
  return unpack(bytes, file, (entry) => entry.name === name)[name];
}

/**
 * The files of an archive, folders and the marks of file systems left out.
 * @throws ReadFailure
 */
export function archiveFiles(bytes: Uint8Array, file: string): ArchiveFile[] {
  archiveEntries(bytes, file);
  const unpacked = unpack(bytes, file, (entry) => !isMark(entry.name));
  const files = Object.entries(unpacked).map(([name, content]) => ({ name, bytes: content }));
  if (files.length === 0) throw new ReadFailure(file, `${file} holds no files.`);
  return files;
}

function isMark(name: string): boolean {
  return name.endsWith('/') || name.startsWith('__MACOSX/') || /(?:^|\/)\.[^/]*$/.test(name);
}

/** Several files as one source: a zip that does not compress. */
export function bundleFiles(files: readonly ArchiveFile[]): Uint8Array<ArrayBuffer> {
  const entries: Record<string, Uint8Array> = {};
  for (const { name, bytes } of files) {
    let own = name;
    for (let n = 2; own in entries; n++) own = name.replace(/(\.[^.]*)?$/, ` ${n}$1`);
    entries[own] = bytes;
  }
  return zipSync(entries, { level: 0, mtime: new Date(1980, 0, 1) }) as Uint8Array<ArrayBuffer>;
}

/**
 * The same archive for readers that keep no limit of their own. No entry unpacks to more than it says, so one whose
 * directory understates what it holds is refused here.
 * @throws ReadFailure
 */
export function withinLimits(bytes: Uint8Array, file: string): Uint8Array {
  archiveEntries(bytes, file);
  // Deflate packs at most 1032 to one (RFC 1951): a small archive cannot pass the limit, whatever it says.
  if (bytes.length * 1032 < MOST_UNPACKED) return bytes;
  return zipSync(
    unpack(bytes, file, () => true),
    { level: 0 },
  );
}

function unpack(
  bytes: Uint8Array,
  file: string,
  filter: (entry: UnzipFileInfo) => boolean,
): Record<string, Uint8Array> {
  try {
    return unzipSync(bytes, { filter });
  } catch (error) {
    throw new ReadFailure(
      file,
      `${file} is a zip archive that is cut off, broken or locked with a password (${(error as Error).message}). Ask for it again, or unpack it yourself and give the files.`,
    );
  }
}

function megabytes(size: number): string {
  return Math.round(size / 1_000_000).toLocaleString('en-GB');
}
