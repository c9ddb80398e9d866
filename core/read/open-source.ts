import { unpackAhead } from './archive.ts';
import { filesOfMail } from './mail.ts';
import { openPages } from './pdf/opened-pages.ts';
import { ReadFailure } from './read-failure.ts';
import { keepFiles, openFiles } from './read-files.ts';
import { type SourceFormat, sniff } from './sniff.ts';
import { openTables } from './tables/opened-tables.ts';
import { unwrapped } from './unwrap.ts';

/**
 * Does what takes a library or the platform a while, so that a source can then be read at once: large entries of
 * archives are unpacked, pages and messages are taken apart. Whoever sets a source calls it with the same bytes
 * before. What goes wrong is reported when the source is read.
 * @param progress told the share that is done of a file, where it takes a while
 */
export async function openSource(
  given: Uint8Array,
  name: string,
  progress: (done: number) => void = () => undefined,
): Promise<void> {
  const format = formatOf(given, name);
  if (format === undefined || format === 'text') return;
  const { bytes, name: file } = unwrapped({ bytes: given, name });
  if (format === 'pages') await openPages(bytes, file, progress);
  else if (format === 'tables') await openTables(bytes, file);
  else if (format === 'files') {
    if (bytes[0] === 0x50) await unpackAhead(bytes, file);
    else await openMail(bytes, file);
    for (const one of openFiles({ name: file, bytes })) await openSource(one.bytes, one.name, progress);
  } else await unpackAhead(bytes, file);
}

async function openMail(bytes: Uint8Array, file: string): Promise<void> {
  try {
    keepFiles(bytes, await filesOfMail(bytes, file));
  } catch (error) {
    if (!(error instanceof ReadFailure)) throw error;
    keepFiles(bytes, error);
  }
}

function formatOf(bytes: Uint8Array, file: string): SourceFormat | undefined {
  try {
    return sniff(bytes, file);
  } catch (error) {
    if (error instanceof ReadFailure) return undefined;
    throw error;
  }
}
